import {
  changedIds,
  columnEditOf,
  laneName,
  pitchName,
  ticksToSeconds,
  type EditTable,
  type EditsStep,
  type NoteChange,
  type PartView,
} from '@ordle/core';
import { X } from 'lucide-react';
import { useMemo } from 'react';
import { placeInWords } from '@/panels/notes/noteColumns';
import { useOpenBench } from '@/music/useBench';
import { run } from '@/commands';
import { transport } from '@/sound/transport';
import { selectionStore } from '@/state/selection';
import { figures } from '@/words/counts';

/** What can be taken back of hand edits: what was done to one note, or one stretch of a lane. */
export type EntryOfEdits = { note: number } | { curve: number };

interface EditEntriesProps {
  step: EditsStep;
  /** Edits of many notes that the step names, once they are read. */
  table: EditTable | null;
  view: PartView | null;
  mayWrite: boolean;
  onRemove(entry: EntryOfEdits): void;
}

/** Entries listed at most: of thousands nobody reads more. */
const MOST_ENTRIES = 200;

interface Entry {
  of: EntryOfEdits;
  at: number | null;
  what: string;
}

/** Every hand edit by itself, in order of time: gone to, and taken back alone. */
export function EditEntries({ step, table, view, mayWrite, onRemove }: EditEntriesProps) {
  const { part, timeline, view: seen } = useOpenBench();
  /** The note is selected and brought into sight; of a lane the play line goes to where it was drawn. */
  const show = (of: EntryOfEdits, at: number) => {
    if (!part) return;
    if ('note' in of) {
      selectionStore.select(part.id, [of.note], of.note);
      // Once it is selected there is something to zoom to.
      setTimeout(() => run('zoom-selection'), 0);
    } else transport.locate(ticksToSeconds(timeline.tempo, at));
  };
  const words = useMemo(() => ({ timeline, time: seen.time }), [timeline, seen.time]);
  const entries = useMemo(
    () =>
      entriesOf(
        step,
        table,
        view,
        (tick) => placeInWords(tick, words),
        (pitch) => pitchName(pitch, seen.middleC),
      ),
    [step, table, view, words, seen.middleC],
  );
  if (entries.length === 0 || !part) return null;
  return (
    <details>
      <summary className="cursor-pointer text-ink-2">Every edit, {figures(entries.length)}</summary>
      <ul aria-label="Hand edits" className="mt-1 max-h-72 overflow-y-auto">
        {entries.slice(0, MOST_ENTRIES).map(({ of, at, what }) => (
          <li
            key={'note' in of ? `n${of.note}` : `c${of.curve}`}
            className="flex items-center gap-1 border-b border-rule"
          >
            <button
              type="button"
              disabled={at === null}
              title="Show it"
              className="min-w-0 grow truncate py-0.5 text-left hover:text-ink disabled:text-ink-2"
              onClick={() => at !== null && show(of, at)}
            >
              {at !== null && <b>{placeInWords(at, words)} </b>}
              {what}
            </button>
            <button
              type="button"
              aria-label={`Take back: ${what}`}
              disabled={!mayWrite}
              onClick={() => onRemove(of)}
              className="flex h-6 w-6 shrink-0 items-center justify-center text-ink-2 hover:text-ink"
            >
              <X size={12} aria-hidden="true" />
            </button>
          </li>
        ))}
        {entries.length > MOST_ENTRIES && (
          <li className="py-1 text-ink-2">and {figures(entries.length - MOST_ENTRIES)} more</li>
        )}
      </ul>
    </details>
  );
}

function entriesOf(
  step: EditsStep,
  table: EditTable | null,
  view: PartView | null,
  place: (tick: number) => string,
  pitch: (pitch: number) => string,
): Entry[] {
  const rows = new Map(Array.from(view?.notes.id ?? [], (id, row) => [id, row] as const));
  const startOf = (id: number) => {
    const row = rows.get(id);
    return row === undefined ? null : (view?.notes.start[row] ?? null);
  };
  const changes = new Map<number, NoteChange>(
    Object.entries(step.change).map(([id, change]) => [Number(id), change]),
  );
  if (table)
    for (const id of changedIds(table).slice(0, 2 * MOST_ENTRIES)) {
      const edit = columnEditOf(table, id);
      if (edit && edit !== 'deleted' && !changes.has(id)) changes.set(id, edit);
    }
  const list: Entry[] = [
    ...[...changes].map(([id, change]): Entry => ({
      of: { note: id },
      at: startOf(id) ?? change.start ?? null,
      what: changeInWords(change, place, pitch),
    })),
    ...step.add.map((note): Entry => ({
      of: { note: note.id ?? -1 },
      at: note.start,
      what: `${pitch(note.pitch)} added`,
    })),
    ...step.delete.map((id): Entry => ({ of: { note: id }, at: null, what: `note ${id} deleted` })),
    ...(step.curves ?? []).map(({ lane, from }, curve): Entry => ({
      of: { curve },
      at: Math.max(0, from),
      what: `${laneName(lane)} drawn`,
    })),
  ];
  return list.sort((one, other) => (one.at ?? Infinity) - (other.at ?? Infinity));
}

/** What became of a note, in words. */
function changeInWords(
  { start, end, pitch: to, velocity, channel }: NoteChange,
  place: (tick: number) => string,
  pitch: (pitch: number) => string,
): string {
  const words = [
    start === undefined ? '' : `moved to ${place(start)}`,
    start === undefined && end !== undefined ? `ends at ${place(end)}` : '',
    to === undefined ? '' : `pitch ${pitch(to)}`,
    velocity === undefined ? '' : `velocity ${Math.round(velocity)}`,
    channel === undefined ? '' : `channel ${channel}`,
  ].filter(Boolean);
  return words.length > 0 ? words.join(', ') : 'unchanged';
}
