import type { MoveReading } from '@ordle/core';
import type { ReactNode } from 'react';
import { counted, figures, msInWords } from '@/words/counts';

/** What a step does, in figures and as a small picture: outline before, filled after. */
export function Reading({
  reading,
  squeezed,
  ink,
  instead,
}: {
  reading: MoveReading | null;
  squeezed: number;
  ink: number;
  /** Stands where the picture would. */
  instead: ReactNode;
}) {
  return (
    <section aria-label="Effect" className="flex shrink-0 flex-col gap-1">
      {reading && (instead || <Histogram reading={reading} ink={ink} />)}
      {reading && <Moves reading={reading} />}
      {squeezed > 0 && (
        <p className="font-semibold" data-testid="squeezed">
          {counted(squeezed, 'note')} from before the start {squeezed === 1 ? 'was' : 'were'} squeezed onto
          it.
        </p>
      )}
    </section>
  );
}

/** How many moved, and how far off they are now, in a sentence. */
function Moves({ reading }: { reading: MoveReading }) {
  const { moved, touched, typicalMs, largestMs, spreadAfterMs } = reading;
  return (
    <p className="text-ink-2" aria-live="off">
      <span data-testid="notes-moved">
        {figures(moved)} of {figures(touched)}
      </span>{' '}
      notes moved
      {moved > 0 && (
        <>
          , usually by <span data-testid="typical-move">{msInWords(typicalMs)}</span> ms, at most{' '}
          <span data-testid="largest-move">{msInWords(largestMs)} ms</span>
        </>
      )}
      {touched > 0 && (
        <>
          ; the notes are <span data-testid="spread-left">{msInWords(spreadAfterMs)} ms</span> off the grid
          now
        </>
      )}
      .
    </p>
  );
}

const WIDTH = 234;
const HEIGHT = 46;

function Histogram({ reading, ink }: { reading: MoveReading; ink: number }) {
  const { histogramBefore: before, histogramAfter: after, histogramReachMs: reach } = reading;
  const most = Math.max(1, ...before);
  // Tightly quantized notes all fall into one bin; its bar is cut at the top rather than flattening the rest.
  const height = (count: number) => Math.min(HEIGHT, (count / most) * HEIGHT * 0.9);
  const step = WIDTH / before.length;
  // A bar that is cut at the top says so by a gap of paper.
  const cuts = [...after.keys()].filter((bin) => (after[bin] / most) * HEIGHT * 0.9 > HEIGHT);
  const { beyond } = reading;
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
        {cuts.map((bin) => (
          <path
            key={bin}
            d={`M${bin * step} 7L${(bin + 1) * step} 3V6L${bin * step} 10Z`}
            fill="var(--ground)"
          />
        ))}
      </svg>
      <figcaption className="flex justify-between text-quiet text-ink-2">
        <span>−{reach} ms early</span>
        <span>
          {beyond.before + beyond.after > 0
            ? `outside: ${figures(beyond.before)}, now ${figures(beyond.after)}`
            : '0'}
        </span>
        <span>late +{reach} ms</span>
      </figcaption>
    </figure>
  );
}
