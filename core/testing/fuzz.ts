import { OrdleError } from '../errors';
import { cleanFile } from '../evaluate';
import { readMidi, writeMidi, type MidiFile, type Repair } from '../midi';
import { createStep, type Step } from '../steps';
import { chanceOf } from '../steps/random';
import { plainlyReadable } from './plainCount';

/** Whole numbers below a bound, the same ones for the same seed. */
export function createRandom(seed: number): (below: number) => number {
  let count = 0;
  return (below) => Math.floor(chanceOf(seed, count++, 0) * below);
}

const SPELLS = [
  [0x4d, 0x54, 0x72, 0x6b],
  [0xff, 0x2f, 0x00],
  [0xff, 0x2f, 0x05],
  [0xff, 0x51, 0x03],
  [0xf0, 0x7f],
  [0xff, 0xff, 0xff, 0x7f],
  [0x80, 0x80, 0x80, 0x80],
];

/** A damaged copy of a file: bytes flipped, cut, doubled, put in; lengths made false; another file spliced in. */
export function damaged(file: Uint8Array, other: Uint8Array, random: (below: number) => number): Uint8Array {
  let bytes = file;
  const place = () => random(bytes.length + 1);
  const put = (at: number, some: ArrayLike<number>) => {
    const longer = new Uint8Array(bytes.length + some.length);
    longer.set(bytes.subarray(0, at));
    longer.set(some, at);
    longer.set(bytes.subarray(at), at + some.length);
    bytes = longer;
  };
  const take = (at: number, count: number) => {
    const shorter = new Uint8Array(Math.max(0, bytes.length - count));
    shorter.set(bytes.subarray(0, at));
    shorter.set(bytes.subarray(at + count), Math.min(at, shorter.length));
    bytes = shorter;
  };
  for (let left = 1 + random(4); left > 0; left--) {
    const kind = random(9);
    if (kind <= 1) {
      bytes = bytes.slice();
      for (let flips = 1 + random(6); flips > 0; flips--) bytes[random(bytes.length)] = random(256);
    } else if (kind === 2) bytes = bytes.slice(0, place());
    else if (kind === 3) {
      const at = place();
      take(at, Math.min(bytes.length - at, 1 + random(40)));
    } else if (kind === 4) put(place(), SPELLS[random(SPELLS.length)]);
    else if (kind === 5) {
      const at = place();
      put(place(), bytes.subarray(at, at + random(200)));
    } else if (kind === 6) {
      // A false length of a track.
      const starts = [...bytes.keys()].filter(
        (at) => bytes[at] === 0x4d && bytes[at + 1] === 0x54 && bytes[at + 2] === 0x72,
      );
      if (starts.length === 0) continue;
      bytes = bytes.slice();
      const at = starts[random(starts.length)];
      const length =
        random(3) === 0 ? bytes.length - at - 8 : random(3) === 0 ? random(0x7fffffff) : random(bytes.length);
      for (let byte = 0; byte < 4; byte++) bytes[at + 4 + byte] = (length >>> (24 - 8 * byte)) & 255;
    } else if (kind === 7) put(place(), other.subarray(random(other.length)).subarray(0, 300));
    else
      put(
        place(),
        Uint8Array.from({ length: random(30) }, () => random(256)),
      );
    if (bytes.length === 0) return bytes;
  }
  return bytes;
}

/** The steps every mutant that can be read is cleaned by: each kind that moves, shapes or makes something. */
export const FUZZ_STEPS: readonly Step[] = [
  createStep('quantize', { strength: 80, swing: 60, chords: 'spread' }),
  createStep('humanize', { timingMs: 5, velocity: 4, lengthPct: 5, drift: 30 }),
  createStep('length', { scale: 120 }),
  createStep('velocity', { compress: { ratio: 2, around: 64 } }),
  createStep('transpose', { semitones: 13, skipDrums: false }),
  createStep('stretch', { factor: 1.5 }),
  createStep('nudge', { ms: -20 }),
  createStep('curve', { op: 'thin', lane: 'cc11' }),
  createStep('pedal', { op: 'repedal', by: 'bar' }),
];

/** What came of one mutant. `fault` is what must not be; null when all is well. */
export interface FuzzOutcome {
  fault: string | null;
  ms: number;
  refused: boolean;
}

/** Reads a damaged file, cleans it, writes it and reads it back. */
export function tryMutant(bytes: Uint8Array): FuzzOutcome {
  const begun = performance.now();
  let refused = false;
  let fault: string | null = null;
  try {
    const { file, repairs } = readMidi(bytes);
    fault = lossIn(bytes, file, repairs) ?? faultOfWriting(file) ?? faultOfCleaning(file);
  } catch (error) {
    if (error instanceof OrdleError) refused = true;
    else fault = `threw ${String(error)}`;
  }
  return { fault, ms: performance.now() - begun, refused };
}

/** Events the reader did not find though they are plainly there. */
function lossIn(bytes: Uint8Array, file: MidiFile, repairs: readonly Repair[]): string | null {
  const events = file.tracks.reduce((sum, track) => sum + track.events.length, 0);
  const released = repairs.reduce((sum, { code, message }) => {
    if (code !== 'stuck-note') return sum;
    return sum + Number(/^(\d+) more notes/.exec(message)?.[1] ?? 1);
  }, 0);
  const plain = plainlyReadable(bytes);
  return events - released < plain
    ? `read ${events - released} events of ${plain} that are plainly there`
    : null;
}

/** Repairs that a file needs because it is kept as it came: odd frame rates, tempos and meters without a meaning. */
const isOwnFault = ({ code }: Repair): boolean => code !== 'frame-rate' && !code.startsWith('bad-');

function faultOfWriting(file: MidiFile): string | null {
  const again = readMidi(writeMidi(file));
  const odd = again.repairs.find(isOwnFault);
  if (odd) return `what was written needs a repair: ${odd.message}`;
  const lengths = (one: MidiFile) => one.tracks.map(({ events }) => events.length).join();
  // Gaps too long for a delta time are bridged by empty texts.
  const isBridged = file.tracks.some(({ events }) =>
    events.tick.some((tick, row) => tick - (events.tick[row - 1] ?? 0) > 0xfffffff),
  );
  return !isBridged && lengths(file) !== lengths(again.file) ? 'events were lost in writing' : null;
}

function faultOfCleaning(file: MidiFile): string | null {
  try {
    const cleaned = cleanFile(file, FUZZ_STEPS);
    const again = readMidi(writeMidi(cleaned.file));
    const odd = again.repairs.find(isOwnFault);
    return odd ? `what was cleaned needs a repair: ${odd.message}` : null;
  } catch (error) {
    // A step may refuse what is beyond its bounds.
    if (error instanceof OrdleError) return null;
    return `cleaning threw ${error instanceof Error ? (error.stack ?? error.message) : String(error)}`;
  }
}

/** Tries many mutants of some files. Stops at the first fault, and gives the file that shows it. */
export function fuzz(
  files: readonly Uint8Array[],
  count: number,
  seed: number,
  onProgress?: (done: number, slowestMs: number) => void,
) {
  const random = createRandom(seed);
  let slowest = { ms: 0, bytes: new Uint8Array(0) };
  let refused = 0;
  for (let done = 1; done <= count; done++) {
    const bytes = damaged(files[random(files.length)], files[random(files.length)], random);
    const outcome = tryMutant(bytes);
    if (outcome.refused) refused++;
    if (outcome.ms > slowest.ms) slowest = { ms: outcome.ms, bytes: Uint8Array.from(bytes) };
    if (outcome.fault !== null) return { done, refused, slowest, fault: outcome.fault, bytes };
    if (done % 1000 === 0) onProgress?.(done, slowest.ms);
  }
  return { done: count, refused, slowest, fault: null, bytes: null };
}
