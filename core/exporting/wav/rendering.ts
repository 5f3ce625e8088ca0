import { OrdleError } from '../../errors';
import type { Workshop } from '../formatKind';
import { MOST_BYTES, bytesOfFrame, createQuantizer, wavHeader, type Bits } from './samples';
import { SOUND_BLOCK, type Pair, type Scratch, type SoundingPart } from './sounding';

/** How sound is written. */
export interface WavOptions {
  rate: 44100 | 48000 | 96000;
  bits: Bits;
  /** As it is heard, or so that the loudest sample of the mix is at -1 dB: one gain for the mix and its parts. */
  level: 'heard' | 'peak';
  /** Until it has rung out, or cut where the bars end, so that it can be looped. */
  tail: 'ring' | 'bar';
  /** Everything together, a file for each part, or both. */
  files: 'mix' | 'parts' | 'both';
}

/** Music to be written: its last note, or the pedal that holds it, ends at a second, its last bar at another. */
export interface Sounding {
  parts: readonly SoundingPart[];
  end: number;
  barEnd: number;
}

/** Seconds a sound may ring on, and how soft it is when it has rung out: -80 dB of the loudest a file can hold. */
export const MOST_TAIL = 10;
const QUIET = 10 ** (-80 / 20);
/** It has rung out when it was quiet for so long, in seconds. */
const QUIET_FOR = 0.1;
/** Where the bars cut it, it fades over so many seconds, so that the cut is no click. */
const FADE = 0.002;
const PEAK = 10 ** (-1 / 20);
/** Blocks that are kept in memory before they go to the scratch: some hundred thousand bytes. */
const BLOCKS_AT_ONCE = 256;
/** Blocks between two pauses. */
const BLOCKS_A_TURN = 64;

/** What was rendered: the samples of each file, left and right by turns, and the greatest of the mix. */
export interface Rendering {
  frames: number;
  gain: number;
  tracks: Scratch[];
}

/**
 * Renders all files of a stretch in one pass into scratches: the mix first, where it is wanted, then the parts. Throws
 * `too-long` where a file would be longer than its format can say.
 */
export async function renderSound(
  sounding: Sounding,
  options: WavOptions,
  workshop: Workshop,
): Promise<Rendering> {
  const { rate, tail } = options;
  const hasParts = options.files !== 'mix';
  const hasMix = options.files !== 'parts';
  const ends = tail === 'bar' ? Math.round(sounding.barEnd * rate) : Math.round(sounding.end * rate);
  const most = tail === 'bar' ? ends : ends + MOST_TAIL * rate;
  if (most * bytesOfFrame(options.bits) > MOST_BYTES)
    throw new OrdleError(
      'too-long',
      `This music lasts ${Math.round(most / rate / 60)} minutes; a WAV file holds up to ${Math.floor(
        MOST_BYTES / bytesOfFrame(options.bits) / rate / 60,
      )} at this rate and size. Choose fewer bars, or fewer bits.`,
    );
  const source = await workshop.instruments(
    rate,
    sounding.parts,
    tail === 'bar' ? sounding.barEnd : sounding.end,
  );
  const pairs = (hasParts ? sounding.parts : [null]).map((): Pair => [
    new Float32Array(SOUND_BLOCK),
    new Float32Array(SOUND_BLOCK),
  ]);
  const tracks = Array.from({ length: (hasMix ? 1 : 0) + (hasParts ? pairs.length : 0) }, () =>
    createTrack(workshop),
  );
  const sum = new Float32Array(2 * SOUND_BLOCK);
  let [peak, quietFrom, frame] = [0, -1, 0];
  try {
    for (let block = 0; frame < most; block++) {
      if (block % BLOCKS_A_TURN === 0) await workshop.pause(frame / most);
      for (const pair of pairs) for (const side of pair) side.fill(0);
      source.render(pairs);
      const count = Math.min(SOUND_BLOCK, most - frame);
      if (tail === 'bar') fadeOut(pairs, frame, most, Math.round(FADE * rate));
      const loudest = hasParts ? addUp(pairs, count, sum) : lay(pairs[0], count, sum);
      peak = Math.max(peak, loudest);
      if (hasMix) tracks[0].add(sum, count);
      if (hasParts) pairs.forEach((pair, part) => tracks[part + (hasMix ? 1 : 0)].addPair(pair, count));
      frame += count;
      if (tail === 'bar' || frame < ends) continue;
      const isQuiet = loudest * gainFor(options, peak) < QUIET;
      if (!isQuiet) quietFrom = -1;
      else if (quietFrom < 0) quietFrom = frame;
      if (isQuiet && frame - quietFrom >= QUIET_FOR * rate) break;
    }
  } catch (error) {
    for (const { scratch } of tracks) scratch.drop();
    throw error;
  }
  for (const track of tracks) track.flush();
  return { frames: frame, gain: gainFor(options, peak), tracks: tracks.map(({ scratch }) => scratch) };
}

const gainFor = ({ level }: WavOptions, peak: number): number =>
  level === 'heard' || peak === 0 ? 1 : PEAK / peak;

function fadeOut(pairs: readonly Pair[], first: number, end: number, frames: number): void {
  for (let at = Math.max(0, end - frames - first); at < SOUND_BLOCK && first + at < end; at++) {
    const share = (end - first - at) / frames;
    for (const [left, right] of pairs) {
      left[at] *= share;
      right[at] *= share;
    }
  }
}

/** The sum of some pairs, left and right by turns; gives its greatest sample, whichever its sign. */
function addUp(pairs: readonly Pair[], frames: number, sum: Float32Array): number {
  lay(pairs[0], frames, sum);
  for (let at = 1; at < pairs.length; at++) {
    const [left, right] = pairs[at];
    for (let frame = 0, place = 0; frame < frames; frame++) {
      sum[place++] += left[frame];
      sum[place++] += right[frame];
    }
  }
  return greatestOf(sum, 2 * frames);
}

/** A pair, left and right by turns, from a place on; gives its greatest sample, whichever its sign. */
function lay([left, right]: Pair, frames: number, into: Float32Array, from = 0): number {
  let greatest = 0;
  for (let frame = 0, place = from; frame < frames; frame++) {
    const one = left[frame];
    const other = right[frame];
    into[place++] = one;
    into[place++] = other;
    if (one > greatest) greatest = one;
    else if (-one > greatest) greatest = -one;
    if (other > greatest) greatest = other;
    else if (-other > greatest) greatest = -other;
  }
  return greatest;
}

function greatestOf(samples: Float32Array, count: number): number {
  let greatest = 0;
  for (let at = 0; at < count; at++) {
    const sample = samples[at];
    if (sample > greatest) greatest = sample;
    else if (-sample > greatest) greatest = -sample;
  }
  return greatest;
}

/** Collects samples and hands them to a scratch in larger pieces. */
function createTrack(workshop: Workshop) {
  const scratch = workshop.scratch();
  let held = new Float32Array(2 * SOUND_BLOCK * BLOCKS_AT_ONCE);
  let length = 0;
  const flush = () => {
    if (length === 0) return;
    scratch.append(new Uint8Array(held.buffer, 0, 4 * length));
    held = new Float32Array(2 * SOUND_BLOCK * BLOCKS_AT_ONCE);
    length = 0;
  };
  return {
    scratch,
    flush,
    add(samples: Float32Array, frames: number) {
      held.set(samples.subarray(0, 2 * frames), length);
      length += 2 * frames;
      if (length + 2 * SOUND_BLOCK > held.length) flush();
    },
    addPair(pair: Pair, frames: number) {
      lay(pair, frames, held, length);
      length += 2 * frames;
      if (length + 2 * SOUND_BLOCK > held.length) flush();
    },
  };
}

/** A track of a rendering as a WAV file: its header, then its samples as they are read. It is dropped then. */
export async function* wavOf(
  rendering: Rendering,
  track: number,
  { rate, bits }: WavOptions,
  tell?: Workshop['tell'],
): AsyncGenerator<Uint8Array> {
  const scratch = rendering.tracks[track];
  const quantizer = createQuantizer(bits, rendering.gain);
  try {
    yield wavHeader(rendering.frames, rate, bits);
    for await (const chunk of scratch.chunks())
      yield quantizer.bytesOf(new Float32Array(chunk.buffer, chunk.byteOffset, chunk.byteLength / 4));
    const clipped = quantizer.clipped();
    if (clipped > 0)
      tell?.(
        `It is louder than a file can hold: ${clipped.toLocaleString('en')} samples were held at its limit. Choose the level that peaks at -1 dB.`,
      );
  } finally {
    scratch.drop();
  }
}
