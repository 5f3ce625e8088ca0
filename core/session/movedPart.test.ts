import fc from 'fast-check';
import { bringParts, mergedPart } from '../arranging';
import { beforeFold, foldSteps } from '../evaluate';
import { note, opened, put, tempo, withSteps } from '../testing/quay';
import { STEPS_OF_EVERY_KIND } from '../testing/extremes';
import {
  STEP_KINDS,
  createStep,
  keptInTime,
  kindOf,
  mapThen,
  placeIn,
  placedStep,
  scaled,
  type Placing,
} from '../steps';
import { chosenIn, numbersOf, takesOfPart, withTakes } from '../takes';
import { lockedIn, lockedPart, shiftedPart, shiftedSession, underMap } from '../tempo';
import { createTimeline, ticksToSeconds } from '../time';
import { listOf, orderedOf, timelineOf, type Part, type Session } from '.';

const stepsOf = (part: Part) => listOf(part.steps).map(({ step }) => step);
const SLOW = [{ tick: 0, microsecondsPerQuarter: 1_000_000 }];
const slower = (session: Session) =>
  underMap(
    session,
    { tempos: SLOW, meters: session.meters },
    timelineOf(session),
    createTimeline(session.division, SLOW, session.meters),
  );
const mergeOf = (parts: readonly Part[], session: Session, id = 'x') =>
  mergedPart(
    parts,
    {
      mode: 'layer',
      doubles: { keep: 'both', withinMs: 30 },
      oneChannel: false,
      lead: parts[0].id,
      name: id,
    },
    [],
    id,
    numbersOf(session),
  );

describe('what a part says, brought into another session', () => {
  it('goes along with its score, and with how single bars and notes of it are written', () => {
    const from = opened([note(0, 480, 60)]);
    const to = opened([note(0, 960, 60)], { division: { kind: 'metrical', ticksPerQuarter: 960 } });
    const [part] = listOf(from.session.parts);
    const scored: Part = {
      ...part,
      reference: {
        score: 'key',
        name: 'Quay',
        bars: [0, 4],
        firstBar: 1,
        beginsAt: 8,
        said: [{ at: 480, bar: 0 }],
      },
      notation: { finestIn: [{ bar: 3, finest: 32 }], staffOf: { 7: 1 } },
    };
    const { parts } = bringParts(put(from.session, scored), [part.id], to.session, () => 'new');
    expect(parts[0].reference).toEqual({ ...scored.reference, said: [{ at: 960, bar: 0 }] });
    expect(parts[0].notation?.finestIn).toEqual([{ bar: 3, finest: 32 }]);
    expect(Object.values(parts[0].notation?.staffOf ?? {})).toEqual([1]);
  });

  it('lies by its beats in the ticks there, dynamic marks as well', () => {
    const from = opened([note(0, 480, 60)]);
    const to = opened([note(0, 960, 60)], { division: { kind: 'metrical', ticksPerQuarter: 960 } });
    const [part] = listOf(from.session.parts);
    const marked = withSteps(part, [
      createStep('curve', { op: 'marks', lane: 'cc11', marks: [{ at: 480, mark: 'ff', hairpin: false }] }),
    ]);
    const { parts } = bringParts(put(from.session, marked), [part.id], to.session, () => 'new');
    expect(stepsOf(parts[0])).toMatchObject([{ marks: [{ at: 960 }] }]);
  });

  it('stays at its moments where it is locked to seconds, with all it is made of', () => {
    const from = opened([[tempo(500000), ...note(0, 480, 60)]]);
    const to = opened([[tempo(1000000), ...note(0, 480, 60)]]);
    const [plain] = listOf(from.session.parts);
    const edits = createStep('edits', {
      add: [{ start: 960, end: 1440, pitch: 70, velocity: 80, channel: 1 }],
    });
    const locked = withSteps(lockedPart(plain, 'seconds', timelineOf(from.session)), [edits]);
    const { parts } = bringParts(put(from.session, locked), [plain.id], to.session, () => 'new');
    // At one second there, which is tick 480 here.
    expect(stepsOf(parts[0])).toMatchObject([{ add: [{ start: 480 }] }]);
    const made = { ...mergeOf([plain], from.session), lockedTo: 'seconds' as const };
    const whole = { ...from.session, parts: orderedOf([{ ...plain, setAside: true }, made]) };
    let next = 0;
    const brought = bringParts(whole, ['x'], to.session, () => `new${next++}`);
    expect(brought.parts.map(({ lockedTo }) => lockedTo)).toEqual(['seconds', 'seconds']);
  });

  it('shares no identity with what is there', () => {
    const [a, b] = [opened([note(0, 480, 60)]), opened([note(0, 480, 70)])];
    const brought = bringParts(b.session, b.session.parts.order, a.session, () => 'new');
    for (const [key, take] of b.byKey) a.byKey.set(key, take);
    const session: Session = {
      ...a.session,
      parts: orderedOf([...listOf(a.session.parts), ...brought.parts]),
      nextPiece: brought.nextPiece,
    };
    const ids = listOf(session.parts).flatMap((part) => [
      ...a.evaluator.evaluate(part, session, timelineOf(session)).stages[0].notes.id,
    ]);
    expect(new Set(ids).size).toBe(ids.length);
  });
});

describe('what a part says, under another tempo', () => {
  it('stays where it was in real time, though the part is made of one that lies by its beats', () => {
    const { session, evaluator } = opened([[], note(960, 1440, 60), note(960, 1440, 62)]);
    const [a, b] = listOf(session.parts);
    const x = mergeOf([a, b], session);
    const whole: Session = {
      ...session,
      parts: orderedOf([{ ...a, setAside: true }, { ...b, setAside: true }, x]),
    };
    const seconds = (of: Session) =>
      [...evaluator.evaluate(of.parts.byId.x, of, timelineOf(of)).stages[0].notes.start].map((tick) =>
        ticksToSeconds(timelineOf(of).tempo, tick),
      );
    const locked = put(whole, lockedPart(x, 'seconds', timelineOf(whole)));
    expect(seconds(slower(locked))).toEqual(seconds(locked));
    // Locked by the action its sources go with it, and come back with it.
    const there = lockedIn(whole, 'x', 'seconds', timelineOf(whole));
    expect(listOf(there.parts).every(({ lockedTo }) => lockedTo === 'seconds')).toBe(true);
    const back = lockedIn(there, 'x', 'beats', timelineOf(whole));
    expect(listOf(back.parts).every(({ lockedTo }) => lockedTo === 'beats')).toBe(true);
  });

  it('goes along in what was made permanent: places, and hand edits', () => {
    const { session, evaluator, byKey } = opened([[...note(0, 480, 60), ...note(1920, 2400, 62)]]);
    const [plain] = listOf(session.parts);
    const layer = listOf(plain.layers)[0];
    const piece = { ...listOf(layer.pieces)[0], from: 1920, at: 1920 };
    const cut: Part = {
      ...withSteps(plain, [
        createStep('edits', {
          add: [{ id: 2 ** 52, start: 960, end: 1440, pitch: 70, velocity: 80, channel: 1 }],
        }),
      ]),
      layers: orderedOf([{ ...layer, pieces: orderedOf([piece]) }]),
    };
    const start = (part: Part) => [
      ...evaluator.evaluate(part, put(session, part), timelineOf(session)).stages[0].notes.start,
    ];
    const whole = put(session, cut);
    const folded = foldSteps(cut, whole, evaluator.evaluate(cut, whole, timelineOf(whole)), 1, 0);
    byKey.set(folded.take.key, folded.take);
    const locked = lockedPart(folded.part, 'seconds', timelineOf(whole));
    expect(start(beforeFold(locked) as Part)).toEqual([1920]);
    const after = slower({ ...put(whole, locked), nextPiece: whole.nextPiece + 1 });
    const back = beforeFold(listOf(after.parts)[0]) as Part;
    expect(stepsOf(back)).toMatchObject([{ add: [{ start: 480 }] }]);
  });
});

describe('what a part says, when the music is put on a bar line', () => {
  const { session } = opened([note(1000, 1400, 60)]);
  const timeline = timelineOf(session);
  const [plain] = listOf(session.parts);

  it('keeps the takes that were chosen', () => {
    const part = withTakes(plain, takesOfPart(plain, session));
    const chosen = (of: Part) => [...chosenIn(of, takesOfPart(of, session), [{ from: 1920, to: 3840 }])[0]];
    expect(chosen(part)).toEqual([0]);
    expect(chosen(shiftedPart(part, 920, timeline))).toEqual([0]);
  });

  it('takes hand edits of many notes along, and back', () => {
    const table = {
      key: 'k',
      id: Float64Array.of(0),
      fields: Uint8Array.of(1),
      start: Float64Array.of(1500),
      end: Float64Array.of(0),
      pitch: Uint8Array.of(0),
      velocity: Float64Array.of(0),
      channel: Uint8Array.of(0),
    };
    const own = opened([note(1000, 1400, 60)], { tables: () => table });
    const part = withSteps(plain, [createStep('edits', { table: { key: 'k', changed: 1, deleted: 0 } })]);
    const start = (of: Part) =>
      own.evaluator.evaluate(of, put(session, of), timeline).stages[1].notes.start[0];
    const later = shiftedPart(part, 920, timeline);
    expect(start(later) - start(part)).toBe(920);
    expect(start(shiftedPart(later, -920, timeline))).toBe(start(part));
  });

  it('speaks of the bars that hold the music now, and is off where none of them is left', () => {
    const bars = (from: number, to: number) =>
      createStep('velocity', { add: 5, where: { bars: [from, to] } });
    const whole: Session = put(session, withSteps(plain, [bars(4, 6), bars(1, 2), bars(2, 4)]));
    const [moved] = listOf(shiftedSession(whole, -2 * 1920, timeline).parts);
    expect(stepsOf(moved)).toMatchObject([
      { on: true, where: { bars: [2, 4] } },
      { on: false },
      { on: true, where: { bars: [1, 2] } },
    ]);
  });

  it('moves what a pulse brought to the bars with them', () => {
    const pulse = createStep('pulse', { beats: [[2, 4], [4, 8]] }); // prettier-ignore
    const later = shiftedPart(withSteps(plain, [pulse]), 960, timeline);
    expect(stepsOf(later)).toMatchObject([{ beats: [[4, 6], [6, 10]] }]); // prettier-ignore
  });
});

describe('every kind of step', () => {
  const moves: Record<string, Placing> = {
    twice: scaled(2, 480),
    back: scaled(0.5, 960),
  };
  it('says what it says of places in other ticks, and back the very same', () => {
    expect(new Set(STEPS_OF_EVERY_KIND.map(({ kind }) => kind)).size).toBe(STEP_KINDS.length);
    for (const step of STEPS_OF_EVERY_KIND) {
      const there = placedStep(step, moves.twice);
      expect(kindOf(step.kind).schema.parse(there)).toEqual(there);
      expect(placedStep(there, moves.back)).toEqual(step);
    }
  });

  it('says every number that is told in ticks anew', () => {
    // What the schemas call ticks: places and lengths. A kind that has any has to move them.
    const keys = /"(at|start|end|from|to|ticks|gapTicks|toTicks|limit|spans|messages)":/;
    for (const step of STEPS_OF_EVERY_KIND) {
      const isOfTicks = { nudge: true, edits: true, length: 'legato' in step && step.legato !== undefined }[
        step.kind as string
      ];
      if (!isOfTicks) continue;
      expect(JSON.stringify(step)).toMatch(keys);
      expect(placedStep(step, moves.twice)).not.toEqual(step);
    }
  });
});

describe('a map of ticks kept with hand edits of many notes', () => {
  it('says the same as the moves it was made of, however many', () => {
    const anyTempos = fc.array(
      fc.record({
        tick: fc.nat(20).map((step) => 480 * step),
        microsecondsPerQuarter: fc.integer({ min: 2e5, max: 2e6 }),
      }),
      { maxLength: 6 },
    );
    fc.assert(
      fc.property(
        fc.array(anyTempos, { minLength: 2, maxLength: 5 }),
        fc.array(fc.nat(12_000), { minLength: 1 }),
        (maps, ticks) => {
          const lines = maps.map((tempos) =>
            createTimeline({ kind: 'metrical', ticksPerQuarter: 480 }, tempos, []),
          );
          let map: [number, number][] = [];
          let places = ticks.map((tick) => tick);
          for (let at = 1; at < lines.length; at++) {
            const [before, now] = [lines[at - 1], lines[at]];
            const placing = keptInTime(before, now);
            map = mapThen(map, placing);
            places = places.map((tick) => placing.played(tick));
          }
          ticks.forEach((tick, at) => expect(placeIn(map, tick)).toBeCloseTo(places[at], 4));
        },
      ),
    );
  });
});
