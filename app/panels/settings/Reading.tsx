import type { MoveReading } from '@ordle/core';
import { figures } from '@/words/counts';

/** What a step does, in figures and as a small picture: outline before, filled after. */
export function Reading({
  reading,
  squeezed,
  ink,
}: {
  reading: MoveReading | null;
  squeezed: number;
  ink: number;
}) {
  if (!reading) return null;
  const rows = [
    ['notes moved', `${figures(reading.moved)} of ${figures(reading.touched)}`],
    ['typical move', ms(reading.typicalMs)],
    ['largest move', ms(reading.largestMs)],
    ['spread left', `±${figure(reading.spreadBeforeMs)} → ±${ms(reading.spreadAfterMs)}`],
  ];
  return (
    <section
      aria-label="Reading"
      className="flex shrink-0 flex-col gap-1 border-t border-rule-strong px-3.5 pt-2 pb-2"
    >
      <Histogram reading={reading} ink={ink} />
      <dl aria-live="off">
        {rows.map(([name, value]) => (
          <div key={name} className="flex justify-between py-px">
            <dt className="text-ink-2">{name}</dt>
            <dd data-testid={name.replace(' ', '-')}>{value}</dd>
          </div>
        ))}
      </dl>
      {squeezed > 0 && (
        <p className="text-accent" data-testid="squeezed">
          {figures(squeezed)} notes from before the start were squeezed onto it.
        </p>
      )}
    </section>
  );
}

const figure = (value: number) => (value < 10 ? value.toFixed(1) : value.toFixed(0));
const ms = (value: number) => `${figure(value)} ms`;

const WIDTH = 234;
const HEIGHT = 46;

function Histogram({ reading, ink }: { reading: MoveReading; ink: number }) {
  const { histogramBefore: before, histogramAfter: after, histogramReachMs: reach } = reading;
  const most = Math.max(1, ...before);
  // Tightly quantized notes all fall into one bin; its bar is cut at the top rather than flattening the rest.
  const height = (count: number) => Math.min(HEIGHT, (count / most) * HEIGHT * 0.9);
  const step = WIDTH / before.length;
  // One path for all bars: dragging a slider changes one attribute, not sixty elements.
  const bars = (counts: Uint32Array, room: number) =>
    Array.from(counts, (count, bin) => {
      const [top, left, right] = [HEIGHT - height(count), bin * step + room, (bin + 1) * step - room];
      return count === 0 ? '' : `M${left} ${HEIGHT}V${top}H${right}V${HEIGHT}Z`;
    }).join('');
  return (
    <figure>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT + 1}`}
        className="w-full"
        role="img"
        aria-label={`Distances from the grid, before and after, from ${-reach} to ${reach} ms`}
      >
        <path d={`M0 ${HEIGHT + 0.5}H${WIDTH}`} stroke="var(--rule-strong)" />
        <path d={bars(after, 1)} fill={`var(--ink-part-${ink + 1})`} />
        <path d={bars(before, 0.5)} fill="none" stroke="var(--ink-3)" />
      </svg>
      <figcaption className="flex justify-between text-[0.7rem] text-ink-2">
        <span>−{reach} early</span>
        <span>0 ms</span>
        <span>late +{reach}</span>
      </figcaption>
    </figure>
  );
}
