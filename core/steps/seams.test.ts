import fc from 'fast-check';
import { heldValue, largestHeldError, pointsOf, readLane, restingRaw, writeLanes } from '../curves';
import { noteTableOf, type Material } from '../model';
import { context, noEvents } from '../testing/stepBench';
import { applyStep, createStep, type CurveStep, type Step } from '.';

const BAR = 3840;
const ONE = { ...context, channel: 0 };

/** Material with lanes on channel 1, by raw values. */
function lanesOf(
  lanes: Record<string, [tick: number, value: number][]>,
  notes: Material['notes'] = noteTableOf([]),
): Material {
  const changes = Object.entries(lanes).map(([lane, list]) => ({
    lane,
    channel: 0,
    points: pointsOf(list.map(([tick, value]) => ({ tick, value }))),
  }));
  return { notes, events: writeLanes(noEvents, changes) };
}

const after = (material: Material, step: Step, lane: string): [number, number][] => {
  const { tick, value } = readLane(applyStep(material, step, ONE).events, lane, 0);
  return Array.from(tick, (at, row) => [at, value[row]]);
};

const curve = (settings: { op: CurveStep['op'] } & Record<string, unknown>) =>
  createStep('curve', settings as Partial<CurveStep>);

describe('the seams of what a step rewrites in a lane', () => {
  const bars = { bars: [3, 5] } as const;

  it('a value that holds into the bars from before is content of them', () => {
    const early = lanesOf({ cc11: [[0, 100]] });
    expect(after(early, curve({ op: 'scale', percent: 50, where: bars }), 'cc11')).toEqual([
      [0, 100],
      [2 * BAR, 50],
      [4 * BAR, 100],
    ]);
    expect(after(early, curve({ op: 'convert', to: 'cc1', where: bars }), 'cc1')).toEqual([
      [2 * BAR, 100],
      [4 * BAR, 0],
    ]);
  });

  it('a ramp comes back to the value that held', () => {
    const ramp = curve({ op: 'ramp', from: 0, to: 1, where: bars });
    expect(after(lanesOf({ cc11: [[0, 90]] }), ramp, 'cc11').at(-1)).toEqual([4 * BAR, 90]);
  });

  // What devices start from: common practice.
  const RESTS = { bend: 8192, pressure: 0, cc1: 0, cc2: 0, cc7: 100, cc8: 64, cc10: 64, cc11: 127, cc64: 0, cc74: 0 }; // prettier-ignore

  it.each(Object.entries(RESTS))(
    '%s goes back to rest behind what is written where nothing was',
    (lane, rest) => {
      const points = [{ at: 2 * BAR, value: 20 }, { at: 3 * BAR, value: 30 }]; // prettier-ignore
      const written = {
        ramp: curve({ op: 'ramp', lane, from: 20, to: 30, where: bars }),
        wave: curve({ op: 'wave', lane, depth: 20, rate: { hz: 3 }, where: bars }),
        draw: curve({ op: 'draw', lane, points }),
        copy: curve({ op: 'copy', lane: 'cc20', to: lane, where: bars }),
        convert: curve({ op: 'convert', lane: 'cc20', to: lane, where: bars }),
      };
      for (const [op, step] of Object.entries(written)) {
        const end = op === 'draw' ? 3 * BAR + 1 : 4 * BAR;
        const full = lanesOf({ cc20: [[0, 33]] });
        expect([op, after(full, step, lane).at(-1)]).toEqual([op, [end, rest]]);
        // What the lane holds from later on is no content of it yet.
        const later = lanesOf({ cc20: [[0, 33]], [lane]: [[5 * BAR, 70]] });
        expect([op, after(later, step, lane).slice(-2)]).toEqual([op, [[end, rest], [5 * BAR, 70]]]); // prettier-ignore
      }
    },
  );

  it('a single point that is drawn where nothing was holds on', () => {
    const one = curve({ op: 'draw', lane: 'cc7', points: [{ at: BAR, value: 70 }] });
    expect(after(lanesOf({}), one, 'cc7')).toEqual([[BAR, 70]]);
    expect(after(lanesOf({ cc7: [[0, 90]] }), one, 'cc7')).toEqual([[0, 90], [BAR, 70], [BAR + 1, 90]]); // prettier-ignore
  });

  it('without bars it reaches to the end of the music and stays', () => {
    const copied = after(lanesOf({ cc20: [[0, 33]] }), curve({ op: 'copy', lane: 'cc20', to: 'cc1' }), 'cc1');
    expect(copied).toEqual([[0, 33]]);
  });

  it('converting leaves nothing of what the other lane held there, and lets it hold on behind', () => {
    const both = lanesOf({ cc1: [[2 * BAR + 100, 30], [3 * BAR, 40]], cc11: [[0, 90], [2 * BAR + 200, 20], [3 * BAR, 25]] }); // prettier-ignore
    const convert = curve({ op: 'convert', lane: 'cc1', to: 'cc11', where: bars });
    expect(after(both, convert, 'cc11')).toEqual([
      [0, 90],
      [2 * BAR + 100, 30],
      [3 * BAR, 40],
      [4 * BAR, 25],
    ]);
  });

  it('a bend ramped to the end of its lane stays there, and does not jump to the other end', () => {
    const { events } = applyStep(
      lanesOf({ bend: [[0, 8192]] }),
      curve({ op: 'ramp', lane: 'bend', from: 0, to: 200, where: bars }),
      ONE,
    );
    const { tick, value } = readLane(events, 'bend', 0);
    expect([tick.at(-1), value.at(-1), value.at(-2)]).toEqual([4 * BAR, 8192, 16383]);
    for (let row = 2; row < value.length - 1; row++) expect(value[row]).toBeGreaterThan(value[row - 1]);
  });

  it('whatever is done in some bars, outside of them every value is heard as before', () => {
    const value = fc.integer({ min: 0, max: 127 });
    const list = fc
      .uniqueArray(fc.tuple(fc.nat(6 * BAR), value), { selector: ([tick]) => tick, maxLength: 12 })
      .map((points) => points.sort(([a], [b]) => a - b));
    const kinds = fc.constantFrom<Record<string, unknown> & { op: CurveStep['op'] }>(
      { op: 'scale', percent: 40 },
      { op: 'add', amount: 30 },
      { op: 'limit', range: [30, 60] },
      { op: 'invert' },
      { op: 'smooth', ms: 300 },
      { op: 'thin', tolerance: 20 },
      { op: 'ramp', from: 5, to: 99 },
      { op: 'remove' },
      { op: 'convert', to: 'cc1' },
      { op: 'copy', to: 'cc1' },
    );
    fc.assert(
      fc.property(list, list, kinds, fc.nat(6 * BAR), (one, other, settings, at) => {
        fc.pre(at < 2 * BAR || at >= 4 * BAR);
        const material = lanesOf({ cc11: one, cc1: other });
        const { events } = applyStep(material, curve({ ...settings, where: bars }), ONE);
        for (const lane of ['cc11', 'cc1']) {
          const [before, now] = [material.events, events].map((all) => readLane(all, lane, 0));
          // What a lane held before anything was sent need not be sent again.
          if (before.tick[0] <= at)
            expect([lane, heldValue(now, at, NaN)]).toEqual([lane, heldValue(before, at, NaN)]);
        }
      }),
    );
  });
});

describe('what goes along with moved notes', () => {
  const PEDAL: [number, number][] = [[100, 127], [900, 0], [2000, 127], [2900, 0]]; // prettier-ignore
  const notes = noteTableOf([
    { id: 1, start: 0, end: 800, pitch: 60 },
    { id: 2, start: 960, end: 1700, pitch: 62 },
    { id: 3, start: 1920, end: 2800, pitch: 64 },
  ]);

  it('is every controller of the part without a where, before its first note and after its last', () => {
    const late = lanesOf({ cc64: [[0, 127], [5000, 0]] }, notes); // prettier-ignore
    expect(after(late, createStep('nudge', { ticks: 240 }), 'cc64')).toEqual([[240, 127], [5240, 0]]); // prettier-ignore
    expect(after(late, createStep('stretch', { factor: 2 }), 'cc64')).toEqual([[0, 127], [10000, 0]]); // prettier-ignore
    expect(after(late, createStep('nudge', { ticks: -240 }), 'cc64')).toEqual([[0, 127], [4760, 0]]); // prettier-ignore
  });

  it('is with selected notes what lies between them and the next other note', () => {
    const pedalled = lanesOf({ cc64: PEDAL }, notes);
    const later = createStep('nudge', { ticks: 40, where: { notes: [1] } });
    expect(after(pedalled, later, 'cc64')).toEqual([[140, 127], [940, 0], [2000, 127], [2900, 0]]); // prettier-ignore
    const second = createStep('nudge', { ticks: 40, where: { notes: [2] } });
    expect(after(pedalled, second, 'cc64')).toEqual(PEDAL);
  });

  it('is with bars what lies in them, and behind their new place holds what held there', () => {
    const lane = lanesOf(
      { cc11: [[0, 90], [BAR + 100, 20], [2 * BAR, 64]] }, // prettier-ignore
      noteTableOf([{ id: 1, start: BAR, end: BAR + 400, pitch: 60 }]),
    );
    const later = createStep('nudge', { ticks: BAR, where: { bars: [2, 3] } });
    expect(after(lane, later, 'cc11')).toEqual([
      [0, 90],
      // The old place, and the new one up to its own first point, hold what held into the bar.
      [2 * BAR + 100, 20],
      [3 * BAR, 64],
    ]);
  });

  it('leaves every value outside the old and the new place as it was', () => {
    const value = fc.integer({ min: 0, max: 127 });
    const list = fc
      .uniqueArray(fc.tuple(fc.nat(6 * BAR), value), { selector: ([tick]) => tick, maxLength: 12 })
      .map((points) => points.sort(([a], [b]) => a - b));
    const played = noteTableOf([{ id: 1, start: 2 * BAR + 10, end: 2 * BAR + 400, pitch: 60 }]);
    fc.assert(
      fc.property(list, fc.integer({ min: -BAR, max: BAR }), fc.nat(6 * BAR), (points, ticks, at) => {
        const [low, high] = [2 * BAR + Math.min(0, ticks), 3 * BAR + Math.max(0, ticks)];
        fc.pre(at < low || at >= high);
        const material = lanesOf({ cc11: points }, played);
        const { events } = applyStep(material, createStep('nudge', { ticks, where: { bars: [3, 4] } }), ONE);
        const held = (all: Material['events']) => heldValue(readLane(all, 'cc11', 0), at, restingRaw('cc11'));
        expect(held(events)).toBe(held(material.events));
      }),
    );
  });
});

describe('thinning by what is held', () => {
  const points: [number, number][] = [[0, 10], [10, 11], [20, 12], [30, 13], [40, 13], [50, 20], [60, 21]]; // prettier-ignore

  it('drops what is near enough to the value that holds, and keeps first and last as they are', () => {
    const thin = curve({ op: 'thin', tolerance: 2 });
    expect(thin).toMatchObject({ by: 'held' });
    expect(after(lanesOf({ cc11: points }), thin, 'cc11')).toEqual([[0, 10], [30, 13], [50, 20], [60, 21]]); // prettier-ignore
  });

  it('is never farther off than the tolerance, at any time', () => {
    const list = fc.array(fc.integer({ min: 0, max: 127 }), { minLength: 1, maxLength: 40 });
    fc.assert(
      fc.property(list, fc.nat(20), (values, tolerance) => {
        const lane = values.map((value, at): [number, number] => [at * 10, value]);
        const kept = pointsOf(
          after(lanesOf({ cc11: lane }), curve({ op: 'thin', tolerance }), 'cc11').map(([tick, value]) => ({ tick, value })), // prettier-ignore
        );
        for (const [tick, value] of lane)
          expect(Math.abs(heldValue(kept, tick, NaN) - value)).toBeLessThanOrEqual(tolerance);
        const points = pointsOf(lane.map(([tick, value]) => ({ tick, value })));
        expect(largestHeldError(points, kept).error).toBe(
          Math.max(...lane.map(([tick, value]) => Math.abs(heldValue(kept, tick, NaN) - value))),
        );
        expect(kept.tick.at(-1)).toBe(lane.at(-1)?.[0]);
      }),
    );
  });
});
