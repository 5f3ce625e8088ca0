import type { Take } from '../model';
import type { Session } from './session';
import { timelineOf } from './settled';

type InTime = Pick<Session, 'division' | 'tempos' | 'meters'>;

/** The tempo of what is added and of a session where they begin, in bpm of quarters. */
export interface OtherTempo {
  added: number;
  session: number;
}

/**
 * Whether the tempo of what is added to a session differs from the session's anywhere, in quarters. Then what is laid
 * by its beats does not last as long as it was played. Null where it is the same.
 */
export function otherTempo(added: InTime, session: InTime): OtherTempo | null {
  if (temposOf(added) === temposOf(session)) return null;
  return { added: firstBpm(added), session: firstBpm(session) };
}

function temposOf(own: InTime): string {
  const { tempo, ticksPerQuarter } = timelineOf(own);
  return Array.from(
    tempo.tick,
    (tick, row) => `${tick / ticksPerQuarter} ${(tempo.secondsPerTick[row] * ticksPerQuarter).toFixed(9)}`,
  ).join();
}

function firstBpm(own: InTime): number {
  const { tempo, ticksPerQuarter } = timelineOf(own);
  return 60 / (tempo.secondsPerTick[0] * ticksPerQuarter);
}

/** The same of a file, whose first take holds what it says of time; one that says nothing is at 120. */
export const otherTempoOfFile = (
  division: InTime['division'],
  takes: readonly Pick<Take, 'tempos' | 'meters'>[],
  session: InTime,
): OtherTempo | null =>
  otherTempo({ division, tempos: takes.at(0)?.tempos ?? [], meters: takes.at(0)?.meters ?? [] }, session);
