import { mappedVelocity, type InputMap } from '@ordle/core';
import { useRef, useState } from 'react';
import { useMonitor } from '@/recording/monitor';
import { NumberField } from '@/ui';

const SIZE = 150;

/**
 * The curve from struck to written velocity: corners are dragged, a double click adds or takes one; a dot tells the
 * last stroke.
 */
export function VelocityCurve({
  map,
  onChange,
}: {
  map: InputMap;
  onChange(points: InputMap['velocity']): void;
}) {
  const { velocity } = useMonitor();
  const [drag, setDrag] = useState<{ at: number; points: InputMap['velocity'] } | null>(null);
  const svg = useRef<SVGSVGElement>(null);
  const points = drag?.points ?? map.velocity;
  const placeOf = ({ clientX, clientY }: { clientX: number; clientY: number }): [number, number] => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return [1, 1];
    const hold = (value: number) => Math.min(127, Math.max(1, Math.round(value)));
    return [
      hold(((clientX - box.left) / box.width) * 127),
      hold((1 - (clientY - box.top) / box.height) * 127),
    ];
  };
  const moved = (at: number, [x, y]: [number, number]): InputMap['velocity'] => {
    const before = points[at - 1];
    const after = points[at + 1];
    const isEnd = at === 0 || at === points.length - 1;
    const across = isEnd ? points[at][0] : Math.min(after[0] - 1, Math.max(before[0] + 1, x));
    const up = Math.min(after?.[1] ?? 127, Math.max(before?.[1] ?? 1, y));
    return points.with(at, [across, up]);
  };
  const xOf = (x: number) => (x / 127) * SIZE;
  const yOf = (y: number) => SIZE - (y / 127) * SIZE;
  return (
    <figure className="flex shrink-0 flex-col gap-1">
      <figcaption className="text-ink-2">Velocity, struck to written</figcaption>
      <svg
        ref={svg}
        role="img"
        aria-label={`Velocity curve: ${points.map(([x, y]) => `${x} becomes ${y}`).join(', ')}`}
        width={SIZE}
        height={SIZE}
        className="touch-none overflow-visible border border-edge bg-ground"
        onDoubleClick={(event) => {
          const [x, y] = placeOf(event);
          const near = points.findIndex(
            (point, at) => at > 0 && at < points.length - 1 && Math.abs(point[0] - x) < 6,
          );
          if (near > 0) onChange(points.toSpliced(near, 1));
          else if (points.every((point) => Math.abs(point[0] - x) > 2) && points.length < 16) {
            const next = points.findIndex((point) => point[0] > x);
            const held = Math.min(points[next][1], Math.max(points[next - 1][1], y));
            onChange(points.toSpliced(next, 0, [x, held]));
          }
        }}
        onPointerMove={(event) => drag && setDrag({ at: drag.at, points: moved(drag.at, placeOf(event)) })}
        onPointerUp={() => {
          if (drag) onChange(drag.points);
          setDrag(null);
        }}
        onPointerCancel={() => setDrag(null)}
      >
        <polyline
          points={[[0, points[0][1]], ...points, [127, points[points.length - 1][1]]]
            .map(([x, y]) => `${xOf(x)},${yOf(y)}`)
            .join(' ')}
          className="fill-none stroke-ink"
          strokeWidth={1.5}
        />
        {points.map(([x, y], at) => (
          <rect
            key={at}
            x={xOf(x) - 5}
            y={yOf(y) - 5}
            width={10}
            height={10}
            className="cursor-grab fill-sheet stroke-ink"
            onPointerDown={(event) => {
              svg.current?.setPointerCapture(event.pointerId);
              setDrag({ at, points: map.velocity });
            }}
          />
        ))}
        {velocity !== null && (
          <circle
            cx={xOf(velocity)}
            cy={yOf(mappedVelocity(points, velocity))}
            r={4}
            className="fill-accent"
          />
        )}
      </svg>
      <span className="flex gap-3 text-ink-2">
        soft
        <NumberField
          label="Softest"
          value={points[0][1]}
          min={1}
          max={points[1][1]}
          className="w-8"
          onCommit={(y) => onChange(moved(0, [1, y]))}
        />
        loud
        <NumberField
          label="Loudest"
          value={points[points.length - 1][1]}
          min={points[points.length - 2][1]}
          max={127}
          className="w-8"
          onCommit={(y) => onChange(moved(points.length - 1, [127, y]))}
        />
      </span>
    </figure>
  );
}
