import { drumName, pitchName } from '@ordle/core';
import { placeInWords } from './noteColumns';
import { NoteStory } from './NoteStory';
import { usePartView } from './partViewStore';
import type { BenchState } from './useBench';

interface NoteTipProps {
  bench: BenchState;
  row: number;
  x: number;
  y: number;
  width: number;
}

/** The note under the pointer in words: what it is, how late, and how it came to be where it is. */
export function NoteTip({ bench, row, x, y, width }: NoteTipProps) {
  const { view } = usePartView();
  const { part, timeline } = bench;
  if (!view || !part || row >= view.notes.length) return null;
  return (
    <div
      className="pointer-events-none absolute z-10 w-72 rounded-medium border border-rule-strong bg-sheet px-2.5 py-1.5 text-quiet"
      style={{
        left: Math.max(50, Math.min(x + 14, width - 300)),
        top: y > 190 ? undefined : y + 18,
        bottom: y > 190 ? `calc(100% - ${y - 12}px)` : undefined,
      }}
    >
      <p className="font-semibold">{noteInWords(bench, row)}</p>
      <p className="text-ink-2">
        at {placeInWords(view.notes.start[row], { timeline, time: bench.view.time })},{' '}
        {latenessInWords(view.late[row])}
      </p>
      {view.drawnTo && (
        <p className="text-ink-2">
          {Number.isNaN(view.drawnTo[row])
            ? 'no stroke within reach'
            : `drawn to the stroke at ${placeInWords(view.drawnTo[row], { timeline, time: bench.view.time })}`}
        </p>
      )}
      <NoteStory bench={bench} id={view.notes.id[row]} />
    </div>
  );

  function noteInWords({ view: look }: BenchState, at: number): string {
    if (!view || !part) return '';
    const pitch = view.notes.pitch[at];
    const name = (part.sound.drums ? drumName(pitch) : null) ?? pitchName(pitch, look.middleC);
    return `${name}, velocity ${Math.round(view.notes.velocity[at])}`;
  }
}

export function latenessInWords(ms: number): string {
  const whole = Math.round(ms);
  return whole === 0 ? 'on the grid' : `${Math.abs(whole)} ms ${whole > 0 ? 'late' : 'early'}`;
}
