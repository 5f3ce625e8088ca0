import { greatestOf, type Note } from '../model';
import {
  MOST_INLINE,
  changeColumns,
  columnsOf,
  type AddedNote,
  type NoteChange,
  type NoteEdits,
} from '../steps';
import { belongsFrom, reachBefore, type Timeline } from '../time';
import { noEdits } from './mergeEdits';

/** Gives a fresh note id each time. */
export type NewNoteId = () => number;

/** What is done to each of some notes; of many as columns, without a list of their changes in between. */
const changesOf = <T extends Note>(notes: readonly T[], changeOf: (note: T) => NoteChange): NoteEdits =>
  notes.length > MOST_INLINE
    ? { ...noEdits(), columns: changeColumns(notes, changeOf) }
    : {
        ...noEdits(),
        change: Object.fromEntries(notes.map((note) => [String(note.id), changeOf(note)])),
      };

const asAdded = (note: Note, id: number, change: Partial<AddedNote> = {}): AddedNote => ({
  id,
  start: note.start,
  end: note.end,
  pitch: note.pitch,
  velocity: Math.min(127, Math.max(1, note.velocity)),
  channel: note.channel + 1,
  ...change,
});

/**
 * How far notes can go: the earliest not before 0, none off the keyboard. They keep their shape, so all go equally
 * far.
 */
export function reachOf(
  notes: readonly Note[],
  ticks: number,
  semitones: number,
): { ticks: number; semitones: number } {
  let [first, low, high] = [Infinity, 127, 0];
  for (const { start, pitch } of notes) {
    if (start < first) first = start;
    if (pitch < low) low = pitch;
    if (pitch > high) high = pitch;
  }
  return {
    ticks: Math.max(ticks, -first),
    semitones: Math.min(127 - high, Math.max(-low, semitones)),
  };
}

/** Moves notes in ticks and semitones, as far as there is room. */
export function moveNotes(notes: readonly Note[], ticks: number, semitones: number): NoteEdits {
  if (notes.length === 0) return noEdits();
  const reach = reachOf(notes, ticks, semitones);
  const [inTime, inPitch] = [reach.ticks !== 0, reach.semitones !== 0];
  return changesOf(notes, ({ start, end, pitch }) => {
    const change: NoteChange = {};
    if (inTime) [change.start, change.end] = [start + reach.ticks, end + reach.ticks];
    if (inPitch) change.pitch = pitch + reach.semitones;
    return change;
  });
}

/** Copies of notes, moved in ticks and semitones; the originals stay. */
export function copyNotes(
  notes: readonly Note[],
  ticks: number,
  semitones: number,
  newId: NewNoteId,
): NoteEdits {
  if (notes.length === 0) return noEdits();
  const reach = reachOf(notes, ticks, semitones);
  return {
    ...noEdits(),
    add: notes.map((note) =>
      asAdded(note, newId(), {
        start: note.start + reach.ticks,
        end: note.end + reach.ticks,
        pitch: note.pitch + reach.semitones,
      }),
    ),
  };
}

/** Moves one end of every note; none gets shorter than a tick or starts before 0. */
export function trimNotes(notes: readonly Note[], edge: 'start' | 'end', ticks: number): NoteEdits {
  return changesOf(notes, (note) =>
    edge === 'start'
      ? { start: Math.min(note.end - 1, Math.max(0, note.start + ticks)) }
      : { end: Math.max(note.start + 1, note.end + ticks) },
  );
}

/**
 * Cuts every note that sounds across `tick` in two. A note that was played a little ahead of it belongs to what
 * begins there, and one that hangs over a little to what ends: they stay whole, by the reach of the musical bar.
 */
export function splitNotes(
  notes: readonly Note[],
  tick: number,
  newId: NewNoteId,
  timeline: Timeline,
): NoteEdits {
  const ahead = belongsFrom(tick, timeline);
  const over = 2 * tick - reachBefore(tick, timeline);
  const cut = notes.filter(
    ({ start, end }) => tick - start >= 1 && !ahead(start) && end >= Math.max(tick + 1, over),
  );
  return {
    ...changesOf(cut, () => ({ end: tick })),
    add: cut.map((note) => asAdded(note, newId(), { start: tick })),
  };
}

/** Makes of notes of the same pitch and channel one note, from the first start to the last end. */
export function joinNotes(notes: readonly Note[]): NoteEdits {
  const groups = new Map<number, Note[]>();
  for (const note of [...notes].sort((a, b) => a.start - b.start)) {
    const key = note.channel * 128 + note.pitch;
    const group = groups.get(key);
    if (group) group.push(note);
    else groups.set(key, [note]);
  }
  const joined = [...groups.values()].filter((group) => group.length > 1);
  return {
    ...changesOf(
      joined.map((group) => ({ ...group[0], last: greatestOf(group, ({ end }) => end) })),
      ({ last }) => ({ end: last }),
    ),
    delete: joined.flatMap((group) => group.slice(1).map(({ id }) => id)),
  };
}

export function deleteNotes(notes: readonly Note[]): NoteEdits {
  const ids = notes.map(({ id }) => id);
  return ids.length > MOST_INLINE
    ? { ...noEdits(), columns: columnsOf({}, ids) }
    : { ...noEdits(), delete: ids };
}

/** A typed value: taken as it is, or added to what each note has. */
export interface TypedValue {
  relative: boolean;
  value: number;
}

/** Sets or shifts fields of notes; values end at their limits. Lengths and starts in ticks, channels 1-16. */
export function setValues(
  notes: readonly Note[],
  field: 'start' | 'length' | 'pitch' | 'velocity' | 'channel',
  { relative, value }: TypedValue,
): NoteEdits {
  const next = (now: number, low: number, high: number) =>
    Math.min(high, Math.max(low, relative ? now + value : value));
  return changesOf(notes, (note) => {
    const length = note.end - note.start;
    if (field === 'start') {
      const start = next(note.start, 0, Number.MAX_SAFE_INTEGER - length);
      return { start, end: start + length };
    }
    if (field === 'length') return { end: note.start + next(length, 1, 2 ** 40) };
    if (field === 'pitch') return { pitch: Math.round(next(note.pitch, 0, 127)) };
    if (field === 'velocity') return { velocity: next(note.velocity, 1, 127) };
    return { channel: Math.round(next(note.channel + 1, 1, 16)) };
  });
}

/** Gives single notes their velocities (id -> velocity). */
export function setVelocities(velocities: ReadonlyMap<number, number>): NoteEdits {
  const change: Record<string, NoteChange> = {};
  for (const [id, velocity] of velocities)
    change[String(id)] = { velocity: Math.min(127, Math.max(1, velocity)) };
  return { ...noEdits(), change };
}

/** A drawn note. */
export function drawNote(note: Omit<AddedNote, 'id'>, newId: NewNoteId): NoteEdits {
  return { ...noEdits(), add: [{ ...note, id: newId() }] };
}
