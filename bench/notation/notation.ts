import { existsSync, readFileSync, readdirSync } from 'node:fs';
import path from 'node:path';
import {
  createTimeline,
  DRUM_CHANNEL,
  noteTableOf,
  notate,
  readMidi,
  takesOfFile,
  UNITS_PER_QUARTER,
  withColumns,
  type NotationInput,
  type WrittenPart,
} from '@ordle/core';
import type { BenchRow } from '../core';
import { FOLDERS } from '../others';
import { KINDS, make } from '../suggest/made';
import { createRandom } from '../tempo/random';

/** Sequenced parts of others: so many of their notes lie on a plain or triplet sixteenth, within so many quarters. */
const [ON_LINES, NEAR] = [0.97, 0.02];
const LEAST_NOTES = 80;
const SOURCES = ['openttd-openmsx', 'midifile-ts'];

interface Piece {
  input: NotationInput;
  /** Where each note is written, in quarters, by id; null where it lies on no line. */
  places: (number | null)[];
}

const LINES = [1 / 4, 1 / 6];
function lineNear(quarter: number): number | null {
  const [best] = LINES.map((step) => Math.round(quarter / step) * step).sort(
    (a, b) => Math.abs(a - quarter) - Math.abs(b - quarter),
  );
  return Math.abs(best - quarter) <= NEAR ? best : null;
}

/** Parts of files of others that were sequenced, with where their notes are written. */
export function sequencedParts(): Piece[] {
  return SOURCES.flatMap((source) => {
    const folder = path.resolve(FOLDERS[source]);
    if (!existsSync(folder)) return [];
    return readdirSync(folder, { recursive: true, encoding: 'utf8' })
      .filter((name) => /\.midi?$/i.test(name))
      .sort()
      .flatMap((name) => partsOf(path.join(folder, name)));
  });
}

function partsOf(name: string): Piece[] {
  try {
    const { file } = readMidi(readFileSync(name));
    if (file.division.kind !== 'metrical') return [];
    const takes = takesOfFile(file, () => '');
    const timeline = createTimeline(file.division, takes[0].tempos, takes[0].meters);
    const perQuarter = file.division.ticksPerQuarter;
    return takes.flatMap(({ notes }) => {
      if (notes.length < LEAST_NOTES) return [];
      const numbered = withColumns(notes, { id: Float64Array.from(notes.start.keys()) });
      const places = [...numbered.start].map((tick) => lineNear(tick / perQuarter));
      if (places.filter((place) => place !== null).length < ON_LINES * places.length) return [];
      const isDrums = notes.channel[0] === DRUM_CHANNEL;
      return [{ input: { name: path.basename(name), notes: numbered, isDrums, timeline }, places }];
    });
  } catch {
    // Some of these files are broken on purpose.
    return [];
  }
}

/** The part with starts and ends that scatter by so many ms. */
function played({ notes, timeline, ...rest }: NotationInput, ms: number, seed: number): NotationInput {
  if (ms === 0) return { notes, timeline, ...rest };
  const random = createRandom(seed);
  const tickMs = 60000 / (timeline.tempo.microsecondsPerQuarter[0] ? 60e6 / timeline.tempo.microsecondsPerQuarter[0] : 120) / timeline.ticksPerQuarter; // prettier-ignore
  const table = noteTableOf(
    [...notes.id].map((id, row) => {
      const off = (random.normal() * ms) / tickMs;
      const start = Math.max(0, notes.start[row] + off);
      return {
        id,
        start,
        end: Math.max(start + 1, notes.end[row] + (random.normal() * ms) / tickMs),
        pitch: notes.pitch[row],
        velocity: notes.velocity[row],
        channel: notes.channel[row],
      };
    }),
  );
  return { ...rest, timeline, notes: table };
}

/** The share of notes written where they are meant; those with no place, and ornaments, do not count. */
function rightPlaces(written: WrittenPart, places: readonly (number | null)[]): [right: number, of: number] {
  const starts: number[] = [];
  let from = 0;
  for (const { units } of written.bars) {
    starts.push(from);
    from += units;
  }
  let [right, of] = [0, 0];
  places.forEach((place, id) => {
    const found = written.placeOf.get(id);
    if (place === null || !found || found.isGrace) return;
    of++;
    const quarter = (starts[found.bar - 1] + found.at) / UNITS_PER_QUARTER;
    if (Math.abs(quarter - place) < 1 / 96) right++;
  });
  return [right, of];
}

/** What a reader meets: ties, tuplets, rests, dots a note. */
export function marksANote(written: WrittenPart): number {
  let [marks, notes] = [0, 0];
  for (const { items } of written.bars.flatMap((bar) => bar.staves.flat()))
    for (const item of items) {
      if (item.notes.length === 0) marks += item.isWholeBar ? 0 : 1;
      else notes++;
      marks += item.value.dots + (item.tuplet ? 1 : 0) + (item.notes.some(({ tiedTo }) => tiedTo) ? 1 : 0);
    }
  return notes === 0 ? 0 : marks / notes;
}

/** How well parts are written down: right places of pieces by others under human faults, and of made performances. */
export function benchNotation(): BenchRow[] {
  const pieces = sequencedParts();
  const rows: BenchRow[] = [];
  for (const [ms, least] of [
    [0, 0.995],
    [12, 0.985],
    [20, 0.96],
  ]) {
    let [right, of, marks] = [0, 0, 0];
    pieces.forEach(({ input, places }, seed) => {
      const written = notate(played(input, ms, 40 + seed), { straightSwing: false });
      const [own, all] = rightPlaces(written, places);
      if (process.env.EACH) console.log(input.name, all, (own / all).toFixed(3));
      right += own;
      of += all;
      marks += marksANote(written);
    });
    const share = right / Math.max(1, of);
    rows.push({
      work: `written, sequenced parts with faults of ${ms} ms: places right`,
      ours: share.toFixed(3),
      peer: `${pieces.length} parts, ${(marks / Math.max(1, pieces.length)).toFixed(2)} marks a note`,
      reach: `at least ${least}`,
      met: share >= least,
    });
  }
  for (const kind of KINDS) {
    let [right, of] = [0, 0];
    for (let seed = 0; seed < 8; seed++) {
      const { notes, written: truth, isDrums, bpm } = make(kind, seed);
      const timeline = createTimeline(
        { kind: 'metrical', ticksPerQuarter: 960 },
        [{ tick: 0, microsecondsPerQuarter: 60e6 / bpm }],
        [],
      );
      const part = notate({ name: kind, notes, isDrums, timeline });
      const places = truth.map(({ at, isAnchor, isGrace }) =>
        isGrace || (!isAnchor && kind !== 'strums')
          ? null
          : kind.startsWith('swung')
            ? Math.round(at * 2) / 2
            : at,
      );
      const [own, all] = rightPlaces(part, places);
      right += own;
      of += all;
    }
    const share = right / Math.max(1, of);
    rows.push({
      work: `written, played to the click: ${kind}, places right`,
      ours: share.toFixed(3),
      peer: '8 performances',
      reach: 'at least 0.985',
      met: share >= 0.985,
    });
  }
  return rows;
}
