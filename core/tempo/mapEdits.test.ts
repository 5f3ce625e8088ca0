import fc from 'fast-check';
import { parseMidi } from 'midi-file';
import { readMidi, writeMidi } from '../midi';
import { bpmOf, createTempoMap, ticksToSeconds, type TempoChange } from '../time';
import { fileOfNotes } from '../testing/files';
import {
  bpmOfTaps,
  mapOfFile,
  rampsIn,
  roundedMap,
  roundedTempos,
  scaledTempos,
  tempoEntries,
  withMeter,
  withRamp,
  withoutRamp,
  withTempo,
  withoutMeter,
  withoutTempo,
  type TempoRamp,
} from '.';

const PPQ = 480;
const division = { kind: 'metrical', ticksPerQuarter: PPQ } as const;
const secondsAt = (tempos: readonly TempoChange[], tick: number) =>
  ticksToSeconds(createTempoMap(division, tempos), tick);
const bpms = (tempos: readonly TempoChange[]) =>
  tempos.map(({ tick, microsecondsPerQuarter }) => [tick, Number(bpmOf(microsecondsPerQuarter).toFixed(2))]);

const anyMap = fc
  .array(fc.tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 30, max: 240 })), { maxLength: 8 })
  .map((list) => list.reduce<TempoChange[]>((tempos, [beat, bpm]) => withTempo(tempos, beat * PPQ, bpm), []));

describe('editing a tempo map', () => {
  it('puts a change at a tick in place of one that is there, and takes it out again', () => {
    const two = withTempo(withTempo([], 0, 100), 960, 140);
    expect(bpms(two)).toEqual([
      [0, 100],
      [960, 140],
    ]);
    expect(bpms(withTempo(two, 960, 90))).toEqual([
      [0, 100],
      [960, 90],
    ]);
    expect(bpms(withoutTempo(two, 960))).toEqual([[0, 100]]);
    // The next one then holds from the start; the last of all cannot go.
    expect(bpms(withoutTempo(two, 0))).toEqual([[0, 140]]);
    expect(bpms(withoutTempo(withTempo([], 0, 100), 0))).toEqual([[0, 100]]);
    expect(bpms(withTempo([], 480, 60))).toEqual([
      [0, 120],
      [480, 60],
    ]);
  });

  it('writes whole microseconds: 86.747 bpm are 691,667', () => {
    expect(withTempo([], 0, 86.747)[0].microsecondsPerQuarter).toBe(691667);
  });

  it('ramps take as long as the tempo they stand for: the integral of 60/bpm over the beats', () => {
    // From 60 to 120 over 8 quarters: 8 x 60 ln 2 / 60 s (the mean of 1/x over a straight line, calculus).
    const ramp = withRamp([], { from: 0, to: 8 * PPQ, fromBpm: 60, toBpm: 120, every: PPQ / 4 });
    expect(secondsAt(ramp, 8 * PPQ)).toBeCloseTo(8 * Math.LN2, 4);
    expect(ramp).toHaveLength(33);
    expect(bpms(ramp).at(-1)).toEqual([8 * PPQ, 120]);
    // Rising, and the middle of the music is at the middle of the tempos.
    for (let at = 1; at < ramp.length; at++)
      expect(ramp[at].microsecondsPerQuarter).toBeLessThan(ramp[at - 1].microsecondsPerQuarter);
    expect(() => withRamp([], { from: 10, to: 10, fromBpm: 60, toBpm: 90, every: 5 })).toThrow(
      'end after it begins',
    );
  });

  it('ramps leave what lies before them as it was', () => {
    fc.assert(
      fc.property(anyMap, fc.integer({ min: 1, max: 20 }), (tempos, beats) => {
        const from = 10 * PPQ;
        const ramp = withRamp(tempos, { from, to: from + beats * PPQ, fromBpm: 80, toBpm: 150, every: 120 });
        expect(secondsAt(ramp, from)).toBeCloseTo(secondsAt(tempos, from), 9);
        expect(ramp.every(({ tick }, at) => at === 0 || tick > ramp[at - 1].tick)).toBe(true);
      }),
    );
  });

  const anyRamp = fc.record({
    fromBpm: fc.integer({ min: 40, max: 200 }),
    toBpm: fc.integer({ min: 40, max: 200 }),
    shape: fc.constantFrom<TempoRamp['shape']>('line', 'ease', 'slowStart', 'slowEnd'),
    beats: fc.integer({ min: 2, max: 64 }),
  });

  it('a ramp is known again by its steps: where it goes, from and to what, and how', () => {
    fc.assert(
      fc.property(anyRamp, ({ beats, ...own }) => {
        fc.pre(Math.abs(own.fromBpm - own.toBpm) >= 4);
        const ramp = { ...own, from: 4 * PPQ, to: (4 + beats) * PPQ };
        const tempos = withRamp(withTempo([], 0, 90), { ...ramp, every: PPQ / 4 });
        const [found, ...others] = rampsIn(tempos, PPQ);
        expect(others).toEqual([]);
        expect(found).toMatchObject({ from: ramp.from, to: ramp.to, shape: ramp.shape, isFollowed: false });
        expect(Math.abs(found.fromBpm - ramp.fromBpm)).toBeLessThan(0.06);
        expect(found.toBpm).toBeCloseTo(ramp.toBpm, 2);
        expect(bpms(withoutRamp(tempos, found))).toEqual([[0, 90]]);
      }),
    );
  });

  it('two ramps that meet are two, and tempos of a performance are none', () => {
    const up = withRamp([], { from: 0, to: 16 * PPQ, fromBpm: 80, toBpm: 100, every: 120 });
    const bent = withRamp(up, { from: 16 * PPQ, to: 24 * PPQ, fromBpm: 100, toBpm: 60, every: 120 });
    expect(rampsIn(bent, PPQ).map(({ from, to, isFollowed }) => [from, to, isFollowed])).toEqual([
      [0, 16 * PPQ, true],
      [16 * PPQ, 24 * PPQ, false],
    ]);
    const on = withRamp(up, { from: 16 * PPQ, to: 24 * PPQ, fromBpm: 100, toBpm: 160, every: 120 });
    expect(rampsIn(on, PPQ).map(({ toBpm }) => Math.round(toBpm))).toEqual([100, 160]);
    // Changed, the first leaves the second what it is.
    const [first] = rampsIn(on, PPQ);
    const changed = withRamp(on, { ...first, fromBpm: 70, every: 120 });
    expect(rampsIn(changed, PPQ).map(({ fromBpm }) => Math.round(fromBpm))).toEqual([70, 100]);
    const played = Array.from({ length: 200 }, (_, beat) => ({
      tick: beat * PPQ,
      microsecondsPerQuarter: 500000 + Math.round(20000 * Math.sin(beat * 1.7)),
    }));
    expect(rampsIn(played, PPQ)).toEqual([]);
    // Taken out at the start what it began with is left.
    const whole = withRamp([], { from: 0, to: 8 * PPQ, fromBpm: 90, toBpm: 60, every: 120 });
    expect(bpms(withoutRamp(whole, rampsIn(whole, PPQ)[0]))).toEqual([[0, 90]]);
    expect(rampsIn([], PPQ)).toEqual([]);
  });

  it('twice as fast takes half as long there, and the rest as long as before; back again is the same', () => {
    fc.assert(
      fc.property(
        anyMap,
        fc.integer({ min: 0, max: 20 }),
        fc.integer({ min: 1, max: 20 }),
        (tempos, at, long) => {
          const [from, to, end] = [at * PPQ, (at + long) * PPQ, 60 * PPQ];
          const faster = scaledTempos(tempos, 2, from, to);
          const lasts = (map: readonly TempoChange[], a: number, b: number) =>
            secondsAt(map, b) - secondsAt(map, a);
          expect(lasts(faster, from, to)).toBeCloseTo(lasts(tempos, from, to) / 2, 3);
          expect(lasts(faster, 0, from)).toBeCloseTo(lasts(tempos, 0, from), 9);
          expect(lasts(faster, to, end)).toBeCloseTo(lasts(tempos, to, end), 9);
          expect(lasts(scaledTempos(faster, 0.5, from, to), 0, end)).toBeCloseTo(lasts(tempos, 0, end), 3);
        },
      ),
    );
  });

  it('rounds to whole beats a minute or decimals, and drops what then changes nothing', () => {
    const near = withTempo(withTempo(withTempo([], 0, 100.2), 480, 99.8), 960, 120.44);
    expect(bpms(roundedTempos(near, 0))).toEqual([
      [0, 100],
      [960, 120],
    ]);
    expect(bpms(roundedTempos(near, 1))).toHaveLength(3);
    // A ramp stays one: its ends are rounded, not its steps.
    const ramp = { from: 4 * PPQ, to: 8 * PPQ, fromBpm: 99.7, toBpm: 80.4, every: 120 };
    const back = withTempo(withRamp(near, ramp), 8 * PPQ, 120.3);
    const rounded = roundedMap(back, 0, PPQ);
    expect(tempoEntries(rounded, PPQ).map((entry) => [entry.tick, entry.bpm, entry.ramp?.toBpm])).toEqual([
      [0, expect.closeTo(100), undefined],
      [960, expect.closeTo(120), undefined],
      [4 * PPQ, 100, 80],
      [8 * PPQ, expect.closeTo(120), undefined],
    ]);
  });

  it('meters begin at bar lines', () => {
    const meters = withMeter([], { tick: 5 * PPQ, numerator: 3, denominator: 4 }, PPQ);
    expect(meters).toEqual([
      { tick: 0, numerator: 4, denominator: 4 },
      { tick: 4 * PPQ, numerator: 3, denominator: 4 },
    ]);
    expect(withoutMeter(meters, 4 * PPQ)).toEqual([{ tick: 0, numerator: 4, denominator: 4 }]);
    expect(withoutMeter(meters, 0)).toEqual([{ tick: 0, numerator: 3, denominator: 4 }]);
  });

  it('takes the map of another file, in the ticks of this session', () => {
    const file = fileOfNotes([[0, 96, 60, 80]], 96, [
      [0, 0xff, 0x51, 0, [0x07, 0xa1, 0x20]],
      [192, 0xff, 0x51, 0, [0x0f, 0x42, 0x40]],
      [0, 0xff, 0x58, 0, [3, 2, 24, 8]],
    ]);
    const bytes = writeMidi(file);
    const peer = parseMidi(bytes).tracks.flat();
    expect(peer.filter(({ type }) => type === 'setTempo')).toHaveLength(2);
    expect(mapOfFile(readMidi(bytes).file, PPQ)).toEqual({
      tempos: [
        { tick: 0, microsecondsPerQuarter: 500000 },
        { tick: 960, microsecondsPerQuarter: 1000000 },
      ],
      meters: [{ tick: 0, numerator: 3, denominator: 4 }],
    });
    const smpte = { ...file, division: { kind: 'smpte', framesPerSecond: 25, ticksPerFrame: 40 } as const };
    expect(() => mapOfFile(smpte, PPQ)).toThrow('counts frames');
  });

  it('taps tell a tempo by the median of what lies between them', () => {
    expect(bpmOfTaps([0, 0.5])).toBeNull();
    expect(bpmOfTaps([0, 0.5, 1, 1.52, 2, 2.9])).toBeCloseTo(120, 6);
  });
});
