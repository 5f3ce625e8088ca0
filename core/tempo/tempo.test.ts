import fc from 'fast-check';
import { readMidi, writeMidi } from '../midi';
import { joinTables, takesOfFile } from '../model';
import { barAt, createTimeline, ticksToSeconds } from '../time';
import { fileOfNotes } from '../testing/files';
import {
  bpmOfBeats,
  findBeats,
  mapOfBeats,
  steadyBeats,
  steadyLine,
  underFoundMap,
  type FoundBeats,
} from '.';
import { inPhase, soundingOf } from './phase';

/**
 * Bars of a bass note, a chord and a kit, at beats that are given in seconds; a file at 120 bpm, 480 ticks a quarter
 * (a second is 960 ticks).
 */
function played(beats: readonly number[], beatsPerBar: number, scatter: (at: number) => number = () => 0) {
  const ticks = (second: number) => Math.max(0, Math.round(second * 960));
  const notes = beats.flatMap((at, beat): [number, number, number, number, number?][] => {
    const next = beats.at(beat + 1) ?? at + 0.5;
    const isFirst = beat % beatsPerBar === 0;
    const put = (offset: number, length: number, pitch: number, velocity: number, channel = 0) =>
      [ticks(at + offset + scatter(pitch + beat)), ticks(at + offset + length), pitch, velocity, channel] as [
        number,
        number,
        number,
        number,
        number,
      ];
    return [
      put(0, (next - at) * 0.9, isFirst ? 40 + ((beat / beatsPerBar) % 4) * 2 : 55, isFirst ? 96 : 70),
      put(0, (next - at) * 0.8, 64 + ((beat / beatsPerBar) % 3), 72),
      put((next - at) / 2, (next - at) * 0.3, 67, 60),
      put(0, 0.05, isFirst ? 36 : 38, 90, 9),
    ];
  });
  return fileOfNotes(notes.sort((a, b) => a[0] - b[0]));
}

const beatsAt = (bpm: number, count: number, start = 0.5) =>
  Array.from({ length: count }, (_, beat) => start + (beat * 60) / bpm);

function found(file: ReturnType<typeof played>, hints = {}) {
  const takes = takesOfFile(file, () => '');
  const { tempo } = createTimeline(file.division, takes[0].tempos, takes[0].meters);
  return findBeats(joinTables(takes.map(({ notes }) => notes)), tempo, hints);
}

describe('a line through beats', () => {
  it('is arithmetic: 16 beats in 10.2128 s are 94 bpm, 12 in 8.3 s are 86.747', () => {
    const line = (count: number, seconds: number) =>
      60 / steadyLine(Array.from({ length: count + 1 }, (_, beat) => (beat * seconds) / count)).period;
    expect(line(16, 10.2128)).toBeCloseTo(94, 3);
    expect(line(12, 8.3)).toBeCloseTo(86.747, 3);
    expect(steadyLine([0, 1.1, 2]).largestError).toBeCloseTo(1 / 15, 6);
  });
});

describe('finding the beats', () => {
  it('keeps to the beat through bars of triplets among eighths', () => {
    fc.assert(
      fc.property(fc.integer({ min: 76, max: 124 }), fc.integer({ min: 1, max: 1000 }), (bpm, seed) => {
        const meant = beatsAt(bpm, 64);
        const notes = meant.flatMap((at, beat): [number, number, number, number][] => {
          const parts = beat % 24 >= 16 ? 3 : 2;
          return Array.from({ length: parts }, (_, part) => {
            const late = ((((beat * 3 + part) * 7919 + seed * 104729) % 1000) / 500 - 1) * 0.012;
            const start = Math.round((at + (part * 60) / bpm / parts + late) * 960);
            return [start, start + 200, part === 0 ? 48 : 60 + part, part === 0 ? 84 : 70];
          });
        });
        const pulse = found(fileOfNotes(notes.sort((a, b) => a[0] - b[0])));
        expect(pulse.division).toBe('binary');
        const near = pulse.beats.filter((beat) => meant.some((at) => Math.abs(beat - at) < 0.04));
        expect(near.length / pulse.beats.length).toBeGreaterThan(0.98);
        expect(pulse.beats.length).toBeGreaterThan(62);
      }),
      { numRuns: 25 },
    );
  });

  it('finds each of a steady performance, its bars, and its tempo within half a percent', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 70, max: 160 }),
        fc.constantFrom(3, 4),
        fc.integer({ min: 1, max: 1000 }),
        (bpm, beatsPerBar, seed) => {
          const meant = beatsAt(bpm, 12 * beatsPerBar);
          const scatter = (at: number) => ((((at * 7919 + seed * 104729) % 1000) - 500) / 500) * 0.012;
          const pulse = found(played(meant, beatsPerBar, scatter));
          const near = meant.filter((at) => pulse.beats.some((beat) => Math.abs(beat - at) < 0.04));
          expect(near.length / meant.length).toBeGreaterThan(0.95);
          expect(Math.abs(steadyBeats(pulse).bpm / bpm - 1)).toBeLessThan(0.005);
          expect(pulse.beatsPerBar).toBe(beatsPerBar);
          expect(pulse.confidence).toBeGreaterThan(0.6);
        },
      ),
      { numRuns: 25 },
    );
  });

  it('follows a tempo that slows down, and prints no beat after the last note', () => {
    let at = 0.3;
    const meant = Array.from({ length: 64 }, (_, beat) => (at += 0.45 + beat * 0.004));
    const pulse = found(played(meant, 4));
    const near = meant.slice(4).filter((each) => pulse.beats.some((beat) => Math.abs(beat - each) < 0.05));
    expect(near.length).toBeGreaterThan(56);
    expect(pulse.beats[pulse.beats.length - 1]).toBeLessThan(meant[63] + 0.6);
  });

  it('keeps what a person says: a beat that is one, a period that is meant', () => {
    const meant = beatsAt(150, 64);
    const slow = found(played(meant, 4), { period: [0.7, 0.9] });
    expect(slow.bpm).toBeCloseTo(75, 0);
    const off = meant[10] + 0.2;
    const hinted = found(played(meant, 4), { beats: [off] });
    expect(hinted.beats.some((beat) => Math.abs(beat - off) < 0.03)).toBe(true);
  });

  it('goes through long performances in stretches, without a break in the pulse, and begins anew after a silence', () => {
    // 27 minutes at 100 bpm, more than is followed in one go, and after three minutes of silence a little more.
    const meant = [...beatsAt(100, 2700), ...beatsAt(80, 40, 1800)];
    const pulse = found(played(meant, 4));
    const gaps = [...pulse.beats.subarray(1)].map((at, beat) => at - pulse.beats[beat]);
    expect(gaps.slice(0, 2650).every((gap) => Math.abs(gap - 0.6) < 0.02)).toBe(true);
    const near = meant.slice(2704).filter((at) => pulse.beats.some((beat) => Math.abs(beat - at) < 0.04));
    expect(near.length).toBeGreaterThan(30);
  });

  it('takes swung quarters for quarters, not for dotted ones', () => {
    const file = fileOfNotes(
      Array.from({ length: 64 }, (_, beat) => [
        [beat * 480, beat * 480 + 300, beat % 2 === 0 ? 40 : 47, 84] as const,
        [beat * 480, beat * 480 + 280, 64, 70] as const,
        [beat * 480 + 314, beat * 480 + 440, 67, 58] as const,
      ]).flatMap((beat) => beat.map(([...note]): [number, number, number, number] => note)),
    );
    const swung = found(file);
    expect(swung.division).toBe('binary');
    expect(swung.bpm).toBeCloseTo(120, 0);
  });

  it('puts right a pulse that slipped by half a beat, and leaves one that did not', () => {
    fc.assert(
      fc.property(fc.integer({ min: 80, max: 140 }), fc.integer({ min: 16, max: 32 }), (bpm, at) => {
        const meant = beatsAt(bpm, 64);
        const file = played(meant, 4);
        const [take] = takesOfFile(file, () => '');
        const { tempo } = createTimeline(file.division, take.tempos, take.meters);
        const sounding = soundingOf(joinTables(takesOfFile(file, () => '').map(({ notes }) => notes)), tempo);
        const slipped = Float64Array.from(meant, (beat, row) => beat + (row < at ? 0 : 30 / bpm));
        expect([...inPhase(Float64Array.from(meant), sounding).beats]).toEqual(meant);
        const { beats } = inPhase(slipped, sounding);
        const near = meant.filter((beat) => beats.some((each) => Math.abs(each - beat) < 0.02));
        expect(near.length).toBeGreaterThan(61);
      }),
      { numRuns: 20 },
    );
  });

  it('says nothing where there is nothing', () => {
    expect(found(fileOfNotes([])).beats).toHaveLength(0);
    const one = found(fileOfNotes([[0, 10, 60, 80]]));
    expect(one.beats.length).toBeLessThan(2);
    expect(one.confidence).toBe(0);
    expect(() => mapOfBeats(one, 480)).toThrow('Fewer than two beats');
  });
});

describe('a performance under the map of its beats', () => {
  const anyBeats = fc
    .tuple(
      fc.oneof(fc.constant(0), fc.double({ min: 0.05, max: 3, noNaN: true })),
      fc.array(fc.double({ min: 0.3, max: 1.6, noNaN: true }), { minLength: 4, maxLength: 30 }),
    )
    .map(([start, gaps]) =>
      gaps.reduce<number[]>((beats, gap) => [...beats, beats[beats.length - 1] + gap], [start]),
    );
  const placed = (beats: readonly number[], first: number, division: FoundBeats['division']) => ({
    beats: Float64Array.from(beats),
    downbeats: beats.map((_, beat) => beat).filter((beat) => beat >= first && (beat - first) % 3 === 0),
    beatsPerBar: 3,
    division,
  });

  it('has every start and end within a millisecond, the beats on quarters, the first downbeat on a bar line', () => {
    fc.assert(
      fc.property(
        anyBeats,
        fc.nat(2),
        fc.constantFrom<FoundBeats['division']>('binary', 'ternary'),
        (beats, first, division) => {
          const file = played(beats, 3);
          const under = readMidi(writeMidi(underFoundMap(file, placed(beats, first, division)))).file;
          const seconds = (of: typeof file) => {
            const [take] = takesOfFile(of, () => '');
            const { tempo } = createTimeline(of.division, take.tempos, take.meters);
            return [...take.notes.start, ...take.notes.end].map((tick) => ticksToSeconds(tempo, tick));
          };
          const [before, after] = [seconds(file), seconds(under)];
          expect(after).toHaveLength(before.length);
          before.forEach((at, row) => expect(Math.abs(after[row] - at)).toBeLessThan(0.001));
          const [take] = takesOfFile(under, () => '');
          const { tempo, meter, ticksPerQuarter } = createTimeline(under.division, take.tempos, take.meters);
          const beatTicks = ticksPerQuarter * (division === 'ternary' ? 1.5 : 1);
          const tickOf = new Map(
            Array.from({ length: 200 }, (_, beat) => [beat, ticksToSeconds(tempo, beat * beatTicks)]),
          );
          for (const at of beats)
            expect([...tickOf.values()].some((second) => Math.abs(second - at) < 2e-5)).toBe(true);
          const lead = [...tickOf.values()].findIndex((second) => Math.abs(second - beats[0]) < 2e-5);
          const tick = (lead + first) * beatTicks;
          expect(barAt(meter, tick + 0.5).start).toBeCloseTo(tick, 6);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('has as many beats before the first as fit there, and exactly that time', () => {
    const { tempos, meters } = mapOfBeats(placed([2, 2.5, 3, 3.5, 4], 1, 'binary'), 480);
    expect(tempos).toEqual([{ tick: 0, microsecondsPerQuarter: 500000 }]);
    // At 480 ticks a quarter a tick would last more than a millisecond, so there are 960. Four beats before and one:
    // a bar of two, then threes.
    expect(meters).toEqual([
      { tick: 0, numerator: 2, denominator: 4 },
      { tick: 1920, numerator: 3, denominator: 4 },
    ]);
    expect(bpmOfBeats(Float64Array.of(0, 0.5, 1.1, 1.6))).toBe(120);
  });
});
