import { DRUM_CHANNEL, pitchName } from '../midi';
import { estimateKey } from '../analysis';
import type { NoteTable } from '../model';
import type { Finding } from './finding';
import { deleting, inMs, type Look } from './look';

/**
 * Slips: shorter than this, begun together with a note a step away, a little after it or this much before it, in
 * seconds; and so much softer than that, in velocity or as a share.
 */
const [SLIP_LENGTH, SLIP_AFTER, SLIP_BEFORE, SLIP_STEP] = [0.15, 0.032, 0.0605, 2];
const [SOFTER_BY, SOFTER_SHARE] = [20, 0.62];
/** A grace note is ahead of its note by this at least, in seconds, and hands over to it. */
const [GRACE, HANDS_OVER] = [0.025, 0.003];
/** So many that are alike, ahead of their notes by as much, are no slips but an ornament. */
const [ORNAMENT, ALIKE] = [4, 0.012];
/**
 * Nobody plays more strokes than these close together: what comes nearest to a note in a crowd is looked for among so
 * many on either side.
 */
const MOST_NEAR = 200;
/**
 * Far notes: so many semitones from the notes before and after, of a pitch class outside the key that is played this
 * seldom.
 */
const [FAR, SELDOM] = [10, 0.02];

interface Slip {
  row: number;
  /** The note that was meant. */
  meant: number;
  /** By how much it is ahead of that one, in seconds. */
  ahead: number;
  length: number;
}

/**
 * A key brushed beside the one that was meant: a short note, much softer, a step from one that starts with
 * it. A grace note, which is over as its note begins, and what is played alike again and again are no faults. Surest
 * where it is struck together with the other and a semitone away or outside the key; a grace note comes before.
 */
export function slips(look: Look): Finding[] {
  const { notes, taken } = look;
  const all = slipsIn(look);
  const isOrnament = (slip: Slip) =>
    slip.ahead >= GRACE &&
    all.filter(
      (other) =>
        notes.pitch[other.meant] - notes.pitch[other.row] ===
          notes.pitch[slip.meant] - notes.pitch[slip.row] &&
        Math.abs(other.ahead - slip.ahead) <= ALIKE &&
        Math.abs(other.length - slip.length) <= ALIKE,
    ).length >= ORNAMENT;
  const inKey = keyOf(notes);
  return all
    .filter((slip) => !isOrnament(slip))
    .map(({ row, meant, ahead, length }): Finding => {
      taken[row] = 1;
      const isForeign = inKey !== null && !inKey.has(notes.pitch[row] % 12);
      const isSemitone = Math.abs(notes.pitch[meant] - notes.pitch[row]) === 1;
      const together = Math.abs(ahead) <= 0.03 ? 0.35 : 0;
      return {
        kind: 'wrong-note',
        tick: notes.start[row],
        notes: [notes.id[row]],
        reason: `${pitchName(notes.pitch[row], 4)} is brushed for ${inMs(length)} beside ${pitchName(notes.pitch[meant], 4)}.`,
        sure: 0.45 + together + (isForeign || isSemitone ? 0.15 : 0),
        mend: deleting(notes.id[row]),
      };
    });
}

function slipsIn({ notes, start, end, taken }: Look): Slip[] {
  const found: Slip[] = [];
  for (let row = 0; row < notes.length; row++) {
    const length = end[row] - start[row];
    if (taken[row] || notes.channel[row] === DRUM_CHANNEL || length >= SLIP_LENGTH) continue;
    const velocity = notes.velocity[row];
    const meant = rowsNear(start, row).find((other) => {
      const step = Math.abs(notes.pitch[other] - notes.pitch[row]);
      return (
        step > 0 &&
        step <= SLIP_STEP &&
        notes.channel[other] === notes.channel[row] &&
        !taken[other] &&
        (notes.velocity[other] - velocity >= SOFTER_BY || velocity <= SOFTER_SHARE * notes.velocity[other])
      );
    });
    if (meant === undefined) continue;
    const ahead = start[meant] - start[row];
    if (ahead < GRACE || Math.abs(ahead - length) > HANDS_OVER) found.push({ row, meant, ahead, length });
  }
  return found;
}

/** Rows that start with a row, a little before it or a little after it; the nearest first on each side. */
function rowsNear(start: Float64Array, row: number): number[] {
  const rows: number[] = [];
  const [low, high] = [Math.max(0, row - MOST_NEAR), Math.min(start.length, row + MOST_NEAR + 1)];
  for (let other = row - 1; other >= low && start[row] - start[other] <= SLIP_AFTER; other--)
    rows.push(other);
  for (let other = row + 1; other < high && start[other] - start[row] <= SLIP_BEFORE; other++)
    rows.push(other);
  return rows;
}

const SCALES = { major: [0, 2, 4, 5, 7, 9, 11], minor: [0, 2, 3, 5, 7, 8, 10, 11] };
const TONICS: Readonly<Record<string, number>> = {
  C: 0, 'C#': 1, Db: 1, D: 2, Eb: 3, E: 4, F: 5, 'F#': 6, G: 7, 'G#': 8, Ab: 8, A: 9, Bb: 10, B: 11,
}; // prettier-ignore

/** The pitch classes of the key of some notes; null where they have none that is plain. */
function keyOf(notes: NoteTable): Set<number> | null {
  const key = estimateKey(notes);
  if (!key || key.fit < 0.7 || notes.length < 30) return null;
  const [tonic, mode] = key.key.split(' ') as [string, 'major' | 'minor'];
  return new Set(SCALES[mode].map((step) => (step + TONICS[tonic]) % 12));
}

/** A note far from those around it whose pitch class is outside the key and hardly ever played: only unlikely. */
export function farNotes({ notes, taken }: Look): Finding[] {
  const inKey = keyOf(notes);
  if (!inKey) return [];
  const counts = new Float64Array(12);
  for (const pitch of notes.pitch) counts[pitch % 12]++;
  const found: Finding[] = [];
  for (let row = 0; row < notes.length; row++) {
    if (taken[row] || notes.channel[row] === DRUM_CHANNEL) continue;
    const pitch = notes.pitch[row];
    if (inKey.has(pitch % 12) || counts[pitch % 12] > SELDOM * notes.length) continue;
    let nearest = Infinity;
    for (let other = Math.max(0, row - 6); other <= Math.min(notes.length - 1, row + 6); other++)
      if (other !== row) nearest = Math.min(nearest, Math.abs(notes.pitch[other] - pitch));
    if (nearest < FAR) continue;
    taken[row] = 1;
    found.push({
      kind: 'wrong-note',
      tick: notes.start[row],
      notes: [notes.id[row]],
      reason: `${pitchName(pitch, 4)} lies outside the key and ${nearest} semitones from every note around it.`,
      sure: 0.5,
      mend: deleting(notes.id[row]),
    });
  }
  return found;
}
