import { DRUM_CHANNEL, pitchName } from '../midi';
import { estimateKey, middleOf } from '../analysis';
import type { NoteTable } from '../model';
import { createStep } from '../steps';
import { ticksToSeconds, type Timeline } from '../time';
import type { Finding } from './finding';

/** Double strikes: at most so many ms after a louder stroke of the same pitch; on drums less, since flams are meant. */
const [DOUBLE_MS, DOUBLE_DRUM_MS] = [35, 12];
/** Stuck notes: longer than this, in seconds, and than so many times the median of the part. */
const [STUCK_SECONDS, STUCK_TIMES] = [8, 10];
/** Specks: shorter than this, in ms, and of this velocity at most. */
const [SPECK_MS, SPECK_VELOCITY] = [30, 12];
/** Slips: shorter than this, in ms, begun within so many ms of a longer and louder note a step away. */
const [SLIP_MS, SLIP_REACH_MS, SLIP_STEP] = [90, 70, 2];
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

interface Look {
  notes: NoteTable;
  /** Seconds. */
  start: Float64Array;
  end: Float64Array;
  taken: Uint8Array;
}

/** Faults of single notes: each note is found under one kind at most, the first that fits. */
export function noteFindings(notes: NoteTable, { tempo }: Timeline): Finding[] {
  const seconds = (ticks: Float64Array) => ticks.map((tick) => ticksToSeconds(tempo, tick));
  const look: Look = {
    notes,
    start: seconds(notes.start),
    end: seconds(notes.end),
    taken: new Uint8Array(notes.length),
  };
  return [
    ...doubleStrikes(look),
    ...stuckNotes(look),
    ...specks(look),
    ...slips(look),
    ...farNotes(look),
  ].sort((a, b) => a.tick - b.tick);
}

const isDrum = ({ channel }: NoteTable, row: number) => channel[row] === DRUM_CHANNEL;
const deleting = (id: number) => createStep('edits', { delete: [id] });
const ms = (seconds: number) => `${Math.round(seconds * 1000)} ms`;

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
        reason: `${pitchName(notes.pitch[row], 4)} is struck again ${ms(start[row] - start[before])} after a louder stroke.`,
        mend: deleting(notes.id[row]),
      });
      break;
    }
  }
  return found;
}

function stuckNotes({ notes, start, end, taken }: Look): Finding[] {
  const lengths = start.map((at, row) => end[row] - at);
  const usual = middleOf(Float64Array.from(lengths).sort());
  const found: Finding[] = [];
  for (let row = 0; row < notes.length; row++) {
    if (taken[row] || lengths[row] <= STUCK_SECONDS || lengths[row] <= STUCK_TIMES * usual) continue;
    taken[row] = 1;
    const share = usual / lengths[row];
    const length = Math.max(1, Math.round((notes.end[row] - notes.start[row]) * share));
    found.push({
      kind: 'stuck-note',
      tick: notes.start[row],
      notes: [notes.id[row]],
      reason: `${pitchName(notes.pitch[row], 4)} is held for ${lengths[row].toFixed(1)} s, where notes here last ${usual.toFixed(2)} s.`,
      mend: createStep('edits', { change: { [notes.id[row]]: { end: notes.start[row] + length } } }),
    });
  }
  return found;
}

function specks({ notes, start, end, taken }: Look): Finding[] {
  const found: Finding[] = [];
  for (let row = 0; row < notes.length; row++) {
    const isSpeck =
      !isDrum(notes, row) &&
      notes.velocity[row] <= SPECK_VELOCITY &&
      end[row] - start[row] < SPECK_MS / 1000 - 1e-9;
    if (taken[row] || !isSpeck) continue;
    taken[row] = 1;
    found.push({
      kind: 'specks',
      tick: notes.start[row],
      notes: [notes.id[row]],
      reason: `${pitchName(notes.pitch[row], 4)} is ${ms(end[row] - start[row])} long and as soft as ${notes.velocity[row]}.`,
      mend: deleting(notes.id[row]),
    });
  }
  return found;
}

/**
 * A key brushed beside the one that was meant: a short and softer note a step from a longer one that starts with it.
 */
function slips({ notes, start, end, taken }: Look): Finding[] {
  const found: Finding[] = [];
  for (let row = 0; row < notes.length; row++) {
    const length = end[row] - start[row];
    if (taken[row] || isDrum(notes, row) || length > SLIP_MS / 1000) continue;
    const isMeant = (other: number) =>
      other !== row &&
      notes.channel[other] === notes.channel[row] &&
      !taken[other] &&
      Math.abs(notes.pitch[other] - notes.pitch[row]) <= SLIP_STEP &&
      notes.pitch[other] !== notes.pitch[row] &&
      end[other] - start[other] >= 2.5 * length &&
      notes.velocity[other] >= 1.25 * notes.velocity[row];
    const other = rowsNear(start, row, SLIP_REACH_MS / 1000).find(isMeant);
    if (other === undefined) continue;
    taken[row] = 1;
    found.push({
      kind: 'wrong-note',
      tick: notes.start[row],
      notes: [notes.id[row]],
      reason: `${pitchName(notes.pitch[row], 4)} is brushed for ${ms(length)} beside ${pitchName(notes.pitch[other], 4)}.`,
      mend: deleting(notes.id[row]),
    });
  }
  return found;
}

function rowsNear(start: Float64Array, row: number, reach: number): number[] {
  const rows: number[] = [];
  const [low, high] = [Math.max(0, row - MOST_NEAR), Math.min(start.length, row + MOST_NEAR + 1)];
  for (let other = row - 1; other >= low && start[row] - start[other] <= reach; other--) rows.push(other);
  for (let other = row + 1; other < high && start[other] - start[row] <= reach; other++) rows.push(other);
  return rows;
}

const SCALES = { major: [0, 2, 4, 5, 7, 9, 11], minor: [0, 2, 3, 5, 7, 8, 10, 11] };
const TONICS: Readonly<Record<string, number>> = {
  C: 0, 'C#': 1, Db: 1, D: 2, Eb: 3, E: 4, F: 5, 'F#': 6, G: 7, 'G#': 8, Ab: 8, A: 9, Bb: 10, B: 11,
}; // prettier-ignore

/** A note far from those around it whose pitch class is outside the key and hardly ever played. */
function farNotes({ notes, taken }: Look): Finding[] {
  const key = estimateKey(notes);
  if (!key || key.fit < 0.7 || notes.length < 30) return [];
  const [tonic, mode] = key.key.split(' ') as [string, 'major' | 'minor'];
  const inKey = new Set(SCALES[mode].map((step) => (step + TONICS[tonic]) % 12));
  const counts = new Float64Array(12);
  for (const pitch of notes.pitch) counts[pitch % 12]++;
  const found: Finding[] = [];
  for (let row = 0; row < notes.length; row++) {
    if (taken[row] || isDrum(notes, row)) continue;
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
      reason: `${pitchName(pitch, 4)} lies outside ${key.key} and ${nearest} semitones from every note around it.`,
      mend: deleting(notes.id[row]),
    });
  }
  return found;
}
