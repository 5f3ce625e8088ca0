import fc from 'fast-check';
import { lanesIn, readLane, type LanePoints } from '../curves';
import { createEventBuilder } from '../midi';
import { noteTableOf } from '../model';
import { createTimeline } from '../time';
import { applyStep, createStep, type CurveEdit } from '.';
import { applyCurveEdits } from './curveEdits';

const TIMELINE = createTimeline({ kind: 'metrical', ticksPerQuarter: 480 }, [], []);
const CONTEXT = { timeline: TIMELINE, isDrums: false };

/** Many short notes with a controller point in each. */
function crowd(count: number) {
  const builder = createEventBuilder(count * 2);
  for (let index = 0; index < count; index++) {
    builder.add(index * 100 + 10, 0xb0, 11, index % 128);
    builder.add(index * 100 + 20, 0xb0, 64, index % 2 === 0 ? 127 : 0);
  }
  const notes = noteTableOf(
    Array.from({ length: count }, (_, id) => ({ id, start: id * 100, end: id * 100 + 50, pitch: 60 })),
  );
  return { notes, events: builder.build() };
}

describe('what a step may make', () => {
  it.each([
    ['a wave over a million bars', { op: 'wave', where: { bars: [1, 1_000_000] } }],
    ['a wave through every bar there can be, of a rate of its own', { op: 'wave', rate: { note: '1/8' }, where: { bars: [1, 1_000_000] } }],
  ])('is bounded, and said: %s', (_, settings) => {
    const material = crowd(100);
    const step = createStep('curve', settings as never);
    expect(() => applyStep(material, step, CONTEXT)).toThrow('more than 1,000,000 points');
  });

  it.each([
    ['thinning', createStep('curve', { op: 'thin', where: { pitch: [60, 60] } })],
    ['a wave', createStep('curve', { op: 'wave', where: { pitch: [60, 60] } })],
    ['a ramp', createStep('curve', { op: 'ramp', where: { pitch: [60, 60] } })],
    [
      'dynamic marks',
      createStep('curve', {
        op: 'marks',
        marks: Array.from({ length: 10_000 }, (_, at) => ({ at: at * 100, mark: at % 2 === 0 ? ('p' as const) : ('f' as const), hairpin: true })),
      }),
    ],
    [
      'presses',
      createStep('pedal', {
        op: 'draw',
        spans: Array.from({ length: 10_000 }, (_, at): [number, number] => [at * 100, at * 100 + 50]),
      }),
    ],
  ])('costs no more than its notes and points: %s over 10,000 stretches', (_, step) => {
    const material = crowd(10_000);
    expect(applyStep(material, step, CONTEXT).events.length).toBeGreaterThan(1000);
  });
}); // prettier-ignore

describe('edits of lanes laid over each other', () => {
  it('are what they would be one after the other', () => {
    const stretch = fc.tuple(fc.nat(40), fc.nat(12), fc.array(fc.tuple(fc.nat(60), fc.nat(127)), { maxLength: 4 }));
    const some = fc.array(fc.tuple(fc.nat(60), fc.nat(127)), { maxLength: 12 });
    fc.assert(
      fc.property(some, fc.array(stretch, { maxLength: 8 }), (there, stretches) => {
        const builder = createEventBuilder();
        for (const [at, value] of [...there].sort((a, b) => a[0] - b[0])) builder.add(at, 0xb0, 11, value);
        const events = builder.build();
        const edits = stretches.map(([from, length, points]): CurveEdit => ({
          lane: 'cc11',
          channel: 1,
          from,
          to: from + length,
          points: points.map(([at, value]) => ({ at, value })),
        }));
        const plain = (points: LanePoints) => Array.from(points.tick, (tick, row) => [tick, points.value[row]]);
        const oneByOne = edits.reduce((current, { from, to, points }) => {
          const fresh = points.filter(({ at }) => at >= from && at <= to).sort((a, b) => a.at - b.at);
          const before = current.filter(([tick]) => tick < from);
          const after = current.filter(([tick]) => tick > to);
          return [...before, ...fresh.map(({ at, value }) => [at, value]), ...after];
        }, plain(readLane(events, 'cc11', 0)));
        const made = applyCurveEdits(events, edits);
        expect(plain(readLane(made, 'cc11', 0))).toEqual(oneByOne);
        expect(lanesIn(made).length).toBe(oneByOne.length > 0 ? 1 : 0);
      }),
    );
  });
}); // prettier-ignore
