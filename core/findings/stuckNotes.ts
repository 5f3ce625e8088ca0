import { median } from '../analysis';
import { pitchName } from '../midi';
import { createStep } from '../steps';
import { firstAtOrAfter } from '../time';
import type { Finding } from './finding';
import type { Look } from './look';

/** Stuck notes: longer than this, in seconds, and than so many times the median of the part. */
const [STUCK_SECONDS, STUCK_TIMES] = [8, 10];
/** Long notes that begin within this of each other, in seconds, are a chord that is held. */
const TOGETHER = 0.1;
/** So many notes as long as this in one part, and of all its notes this share, are how it is played. */
const [HABIT, HABIT_SHARE] = [3, 0.01];
/** Notes that go on while it sounds; under a last chord nothing does. */
const GOES_ON = 6;

/** Instruments that hold a note as long as a person wants: organs, bowed strings, voices, winds, pads. */
const sustains = (program: number): boolean =>
  (program >= 16 && program <= 23) ||
  (program >= 40 && program <= 44) ||
  (program >= 48 && program <= 54) ||
  (program >= 56 && program <= 95);

/**
 * Notes that were never let go: far longer than others of the part, which goes on over them. A chord that is held, a
 * part that often holds as long, and the lowest voice of an instrument that sustains (an organ point) are meant.
 */
export function stuckNotes({ notes, start, end, taken, program }: Look): Finding[] {
  const lengths = start.map((at, row) => end[row] - at);
  const usual = median([...lengths]);
  const isLong = (row: number) => lengths[row] > STUCK_SECONDS && lengths[row] > STUCK_TIMES * usual;
  const long = Array.from(notes.pitch.keys()).filter(isLong);
  if (long.length >= HABIT && long.length >= HABIT_SHARE * notes.length) return [];
  const isChord = (row: number) =>
    long.some((other) => other !== row && Math.abs(start[other] - start[row]) <= TOGETHER);
  const isOrganPoint = (row: number) => {
    const last = firstAtOrAfter(start, end[row]);
    for (let other = firstAtOrAfter(start, start[row]); other < last; other++)
      if (notes.pitch[other] < notes.pitch[row]) return false;
    return true;
  };
  return long
    .filter((row) => !taken[row] && !isChord(row) && !(sustains(program) && isOrganPoint(row)))
    .filter((row) => firstAtOrAfter(start, end[row]) - firstAtOrAfter(start, start[row]) > GOES_ON)
    .map((row): Finding => {
      taken[row] = 1;
      const length = Math.max(1, Math.round(((notes.end[row] - notes.start[row]) * usual) / lengths[row]));
      return {
        kind: 'stuck-note',
        tick: notes.start[row],
        notes: [notes.id[row]],
        reason: `${pitchName(notes.pitch[row], 4)} is held for ${lengths[row].toFixed(1)} s, where notes here last ${usual.toFixed(2)} s.`,
        sure: sustains(program) ? 0.6 : 0.8,
        mend: createStep('edits', { change: { [notes.id[row]]: { end: notes.start[row] + length } } }),
      };
    });
}
