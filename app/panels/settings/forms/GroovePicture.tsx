import { quartersOf, type GroovePattern } from '@ordle/core';

/** Lines of the grid as faint ticks, strokes where the groove puts them, as high as their accent. */
export function GroovePicture({ groove }: { groove: GroovePattern }) {
  const [width, height] = [104, 20];
  const step = quartersOf(groove.grid);
  const x = (beats: number) => 3 + (beats / groove.beats) * (width - 6);
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="w-full" aria-hidden="true">
      <path d={`M0 ${height - 0.5}H${width}`} stroke="var(--rule-strong)" />
      {groove.points.map(({ at, shift, accent }) => (
        <g key={at}>
          <path d={`M${x(at)} ${height}V${height - 4}`} stroke="var(--ink-3)" />
          {/* Shifts are small: drawn at twice their size, at most a step. */}
          <path
            d={`M${x(at + Math.max(-step, Math.min(step, shift * 2)))} ${height}V${height - 3 - accent * (height - 5)}`}
            stroke="var(--ink)"
            strokeWidth="1.5"
          />
        </g>
      ))}
    </svg>
  );
}
