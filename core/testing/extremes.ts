import type { RawEvent } from './files';
import { createStep, type Step } from '../steps';

/** Steps of every kind, and of every operation of those that have several, at settings that do something. */
export const STEPS_OF_EVERY_KIND: readonly Step[] = [
  createStep('quantize', { grid: '1/16', swing: 60, chords: 'spread', leaveWithinMs: 2 }),
  createStep('quantize', { grid: ['1/8', '1/8T'], edge: 'both', chords: 'together' }),
  createStep('align', { to: 'B' }),
  createStep('score'),
  createStep('pulse', { beats: [[0, 0], [1, 1.5], [9, 8]] }), // prettier-ignore
  createStep('nudge', { ms: 20, ticks: -3, where: { pitch: [0, 127] } }),
  createStep('stretch', { factor: 1.5, where: { bars: [1, 3] } }),
  createStep('layout', { blocks: [{ from: 0, to: 4, at: 0, times: 2, stretch: 1, held: 'ring' }, { from: 0, to: 2, at: 3, times: 1, stretch: 2, held: 'cut' }] }), // prettier-ignore
  createStep('groove', { groove: 'pushed', timing: 80, velocity: 50, straighten: 50 }),
  createStep('humanize', { timingMs: 5, velocity: 4, lengthPct: 5, drift: 30 }),
  createStep('transpose', { degrees: 2, key: 'C major', sections: [{ bars: [2, 4], semitones: 3 }] }),
  createStep('velocity', { scale: 90, ramp: { from: 20, to: 100 }, limit: [10, 120] }),
  createStep('length', { scale: 120, legato: { gapTicks: 3 }, limit: [2, 4000], monophonic: true }),
  createStep('length', { hold: 'fromPedal' }),
  ...([{ op: 'scale', percent: 50 }, { op: 'smooth', ms: 200 }, { op: 'thin' }, { op: 'snap' }, { op: 'ramp', from: 0, to: 90 }, { op: 'wave', depth: 9 }, { op: 'draw', points: [{ at: 10, value: 7 }, { at: 900, value: 70 }] }, { op: 'marks', marks: [{ at: 0, mark: 'p', hairpin: true }, { at: 1900, mark: 'f' }] }, { op: 'remove' }, { op: 'convert', to: 'cc1' }, { op: 'copy', to: 'bend' }] as const).map((settings) => createStep('curve', { lane: 'cc11', ...settings } as never)), // prettier-ignore
  createStep('curve', { op: 'marks', lane: 'velocity', marks: [{ at: 0, mark: 'p', hairpin: true }, { at: 1900, mark: 'f' }] } as never), // prettier-ignore
  ...([{ op: 'shift', ms: 30 }, { op: 'extend', ms: 30 }, { op: 'repedal', by: 'harmony' }, { op: 'repedal', by: 'bar' }, { op: 'fromLengths' }, { op: 'draw', spans: [[10, 500]] }, { op: 'remove' }] as const).map((settings) => createStep('pedal', settings as never)), // prettier-ignore
  createStep('remove', { doublesWithinMs: 20, shorterThanMs: 1, softerThan: 3, outside: [10, 120] }),
  createStep('edits', { add: [{ start: 5, end: 9, pitch: 60, velocity: 80, channel: 1 }], curves: [{ lane: 'cc11', channel: 1, from: 0, to: 400, points: [{ at: 30, value: 4 }] }] }), // prettier-ignore
  createStep('velocity', { add: 5, where: { voice: 'inner', bars: [1, 2] } }),
  createStep('velocity', { add: 5, where: { hand: 'left' } }),
];

/** The longest a delta time can be (SMF 1.0: 28 bits). */
export const LONGEST_DELTA = 0x0fffffff;

const rest = (from: number): RawEvent[] =>
  Array.from({ length: 40 }, (_, at): RawEvent[] => [
    [from + at * 60, 0xb0, 11, (at * 31) % 128],
    [from + at * 60, 0xb0, 64, at % 3 === 0 ? 127 : 0],
    [from + at * 60 + 20, 0xe0, 0, (at * 17) % 128],
  ]).flat();

/** So many notes that start at one tick, on so many pitches, with controllers around them. */
export function crowdTrack(count: number, tick: number, pitches: number): RawEvent[] {
  const ons = Array.from({ length: count }, (_, at): RawEvent => [
    tick,
    0x90,
    40 + (at % pitches),
    1 + (at % 127),
  ]);
  const offs = ons.map(([, , pitch], at): RawEvent => [tick + 100 + (at % 700), 0x80, pitch, 64]);
  return [...rest(0), ...ons, ...offs, [tick, 0xff, 5, 0, [97]] as RawEvent].sort((a, b) => a[0] - b[0]);
}

/** Some notes and controllers at the start, and as many after the longest gap there can be. */
export function farTrack(): RawEvent[] {
  const phrase = (from: number) =>
    Array.from({ length: 30 }, (_, at): RawEvent[] => [
      [from + at * 117, 0x90, 50 + (at % 20), 90],
      [from + at * 117 + 90, 0x80, 50 + (at % 20), 64],
    ]).flat();
  return [...rest(0), ...phrase(0), ...rest(LONGEST_DELTA), ...phrase(LONGEST_DELTA)].sort(
    (a, b) => a[0] - b[0],
  );
}
