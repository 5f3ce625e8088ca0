import { DRUM_CHANNEL, pitchName } from '../midi';
import type { NoteTable } from '../model';
import type { Timeline } from '../time';
import type { Finding } from './finding';
import { deleting, inMs, lookAt, type Look } from './look';
import { stuckNotes } from './stuckNotes';
import { farNotes, slips } from './wrongNotes';

/** Double strikes: at most so many ms after a louder stroke of the same pitch; on drums less, since flams are meant. */
const [DOUBLE_MS, DOUBLE_DRUM_MS] = [35, 12];
/** Nobody plays more strokes than these so close together. */
const MOST_NEAR = 200;
/** Specks: shorter than this, in ms, and of this velocity at most. */
const [SPECK_MS, SPECK_VELOCITY] = [30, 12];
/** So many of them, and of all notes this share, are how a part is played. */
const [MANY_SPECKS, SPECK_SHARE] = [8, 0.08];

/** Faults of single notes: each note is found under one kind at most, the first that fits. */
export function noteFindings(notes: NoteTable, program: number, { tempo }: Timeline): Finding[] {
  const look = lookAt(notes, program, tempo);
  return [
    ...doubleStrikes(look),
    ...stuckNotes(look),
    ...specks(look),
    ...slips(look),
    ...farNotes(look),
  ].sort((a, b) => a.tick - b.tick);
}

const isDrum = ({ channel }: NoteTable, row: number) => channel[row] === DRUM_CHANNEL;

function doubleStrikes({ notes, start, taken }: Look): Finding[] {
  const found: Finding[] = [];
  for (let row = 0; row < notes.length; row++) {
    const reach = (isDrum(notes, row) ? DOUBLE_DRUM_MS : DOUBLE_MS) / 1000 + 1e-9;
    const last = Math.max(0, row - MOST_NEAR);
    for (let before = row - 1; before >= last && start[row] - start[before] <= reach; before--) {
      const isSame = notes.pitch[before] === notes.pitch[row] && notes.channel[before] === notes.channel[row];
      if (!isSame || taken[before] || notes.velocity[before] <= notes.velocity[row]) continue;
      taken[row] = 1;
      found.push({
        kind: 'double-strike',
        tick: notes.start[row],
        notes: [notes.id[row]],
        reason: `${pitchName(notes.pitch[row], 4)} is struck again ${inMs(start[row] - start[before])} after a louder stroke.`,
        sure: 0.95,
        mend: deleting(notes.id[row]),
      });
      break;
    }
  }
  return found;
}

function specks({ notes, start, end, taken }: Look): Finding[] {
  const rows = Array.from(notes.pitch.keys()).filter(
    (row) =>
      !taken[row] &&
      !isDrum(notes, row) &&
      notes.velocity[row] <= SPECK_VELOCITY &&
      end[row] - start[row] < SPECK_MS / 1000 - 1e-9,
  );
  if (rows.length > MANY_SPECKS && rows.length > SPECK_SHARE * notes.length) return [];
  return rows.map((row): Finding => {
    taken[row] = 1;
    return {
      kind: 'specks',
      tick: notes.start[row],
      notes: [notes.id[row]],
      reason: `${pitchName(notes.pitch[row], 4)} is ${inMs(end[row] - start[row])} long and as soft as ${notes.velocity[row]}.`,
      sure: 0.9,
      mend: deleting(notes.id[row]),
    };
  });
}
