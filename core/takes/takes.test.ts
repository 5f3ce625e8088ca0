import fc from 'fast-check';
import { listOf, orderedOf, sessionSchema, type Part } from '../session';
import { beats, rowsOf, studio } from '../testing/takesStudio';
import type { PlainNote } from '../testing/files';
import {
  choose,
  chosenIn,
  seamsIn,
  slideTake,
  takesOfPart,
  toggle,
  withHeld,
  withTakes,
  withoutTake,
  type Stretch,
} from './partTakes';
import { seamFacts } from './seamFacts';

// 480 ticks a quarter, 4/4 at 120 bpm.
const BAR = 1920;
const bars = (from: number, to: number): Stretch => ({ from: from * BAR, to: to * BAR });

const anyTake = (velocity: number) =>
  fc
    .array(
      fc.tuple(
        fc.integer({ min: 0, max: 4 * BAR }),
        fc.integer({ min: 10, max: 2500 }),
        fc.integer({ min: 60, max: 64 }),
      ),
      {
        minLength: 1,
        maxLength: 16,
      },
    )
    .map((list) => {
      const free = new Map<number, number>();
      return list
        .toSorted((a, b) => a[0] - b[0])
        .flatMap(([start, length, pitch]): PlainNote[] => {
          if ((free.get(pitch) ?? -1) >= start) return [];
          free.set(pitch, start + length);
          return [[start, start + length, pitch, velocity]];
        });
    });
const anyStudio = fc
  .tuple(anyTake(30), anyTake(60), anyTake(90))
  .map((all) => studio(all.map((notes) => ({ notes }))));
const anyChoices = fc.array(
  fc.tuple(fc.integer({ min: 0, max: 4 }), fc.integer({ min: 1, max: 3 }), fc.integer({ min: -1, max: 2 })),
  {
    maxLength: 6,
  },
);

type Studio = ReturnType<typeof studio>;
const chooseAll = ({ part, layer, takes, numbers }: Studio, choices: readonly (readonly number[])[]) =>
  choices.reduce(
    (made, [from, count, take]) =>
      choose(made, layer, bars(from, from + count), takes[take] ?? null, numbers),
    part,
  );

describe('choosing', () => {
  it('lays another take over some bars and the first again around them', () => {
    const quay = studio([{ notes: beats(30) }, { notes: beats(90) }]);
    const chosen = choose(quay.part, quay.layer, bars(1, 2), quay.takes[1], quay.numbers);
    expect(quay.notes(chosen).map(([start, , , velocity]) => [start, velocity])).toEqual(
      beats(0).map(([start]) => [start, start >= BAR && start < 2 * BAR ? 90 : 30]),
    );
    const stretches = [0, 1, 2, 3].map((bar) => bars(bar, bar + 1));
    expect([...chosenIn(chosen, quay.takes, stretches)[0]]).toEqual([0, 1, 0, 0]);
    expect(seamsIn(chosen).map(({ at }) => at)).toEqual([BAR, 2 * BAR]);
    // And back: what is laid is one piece again.
    const back = choose(chosen, quay.layer, bars(1, 2), quay.takes[0], quay.numbers);
    expect(listOf(listOf(back.layers)[0].pieces)).toHaveLength(1);
  });

  it('a take chosen everywhere is that take, whatever was chosen before; identities included', () => {
    fc.assert(
      fc.property(anyStudio, anyChoices, fc.integer({ min: 0, max: 2 }), (quay, choices, take) => {
        const all: Stretch = { from: 0, to: Infinity };
        const alone = choose(quay.part, quay.layer, all, quay.takes[take], quay.numbers);
        const again = choose(chooseAll(quay, choices), quay.layer, all, quay.takes[take], quay.numbers);
        expect(quay.notes(again)).toEqual(quay.notes(alone));
        expect([...quay.laid(again).material.notes.id]).toEqual([...quay.laid(alone).material.notes.id]);
      }),
    );
  });

  it('takes each note from the take that is chosen in its musical bar, once, and none is stuck', () => {
    fc.assert(
      fc.property(anyStudio, anyChoices, (quay, choices) => {
        const made = chooseAll(quay, choices);
        const { material } = quay.laid(made);
        expect(new Set(material.notes.id).size).toBe(material.notes.length);
        const stretches = Array.from({ length: 8 }, (_, bar) => ({
          from: bar * BAR,
          to: bar === 7 ? Infinity : (bar + 1) * BAR,
        }));
        const [row] = chosenIn(made, quay.takes, stretches);
        for (const [start, end, , velocity] of rowsOf(material.notes)) {
          expect(end).toBeGreaterThan(start);
          // A start up to 60 ms (57.6 ticks) ahead of a line belongs to the bar behind it; of a chord the last start
          // decides, 30 ms later at most.
          const bar = Math.floor(start / BAR);
          const isAhead = (bar + 1) * BAR - start < 60 + 29;
          const owners = [row[bar], ...(isAhead ? [row[bar + 1]] : [])];
          expect(owners).toContain([30, 60, 90].indexOf(velocity));
        }
        const session = { ...quay.session, parts: orderedOf([made]), nextPiece: quay.numbers.next };
        expect(sessionSchema.safeParse(session).success).toBe(true);
      }),
    );
  });

  it('leaves bars empty, and a pedal that is down there goes up', () => {
    const quay = studio([{ notes: beats(30), extra: [[0, 0xb0, 64, 127]] }]);
    const made = choose(quay.part, quay.layer, { from: BAR, to: Infinity }, null, quay.numbers);
    expect(quay.notes(made)).toHaveLength(4);
    const { events } = quay.laid(made).material;
    expect([...events.tick].map((tick, row) => [tick, events.data2[row]])).toEqual([
      [0, 127],
      [BAR, 0],
    ]);
  });
});

describe('layers', () => {
  it('are added in the first free layer and taken away again', () => {
    const quay = studio([
      { notes: beats(30) },
      { notes: beats(90).map(([start, end, , velocity]) => [start, end, 72, velocity]) },
    ]);
    const both = toggle(quay.part, bars(1, 2), quay.takes[1], quay.numbers);
    expect(both.layers.order).toHaveLength(2);
    expect(quay.notes(both)).toHaveLength(20);
    const apart = toggle(both, bars(1, 2), quay.takes[1], quay.numbers);
    expect(apart.layers.order).toHaveLength(1);
    expect(quay.notes(apart)).toEqual(quay.notes(quay.part));
  });

  it('of one take twice keep every note apart, and give back the take when the doubles go', () => {
    const quay = studio([{ notes: beats(30) }]);
    const [first] = quay.takes;
    const second = { ...first, id: 'again', slide: 5 };
    const named = withTakes(quay.part, [first, second]);
    const both = toggle(named, { from: 0, to: Infinity }, second, quay.numbers);
    const ids = quay.laid(both).material.notes.id;
    expect(ids).toHaveLength(32);
    expect(new Set(ids).size).toBe(32);
    const once: Part = { ...both, doubles: { keep: 'first', withinMs: 30 } };
    expect(quay.notes(once)).toEqual(quay.notes(quay.part));
    expect(quay.laid(once).dropped).toHaveLength(16);
  });
});

describe('a take', () => {
  it('is slid under the bars it was chosen for', () => {
    const quay = studio([{ notes: beats(30) }, { notes: beats(90) }]);
    const chosen = choose(quay.part, quay.layer, bars(1, 2), quay.takes[1], quay.numbers);
    const slid = slideTake(chosen, quay.takes[1], 480);
    expect(
      quay
        .notes(slid)
        .filter(([, , , velocity]) => velocity === 90)
        .map(([start, , pitch]) => [start, pitch]),
    ).toEqual([
      [BAR, 63],
      [BAR + 480, 60],
      [BAR + 960, 61],
      [BAR + 1440, 62],
    ]);
    expect(takesOfPart(slid, quay.session)[1].slide).toBe(480);
    const earlier = slideTake(chosen, quay.takes[1], -BAR);
    expect(quay.notes(earlier).filter(([, , , velocity]) => velocity === 90)[0]).toEqual([
      BAR,
      BAR + 300,
      60,
      90,
    ]);
  });

  it('that is taken out leaves its bars empty, or to another', () => {
    const quay = studio([{ notes: beats(30) }, { notes: beats(90) }]);
    const chosen = choose(quay.part, quay.layer, bars(1, 2), quay.takes[1], quay.numbers);
    const instead = withoutTake(chosen, quay.takes[1], quay.takes, quay.numbers, quay.takes[0]);
    expect(quay.notes(instead)).toEqual(quay.notes(quay.part));
    const out = withoutTake(chosen, quay.takes[1], quay.takes, quay.numbers);
    expect(quay.notes(out).map(([start]) => start)).toEqual(
      beats(0)
        .map(([start]) => start)
        .filter((start) => start < BAR || start >= 2 * BAR),
    );
    expect(takesOfPart(out, quay.session)).toHaveLength(1);
  });

  it('of a part that names none is what its pieces are of', () => {
    const quay = studio([{ notes: beats(30) }, { notes: beats(90) }]);
    const chosen = choose(quay.part, quay.layer, bars(1, 2), quay.takes[1], quay.numbers);
    const found = takesOfPart({ ...chosen, takes: undefined }, quay.session);
    expect(found.map(({ source }) => source)).toEqual(quay.takes.map(({ source }) => source));
    expect(found.map(({ name }) => name)).toEqual(['Take 1', 'Take 2']);
  });
});

describe('a seam', () => {
  it('tells what rings over it, is cut or early, and can cut for itself', () => {
    const long: PlainNote[] = [
      [0, 100, 60, 30],
      [BAR - 480, BAR + 480, 62, 30],
    ];
    const other: PlainNote[] = [
      [BAR - 20, BAR + 100, 70, 90],
      [BAR + 960, BAR + 1000, 71, 90],
    ];
    const quay = studio([{ notes: long }, { notes: other }]);
    const made = choose(quay.part, quay.layer, { from: BAR, to: Infinity }, quay.takes[1], quay.numbers);
    const factsOf = (of: Part) =>
      seamFacts(
        of,
        quay.laid(of),
        (id) => (id % 2 ** 26 === 1 ? BAR + 480 : 0),
        quay.timeline,
        (at) => at,
      )[0].facts;
    expect(factsOf(made)).toEqual({ at: BAR, ringing: 1, cut: 0, early: 1, jump: null });
    const cut = withHeld(made, seamsIn(made)[0], 'cut');
    expect(factsOf(cut)).toEqual({ at: BAR, ringing: 0, cut: 1, early: 1, jump: null });
    expect(quay.notes(cut).find(([, , pitch]) => pitch === 62)?.[1]).toBe(BAR);
    const back = withHeld(cut, seamsIn(cut)[0], null);
    expect(quay.notes(back)).toEqual(quay.notes(made));
  });

  it('says what jumps under notes that ring over it, and nothing where none does', () => {
    const long: PlainNote[] = [[BAR - 480, BAR + 480, 62, 30]];
    const quay = studio([
      { notes: long, extra: [[0, 0xe0, 0, 96]] },
      {
        notes: beats(90),
        extra: [
          [0, 0xc0, 40, 0],
          ...([
            [101, 0],
            [100, 0],
            [6, 12],
          ].map(([controller, value]) => [1, 0xb0, controller, value]) as [number, number, number, number][]),
        ],
      },
    ]);
    const made = choose(quay.part, quay.layer, { from: BAR, to: Infinity }, quay.takes[1], quay.numbers);
    const factsOf = (of: Part) =>
      seamFacts(
        of,
        quay.laid(of),
        () => BAR + 480,
        quay.timeline,
        (at) => at,
      )[0].facts;
    expect(factsOf(made).jump).toEqual({
      // A bend of 96 * 128 stands half of its range above the centre (MIDI 1.0); the range is two semitones at first.
      from: { program: null, bendCents: 100, bendRange: 200 },
      to: { program: 40, bendCents: 0, bendRange: 1200 },
    });
    expect(factsOf(withHeld(made, seamsIn(made)[0], 'cut')).jump).toBeNull();
  });
});
