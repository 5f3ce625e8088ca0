import {
  USUAL_BPM,
  changedRamp,
  withTempo,
  withoutRamp,
  withoutTempo,
  type FoundRamp,
  type TempoChange,
  type TempoEntry,
} from '@ordle/core';

/** Changes the tempos as one action; a change at `chooses` is chosen afterwards, none for null. */
export type ChangeTempos = (
  label: string,
  make: (tempos: readonly TempoChange[]) => TempoChange[],
  chooses: number | null,
) => void;

/** What of the map is taken hold of: a change, an end of a ramp, or a ramp as a whole. */
export type Held =
  | { kind: 'change'; tick: number; bpm: number }
  | { kind: 'ramp'; side: 'start' | 'end' | 'both'; ramp: FoundRamp; tick: number; bpm: number };

/** The handles of some entries: one of a change, two of a ramp. */
export const handlesOf = (entries: readonly TempoEntry[]): Held[] =>
  entries.flatMap(({ ramp, tick, bpm }): Held[] =>
    ramp
      ? [
          { kind: 'ramp', side: 'start', ramp, tick, bpm },
          { kind: 'ramp', side: 'end', ramp, tick: ramp.to, bpm: ramp.toBpm },
        ]
      : [{ kind: 'change', tick, bpm }],
  );

const usual = (bpm: number) => Math.min(USUAL_BPM.most, Math.max(USUAL_BPM.least, bpm));

/** The tempos once what is held stands at another place with another tempo. */
export function moved(tempos: readonly TempoChange[], held: Held, tick: number, bpm: number): TempoChange[] {
  if (held.kind === 'change')
    return withTempo(tick === held.tick ? tempos : withoutTempo(tempos, held.tick), tick, bpm);
  const { ramp, side } = held;
  // A ramp is never less than a few ticks long, whatever end is taken where.
  const least = ramp.steps;
  if (side === 'start')
    return changedRamp(tempos, ramp, { from: Math.min(tick, ramp.to - least), fromBpm: bpm });
  if (side === 'end') return changedRamp(tempos, ramp, { to: Math.max(tick, ramp.from + least), toBpm: bpm });
  const by = bpm - held.bpm;
  return changedRamp(tempos, ramp, { fromBpm: usual(ramp.fromBpm + by), toBpm: usual(ramp.toBpm + by) });
}

/** What doing that is called. */
export const nameOfMove = (held: Held, tick: number): string =>
  held.kind === 'ramp' ? 'Change a ramp' : tick === held.tick ? 'Change a tempo' : 'Move a tempo change';

/** The tempos without what is held: a ramp goes as a whole. */
export const takenOutOfMap = (tempos: readonly TempoChange[], held: Held): TempoChange[] =>
  held.kind === 'ramp' ? withoutRamp(tempos, held.ramp) : withoutTempo(tempos, held.tick);
