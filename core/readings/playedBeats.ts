import { type Evaluation } from '../evaluate';
import { type Part } from '../session';
import { findBeats, withBarAt, withoutBeatsAt, type FoundBeats } from '../tempo';
import { ticksToSeconds, type Timeline } from '../time';

/** A performance in real time with its beats. Seconds. */
export interface PlayedBeats {
  partId: string;
  start: Float64Array;
  end: Float64Array;
  pitch: Uint8Array;
  found: FoundBeats;
}

/** The beats of a part as it was played, by what a person said of them. */
export function playedBeatsOf(
  part: Part,
  { stages }: Evaluation,
  { tempo }: Timeline,
  progress?: (share: number) => void,
): PlayedBeats {
  const [{ notes }] = stages;
  const { beats = [], period, division, beatsPerBar, barAt, barNumber, without = [] } = part.pulse ?? {};
  const hints = {
    beats,
    ...(period && { period }),
    ...(division && { division }),
    ...(beatsPerBar !== undefined && { beatsPerBar }),
  };
  const all = findBeats(notes, tempo, hints, progress);
  const found = withoutBeatsAt(all, without);
  const seconds = (ticks: Float64Array) => ticks.map((tick) => ticksToSeconds(tempo, tick));
  return {
    partId: part.id,
    start: seconds(notes.start),
    end: seconds(notes.end),
    pitch: notes.pitch.slice(),
    found: barAt === undefined ? found : withBarAt(found, barAt, beatsPerBar, barNumber),
  };
}
