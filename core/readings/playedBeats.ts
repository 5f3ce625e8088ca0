import { joinTables, type NoteTable } from '../model';
import type { Part } from '../session';
import { NO_HINTS, findBeats, onsetEventsOf, withBarsSaid, withoutBeatsAt, type FoundBeats } from '../tempo';
import { ticksToSeconds, type Timeline } from '../time';

/** A performance in real time with its beats. Seconds. */
export interface PlayedBeats {
  partId: string;
  start: Float64Array;
  end: Float64Array;
  pitch: Uint8Array;
  /** Notes that start together, and how much they stand out, 0 to 1. */
  strokes: { time: Float64Array; strength: Float64Array };
  found: FoundBeats;
}

/**
 * The beats of parts that were recorded together, as they were played (`played`: the notes of each), by what a person
 * said of them. `part` is the one they are asked for.
 */
export function playedBeatsOf(
  part: Part,
  pulse: Part['pulse'],
  played: readonly NoteTable[],
  { tempo }: Timeline,
  progress?: (share: number) => void,
): PlayedBeats {
  const notes = played.length === 1 ? played[0] : joinTables(played);
  const { without = [], places = [], beatsPerBar, ...hints } = pulse ?? NO_HINTS;
  const all = findBeats(
    notes,
    tempo,
    { ...hints, ...(beatsPerBar !== undefined && { beatsPerBar }) },
    progress,
  );
  const found = withBarsSaid(withoutBeatsAt(all, without), places, beatsPerBar);
  const { time, strength } = onsetEventsOf(notes, tempo);
  const seconds = (ticks: Float64Array) => ticks.map((tick) => ticksToSeconds(tempo, tick));
  return {
    partId: part.id,
    start: seconds(notes.start),
    end: seconds(notes.end),
    pitch: notes.pitch.slice(),
    strokes: { time, strength },
    found,
  };
}
