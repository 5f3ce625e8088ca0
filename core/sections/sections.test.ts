import fc from 'fast-check';
import { conductedFile, sessionOf } from '../testing/markedSession';
import { createEvaluator, exportSession, markersOf } from '../evaluate';
import { readMidi, writeMidi } from '../midi';
import { createTimeline } from '../time';
import type { Session } from '../session';
import { mapsAfter, placesAfter, sectionAt, sectionsOf, type TimeChange } from '.';

const BAR = 1920;
const meter = createTimeline({ kind: 'metrical', ticksPerQuarter: 480 }, [], []).meter;
const marker = (id: string, tick: number) => ({ id, tick, name: id });

describe('sections', () => {
  it('last from their marker to the next, the last one to the end of the last bar', () => {
    const sections = sectionsOf([marker('b', 4 * BAR), marker('a', 0)], meter, 6 * BAR + 10);
    expect(sections.map(({ id, start, end, bars }) => [id, start, end, bars])).toEqual([
      ['a', 0, 4 * BAR, [1, 5]],
      ['b', 4 * BAR, 7 * BAR, [5, 8]],
    ]);
    expect(sectionAt(sections, 4 * BAR - 1)?.id).toBe('a');
    expect(sectionAt(sections, 9 * BAR)?.id).toBe('b');
    expect(sectionAt(sectionsOf([marker('a', BAR)], meter, BAR), 0)).toBeNull();
  });

  it('mean the bar line a marker stands beside, and one bar at least', () => {
    const at = (...ticks: number[]) =>
      sectionsOf(
        ticks.map((tick, index) => marker(String(index), tick)),
        meter,
        8 * BAR,
      ).map(({ bars }) => bars);
    expect(at(BAR - 20, 2 * BAR + 20)).toEqual([
      [2, 3],
      [3, 9],
    ]);
    expect(at(BAR, BAR + 100, 3 * BAR)).toEqual([
      [2, 3],
      [2, 4],
      [4, 9],
    ]);
    expect(sectionsOf([], meter, 0)).toEqual([]);
  });
});

describe('what stands in time after bars were repeated, deleted or put in', () => {
  const anyChange = fc
    .record({
      what: fc.constantFrom<TimeChange['what']>('repeat', 'delete', 'insert'),
      from: fc.nat(8),
      length: fc.integer({ min: 1, max: 4 }),
    })
    .map(({ what, from, length }): TimeChange => ({ what, from: from * BAR, to: (from + length) * BAR }));
  const session = (meters: Session['meters'], tempos: Session['tempos']) => ({
    meters,
    tempos,
    parts: { order: [], byId: {} },
  });

  it('goes along with the music: every tick that stays has the tempo and meter it had', () => {
    const anyTempos = fc.array(
      fc.record({
        tick: fc.nat(14).map((bar) => bar * BAR),
        microsecondsPerQuarter: fc.integer({ min: 3e5, max: 9e5 }),
      }),
      { minLength: 1, maxLength: 5 },
    );
    const held = (tempos: Session['tempos'], tick: number) =>
      [...tempos].sort((a, b) => a.tick - b.tick).findLast((each) => each.tick <= tick)
        ?.microsecondsPerQuarter ?? 500000;
    fc.assert(
      fc.property(anyTempos, anyChange, (tempos, change) => {
        const after = mapsAfter(session([], tempos), undefined, change, () => 'new');
        for (let tick = 60; tick < 16 * BAR; tick += BAR / 2)
          for (const place of placesAfter(change, tick))
            expect(held(after.tempos, place)).toBe(held(tempos, tick));
      }),
    );
  });

  it('puts a marker that is repeated there twice, under ids of their own', () => {
    const { markers } = mapsAfter(
      session([], []),
      [marker('a', 0), marker('b', 4 * BAR), marker('c', 8 * BAR)],
      { what: 'repeat', from: 4 * BAR, to: 8 * BAR },
      () => 'new',
    );
    expect(markers).toEqual([
      marker('a', 0),
      marker('b', 4 * BAR),
      { ...marker('b', 8 * BAR), id: 'new' },
      marker('c', 12 * BAR),
    ]);
  });

  it('leaves a section its marker while anything of it is left', () => {
    const markers = [marker('a', 0), marker('b', 4 * BAR), marker('c', 8 * BAR)];
    const left = (from: number, to: number) =>
      mapsAfter(
        session([], []),
        markers,
        { what: 'delete', from: from * BAR, to: to * BAR },
        () => 'new',
        12 * BAR,
      ).markers;
    expect(left(4, 5)).toEqual([marker('a', 0), marker('b', 4 * BAR), marker('c', 7 * BAR)]);
    expect(left(4, 8)).toEqual([marker('a', 0), marker('c', 4 * BAR)]);
    expect(left(2, 6)).toEqual([marker('a', 0), marker('b', 2 * BAR), marker('c', 4 * BAR)]);
    expect(left(3, 10)).toEqual([marker('a', 0), marker('c', 3 * BAR)]);
    expect(left(8, 12)).toEqual([marker('a', 0), marker('b', 4 * BAR)]);
  });
});

describe('markers in files', () => {
  const { bytes } = conductedFile([
    [0, 'Intro'],
    [4 * BAR, 'Verse'],
  ]);

  it('are read, and go out untouched where nothing was done to them', () => {
    const { session, takes } = sessionOf(bytes);
    expect(markersOf(session, takes).map(({ tick, name }) => [tick, name])).toEqual([
      [0, 'Intro'],
      [4 * BAR, 'Verse'],
    ]);
    const options = { format: 1, version: 'cleaned', parts: session.parts.order } as const;
    const file = exportSession(session, options, createEvaluator(takes), takes);
    expect(writeMidi(file)).toEqual(bytes);
  });

  it('are written as a person left them, in place of those that were there, and so are tempo and meter', () => {
    const { session, takes } = sessionOf(bytes);
    const changed: Session = {
      ...session,
      markers: [...markersOf(session, takes).slice(1), { id: 'x', tick: 6 * BAR, name: 'Brücke' }],
      tempos: [{ tick: 0, microsecondsPerQuarter: 600000 }],
    };
    for (const format of [0, 1] as const) {
      const options = { format, version: 'cleaned', parts: session.parts.order } as const;
      const written = sessionOf(writeMidi(exportSession(changed, options, createEvaluator(takes), takes)));
      expect(markersOf(written.session, written.takes).map(({ tick, name }) => [tick, name])).toEqual([
        [4 * BAR, 'Verse'],
        [6 * BAR, 'Brücke'],
      ]);
      expect(written.session.tempos).toEqual(changed.tempos);
      expect(written.session.meters).toEqual(session.meters);
      expect(written.notes).toBe(sessionOf(bytes).notes);
    }
    expect(() => readMidi(bytes)).not.toThrow();
  });
});
