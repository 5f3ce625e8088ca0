import { barAt, createMusicalBars, drumName, musicalPlaces, pitchName } from '@ordle/core';
import { placeInWords } from '@/panels/notes/noteColumns';
import { NoteStory } from '@/panels/notes/NoteStory';
import { usePartView } from '@/music/partViewStore';
import { useOpenBench, type BenchState } from '@/music/useBench';

interface NoteTipProps {
  row: number;
  x: number;
  y: number;
  width: number;
}

/** The note under the pointer in words: what it is, how late, and how it came to be where it is. */
export function NoteTip({ row, x, y, width }: NoteTipProps) {
  const bench = useOpenBench();
  const { view } = usePartView();
  const { part, timeline } = bench;
  if (!view || !part || row >= view.notes.length) return null;
  return (
    <div
      className="pointer-events-none absolute z-10 w-72 rounded-medium border border-edge bg-sheet px-2.5 py-1.5 text-quiet"
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
        {aheadOf(view.notes.start, row)}
      </p>
      {view.pulledTo && (
        <p className="text-ink-2">
          {Number.isNaN(view.pulledTo[row])
            ? 'no stroke within reach'
            : `pulled toward the stroke at ${placeInWords(view.pulledTo[row], { timeline, time: bench.view.time })}`}
        </p>
      )}
      <NoteStory id={view.notes.id[row]} />
    </div>
  );

  /** Which bar a note played ahead of its line counts to. */
  function aheadOf(starts: Float64Array, at: number): string {
    const bar = createMusicalBars(timeline)(musicalPlaces(starts, timeline)[at]);
    return bar === barAt(timeline.meter, Math.max(0, starts[at])).number ? '' : `, counts to bar ${bar}`;
  }

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
