import { quartersOf, type GroovePattern } from '@ordle/core';
import { useEffect, useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { signed } from './formProps';

interface GrooveEditorProps {
  groove: GroovePattern;
  /** A byte a point: 1 where the groove rests on too little to be trusted. */
  weak: boolean[] | null;
  disabled: boolean;
  onChange(label: string, groove: GroovePattern, gesture: string): void;
  onAbandon(gesture: string): void;
}

const WIDTH = 234;
const HEIGHT = 74;
/** Room above and below the strokes. */
const MARGIN = 6;
const SHIFT_STEP = 0.01;
const ACCENT_STEP = 0.05;

/** A groove, large: each stroke is dragged sideways for its shift and up and down for its accent. */
export function GrooveEditor({ groove, weak, disabled, onChange, onAbandon }: GrooveEditorProps) {
  const svg = useRef<SVGSVGElement>(null);
  const drag = useRef<{ point: number; gesture: string; pointer: number } | null>(null);
  const step = quartersOf(groove.grid);
  const scale = (WIDTH - 2 * MARGIN) / groove.beats;
  // Shifts are small beside a cycle: drawn larger, so that a whole step reaches halfway to the next line.
  const magnify = 2;
  const x = (beats: number) => MARGIN + (beats + step / 2) * scale * (groove.beats / (groove.beats + step));
  const y = (accent: number) => HEIGHT - 14 - accent * (HEIGHT - 14 - MARGIN);
  const limited = (shift: number) => Math.max(-step / 2, Math.min(step / 2, shift));

  useEffect(() => {
    const onKey = (event: globalThis.KeyboardEvent) => {
      if (event.key !== 'Escape' || !drag.current) return;
      onAbandon(drag.current.gesture);
      drag.current = null;
      event.stopPropagation();
    };
    window.addEventListener('keydown', onKey, true);
    return () => window.removeEventListener('keydown', onKey, true);
  }, [onAbandon]);

  function put(index: number, shift: number, accent: number, gesture: string) {
    const point = {
      ...groove.points[index],
      shift: Math.round(limited(shift) * 1000) / 1000,
      accent: Math.round(Math.min(1, Math.max(0, accent)) * 100) / 100,
    };
    onChange(
      `Shift ${beatInWords(point.at)} by ${signed(Math.round((point.shift / step) * 100))} % of a grid unit`,
      { ...groove, points: groove.points.with(index, point) },
      gesture,
    );
  }

  function onMove(event: PointerEvent) {
    const held = drag.current;
    const box = svg.current?.getBoundingClientRect();
    if (!held || !box) return;
    const [atX, atY] = [
      ((event.clientX - box.left) / box.width) * WIDTH,
      ((event.clientY - box.top) / box.height) * HEIGHT,
    ];
    const perBeat = (x(1) - x(0)) * magnify;
    put(
      held.point,
      (atX - x(groove.points[held.point].at)) / perBeat,
      (HEIGHT - 14 - atY) / (HEIGHT - 14 - MARGIN),
      held.gesture,
    );
  }

  function onKeyDown(event: KeyboardEvent, index: number) {
    const { shift, accent } = groove.points[index];
    const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    const up = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0;
    if (by === 0 && up === 0) return;
    event.preventDefault();
    event.stopPropagation();
    put(
      index,
      shift + by * SHIFT_STEP,
      accent + up * ACCENT_STEP,
      `groove-key-${index}-${Math.floor(event.timeStamp / 1000)}`,
    );
  }

  return (
    <figure>
      <svg
        ref={svg}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="w-full touch-none select-none"
        role="group"
        aria-label="Points of the groove"
        onPointerMove={onMove}
        onPointerUp={() => (drag.current = null)}
        onPointerCancel={() => (drag.current = null)}
      >
        <path d={`M0 ${HEIGHT - 14}H${WIDTH}`} stroke="var(--rule-strong)" />
        {groove.points.map((point, index) => {
          const line = x(point.at);
          const at = x(point.at + limited(point.shift) * magnify);
          const isWeak = weak?.[index] ?? false;
          return (
            <g
              key={point.at}
              role="slider"
              tabIndex={disabled ? -1 : 0}
              aria-label={`${beatInWords(point.at)}${isWeak ? ', unreliable' : ''}`}
              aria-valuemin={-50}
              aria-valuemax={50}
              aria-valuenow={Math.round((point.shift / step) * 100)}
              aria-valuetext={`shifted ${signed(Math.round((point.shift / step) * 100))} % of a step, accent ${Math.round(point.accent * 100)} %`}
              className={disabled ? '' : 'cursor-move'}
              onKeyDown={(event) => !disabled && onKeyDown(event, index)}
              onPointerDown={(event) => {
                if (disabled || event.button !== 0) return;
                drag.current = {
                  point: index,
                  gesture: `groove-point-${Date.now()}`,
                  pointer: event.pointerId,
                };
                svg.current?.setPointerCapture(event.pointerId);
              }}
            >
              <rect
                x={line - (x(step) - x(0)) / 2}
                y={0}
                width={x(step) - x(0)}
                height={HEIGHT}
                fill="transparent"
              />
              <path d={`M${line} ${HEIGHT - 14}V${HEIGHT - 8}`} stroke="var(--ink-3)" />
              <path
                d={`M${at} ${HEIGHT - 14}V${y(point.accent)}`}
                stroke={isWeak ? 'var(--ink-3)' : 'var(--ink)'}
                strokeWidth={2}
                strokeDasharray={isWeak ? '2 2' : undefined}
              />
              <circle
                cx={at}
                cy={y(point.accent)}
                r={3}
                fill={isWeak ? 'var(--sheet)' : 'var(--ink)'}
                stroke={isWeak ? 'var(--ink-3)' : 'var(--ink)'}
              />
              {Number.isInteger(point.at) && (
                <text x={line} y={HEIGHT - 0.5} textAnchor="middle" fontSize={9} fill="var(--ink-2)">
                  {point.at + 1}
                </text>
              )}
            </g>
          );
        })}
      </svg>
      <figcaption className="text-quiet text-ink-2">
        {weak?.some(Boolean)
          ? 'Dashed points rest on fewer than two strokes, or on strokes far apart: do not trust them.'
          : 'Drag a stroke sideways for its shift, up and down for its accent.'}
      </figcaption>
    </figure>
  );
}

/** "beat 2" on the beat, "beat 2.25" between. */
const beatInWords = (at: number): string => `beat ${Math.round((at + 1) * 1000) / 1000}`;
