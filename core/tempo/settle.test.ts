import fc from 'fast-check';
import { createEvaluator, exportSession, optionsAsItCame } from '../evaluate';
import { readMidi, writeMidi } from '../midi';
import { takesOfFile, type Take } from '../model';
import { itemOf, listOf, sessionOfFile, sessionSchema, timelineOf, type Session } from '../session';
import { barAt, createTimeline, secondsToTicks, ticksToSeconds } from '../time';
import { fileOfNotes } from '../testing/files';
import {
  gridToPlaying,
  lockedPart,
  playingToGrid,
  settledBeats,
  withBarsSaid,
  withoutBeatsAt,
  type FoundBeats,
} from '.';

const foundAt = (beats: readonly number[], beatsPerBar = 4): FoundBeats => ({
  beats: Float64Array.from(beats),
  downbeats: beats.map((_, beat) => beat).filter((beat) => beat % beatsPerBar === 0),
  beatsPerBar,
  division: 'binary',
  bpm: 100,
  confidence: 1,
  unsure: [],
  sure: new Float32Array(beats.length).fill(1),
});

/** A session of a stroke on each beat, in a file of 120 bpm, 480 ticks a quarter. */
function quay(beats: readonly number[], ticksPerQuarter = 480) {
  let next = 0;
  const strokes = beats.map((at): [number, number, number, number] => {
    const tick = Math.round(at * 2 * ticksPerQuarter);
    return [tick, tick + Math.ceil(ticksPerQuarter / 5), 60, 80];
  });
  const { file } = readMidi(writeMidi(fileOfNotes(strokes, ticksPerQuarter)));
  const { session, takes } = sessionOfFile(file, 'Quay', () => `id${next++}`, 0);
  const evaluator = createEvaluator((key) => takes.find((take) => take.key === key) as Take);
  const [part] = listOf(session.parts);
  const seconds = (of: Session, stage = 0) => {
    const timeline = timelineOf(of);
    const own = itemOf(of.parts, part.id) ?? part;
    const { stages } = evaluator.evaluate(own, of, timeline);
    return [...stages[Math.min(stage, stages.length - 1)].notes.start].map((tick) =>
      ticksToSeconds(timeline.tempo, tick),
    );
  };
  const written = (of: Session) =>
    exportSession(
      of,
      optionsAsItCame(1, of),
      evaluator,
      (key) => takes.find((take) => take.key === key) as Take,
    );
  return { session, part, seconds, written };
}

const anyBeats = fc
  .array(fc.double({ min: 0.4, max: 0.9, noNaN: true }), { minLength: 9, maxLength: 30 })
  .map((gaps) => gaps.reduce<number[]>((beats, gap) => [...beats, beats[beats.length - 1] + gap], [0.5]));

describe('settling a tempo', () => {
  it('keeps every beat, evens out bars, smooths, or draws one line; and says the largest error', () => {
    const found = foundAt([0, 0.52, 1, 1.5, 2, 2.5, 3.1, 3.5, 4]);
    expect(settledBeats(found, 'beats')).toEqual({ settled: { ...found, bpm: 120 }, largestErrorMs: 0 });
    const bars = settledBeats(found, 'bars');
    expect([...bars.settled.beats]).toEqual([0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4]);
    expect(bars.largestErrorMs).toBeCloseTo(100, 6);
    const steady = settledBeats(found, 'steady').settled.beats;
    const gaps = steady.subarray(1).map((at, beat) => at - steady[beat]);
    expect(Math.max(...gaps) - Math.min(...gaps)).toBeLessThan(1e-9);
    const smooth = settledBeats(found, 'smooth');
    expect(smooth.largestErrorMs).toBeLessThan(
      steady.reduce((most, at, beat) => Math.max(most, 1000 * Math.abs(at - found.beats[beat])), 0) + 50,
    );
  });

  it('leaves beats that are even as they are, however it is done', () => {
    const even = foundAt(Array.from({ length: 17 }, (_, beat) => 0.3 + beat * 0.6));
    for (const how of ['beats', 'bars', 'smooth', 'steady'] as const)
      expect(settledBeats(even, how).largestErrorMs).toBeLessThan(1e-6);
  });

  it('puts a bar where it is said to be of a number, by more or fewer bars before it', () => {
    const beats = Array.from({ length: 24 }, (_, beat) => 2.1 + beat * 0.5);
    const { session, part } = quay(beats);
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 40 }), (number) => {
        // The bar that begins with the sixth beat.
        const found = withBarsSaid(foundAt(beats), [{ at: beats[5], beat: 1, bar: number }], 4);
        const after = timelineOf(gridToPlaying(session, [part.id], found, timelineOf(session)));
        const tick = secondsToTicks(after.tempo, beats[5]);
        const bar = barAt(after.meter, tick + 1);
        expect(bar.number).toBe(number);
        expect(Math.abs(bar.start - tick)).toBeLessThan(1);
        // Nothing of it moves in real time: beats still lie on beats.
        const later = secondsToTicks(after.tempo, beats[20]) / 480;
        expect(Math.abs(later - Math.round(later))).toBeLessThan(0.01);
      }),
    );
  });

  it('rounds tempos on request, and carries what that leaves on so that it does not add up', () => {
    fc.assert(
      fc.property(
        anyBeats,
        fc.constantFrom('beats', 'bars', 'steady', 'smooth'),
        fc.constantFrom(1, 0.1),
        (list, how, step) => {
          const found = foundAt(list);
          const { settled, largestErrorMs } = settledBeats(found, how, step);
          const { beats } = settled;
          const spans = how === 'bars' ? found.downbeats : list.map((_, beat) => beat);
          for (let at = 1; at < spans.length; at++) {
            const bpm = (60 * (spans[at] - spans[at - 1])) / (beats[spans[at]] - beats[spans[at - 1]]);
            expect(Math.abs(bpm / step - Math.round(bpm / step))).toBeLessThan(1e-6);
          }
          // A beat of a tempo off by half a step at 67 to 150 bpm is off by less than 7 ms; bars by their beats.
          if (how === 'beats') expect(largestErrorMs).toBeLessThan(7);
        },
      ),
    );
    const steady = settledBeats(
      foundAt(Array.from({ length: 33 }, (_, beat) => 1 + beat * 0.5021)),
      'steady',
      1,
    );
    expect(steady.settled.bpm).toBeCloseTo(119, 9);
    // As much early at one end as late at the other.
    const [first, last] = [steady.settled.beats[0] - 1, steady.settled.beats[32] - (1 + 32 * 0.5021)];
    expect(first).toBeCloseTo(-last, 9);
  });

  it('takes single beats out, and counts the bars on over those that are left', () => {
    const found = foundAt([0, 0.5, 1, 1.25, 1.5, 2, 2.5, 3, 3.5]);
    const left = withoutBeatsAt(found, [1.27, 9]);
    expect([...left.beats]).toEqual([0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5]);
    expect(left.downbeats).toEqual([0, 4]);
    expect(left.sure).toHaveLength(8);
    expect(left.bpm).toBe(120);
    expect(withoutBeatsAt(found, [0.2])).toBe(found);
    expect(withoutBeatsAt(foundAt([1]), [1]).beats).toHaveLength(0);
  });
});

describe('who follows whom', () => {
  it('the grid: the performance stays where it was in real time, and its beats are quarters of the session', () => {
    fc.assert(
      fc.property(anyBeats, (beats) => {
        const { session, part, seconds } = quay(beats);
        const after = gridToPlaying(session, [part.id], foundAt(beats), timelineOf(session));
        expect(() => sessionSchema.parse(structuredClone(after))).not.toThrow();
        const [was, is] = [seconds(session), seconds(after)];
        was.forEach((at, row) => expect(Math.abs(is[row] - at)).toBeLessThan(1e-4));
        const timeline = timelineOf(after);
        const quarters = is.map((at) => {
          const row = timeline.tempo.second.findLastIndex((second) => second <= at + 1e-9);
          return (
            (timeline.tempo.tick[row] +
              (at - timeline.tempo.second[row]) / timeline.tempo.secondsPerTick[row]) /
            480
          );
        });
        // Strokes are rounded to the file's ticks, about a millisecond.
        quarters.forEach((quarter) => expect(Math.abs(quarter - Math.round(quarter))).toBeLessThan(0.004));
      }),
      { numRuns: 40 },
    );
  });

  it('the grid, in a file of few ticks: it is written in more, and no onset moves by over half a millisecond', () => {
    fc.assert(
      fc.property(anyBeats, (beats) => {
        const { session, part, seconds, written } = quay(beats, 96);
        const before = seconds(session);
        const file = readMidi(
          writeMidi(written(gridToPlaying(session, [part.id], foundAt(beats), timelineOf(session)))),
        ).file;
        const [take] = takesOfFile(file, () => '').filter(({ notes }) => notes.length > 0);
        const { tempo } = createTimeline(file.division, take.tempos, take.meters);
        expect(take.notes).toHaveLength(before.length);
        take.notes.start.forEach((tick, row) =>
          expect(Math.abs(ticksToSeconds(tempo, tick) - before[row])).toBeLessThan(0.000505),
        );
        // As it came it is written as it came.
        expect(written(session).division).toEqual({ kind: 'metrical', ticksPerQuarter: 96 });
      }),
      { numRuns: 30 },
    );
  });

  it('the grid, steadily: one tempo, rounded once, after the silence before', () => {
    fc.assert(
      fc.property(anyBeats, (beats) => {
        const { session, part } = quay(beats);
        const { settled } = settledBeats(foundAt(beats), 'steady');
        const { tempos } = gridToPlaying(session, [part.id], settled, timelineOf(session));
        expect(tempos.length).toBeLessThanOrEqual(2);
        const gap = (settled.beats[beats.length - 1] - settled.beats[0]) / (beats.length - 1);
        expect(tempos[tempos.length - 1].microsecondsPerQuarter).toBe(Math.round(1e6 * gap));
      }),
    );
  });

  it('the playing: a pulse step brings every beat onto a beat of the session, the first bar onto a bar line', () => {
    fc.assert(
      fc.property(anyBeats, (beats) => {
        const { session, part, seconds } = quay(beats);
        const step = playingToGrid(foundAt(beats), timelineOf(session));
        if (!step) throw new Error('no step');
        const steps = { order: ['p'], byId: { p: { id: 'p', step } } };
        const after = { ...session, parts: { ...session.parts, byId: { [part.id]: { ...part, steps } } } };
        const placed = seconds(after, 1);
        const first = Math.round(placed[0] / 2) * 2;
        placed.forEach((at, beat) => expect(Math.abs(at - (first + beat * 0.5))).toBeLessThan(0.004));
      }),
      { numRuns: 40 },
    );
    expect(playingToGrid(foundAt([1]), timelineOf(quay([1]).session))).toBeNull();
  });

  it('locking to real time and back moves nothing', () => {
    const { session, part } = quay([0.5, 1.2, 1.9]);
    const timeline = timelineOf({
      ...session,
      tempos: [
        { tick: 0, microsecondsPerQuarter: 600000 },
        { tick: 900, microsecondsPerQuarter: 450000 },
      ],
    });
    const there = lockedPart(part, 'seconds', timeline);
    expect(there.lockedTo).toBe('seconds');
    expect(lockedPart(there, 'beats', timeline)).toEqual(part);
    expect(lockedPart(part, 'beats', timeline)).toBe(part);
  });
});
