import { playedAsWritten, scoredSession, WRITTEN } from '../testing/scoredSession';
import { createStep, isByHand } from '../steps';
import { mendsOf } from '../findings';
import { plainBars } from '../following';
import { mapItems, namedIn, orderedOf, type Part } from '../session';
import { beatsByScore, faultsInWords, findingsByScore, scorePageOf } from '.';

/** As it is written, but for a wrong note, one left out, and one that is written nowhere. */
const FAULTY = playedAsWritten(() => 24)
  .map(([start, end, pitch, velocity], at): [number, number, number, number] => [
    start,
    end,
    at === 5 ? pitch + 2 : pitch,
    velocity,
  ])
  .filter((_, at) => at !== 9)
  .concat([[12.5 * 480, 12.9 * 480, 95, 60]])
  .sort((a, b) => a[0] - b[0]);

describe('the written page with the playing on it', () => {
  it('tells every note as right, wrong, missing or extra, and how late it is', () => {
    const { part, session, evaluator, timeline } = scoredSession(FAULTY);
    const page = scorePageOf(part, session, 'played', evaluator, timeline);
    expect(page?.marks.map(({ is }) => is)).toEqual(
      WRITTEN.map(({ at }) => (at === 5 ? 'wrong' : at === 9 ? 'missing' : 'right')),
    );
    // 24 ticks at 120 bpm.
    for (const { is, lateMs } of page?.marks ?? []) if (is === 'right') expect(lateMs).toBeCloseTo(25, 6);
    expect(page?.marks[5].played).toEqual({ above: 1, name: 'C4' });
    expect(page?.extras.map(({ name, after, before, share }) => [name, after, before, share])).toEqual([
      ['B6', 12, 13, expect.closeTo(0.45, 6)],
    ]);
    expect(page?.written.bars).toHaveLength(4);
    expect(page?.written.placeOf.size).toBe(16);
    expect([page?.barNames, page?.barTicks]).toEqual([
      ['1', '2', '3', '4'],
      [0, 1920, 3840, 5760],
    ]);
    const words = page && faultsInWords(page);
    expect(words && [...words]).toEqual([
      [2, 'A#3 is played as C4.'],
      [3, 'C#4 is missing.'],
      [4, 'B6 is extra.'],
    ]);
    expect([page?.isByBars, Math.round(page?.typicalMs ?? 0)]).toEqual([true, 25]);
  });

  it('shows what was cleaned as that, and what was mended by hand as right', () => {
    const { part, session, withSteps, evaluator, timeline } = scoredSession(FAULTY);
    const faults = findingsByScore(part, session, evaluator, timeline) ?? [];
    expect(faults.map(({ kind }) => kind).sort()).toEqual(['extra-note', 'missing-note', 'wrong-note']);
    const [mend] = mendsOf(faults);
    const mended = isByHand(mend)
      ? { ...mend, add: mend.add.map((note) => ({ ...note, id: 2 ** 52 })) }
      : mend;
    const own = withSteps(mended, createStep('score'));
    const page = scorePageOf(own.part, own.session, 'cleaned', evaluator, timeline);
    expect(page?.marks.map(({ is }) => is)).toEqual(WRITTEN.map(() => 'right'));
    expect(page?.extras).toEqual([]);
    for (const { lateMs, id } of page?.marks ?? []) if (id !== 9) expect(lateMs).toBeCloseTo(0, 6);
    expect(findingsByScore(own.part, own.session, evaluator, timeline)).toEqual([]);
  });

  it('is in the order it was played, with what its bars are called in the score', () => {
    const twice = [...playedAsWritten().slice(0, 8), ...playedAsWritten()].map(
      ([, , pitch, velocity], at): [number, number, number, number] => [
        at * 480,
        at * 480 + 400,
        pitch,
        velocity,
      ],
    );
    const { part, session, evaluator, timeline } = scoredSession(twice);
    const page = scorePageOf(part, session, 'played', evaluator, timeline);
    expect(page?.barNames).toEqual(['1', '2', '1', '2', '3', '4']);
    expect(page?.passages).toMatchObject([{ pageBar: 3, from: '2', to: '1', seconds: 4, tick: 3840 }]);
  });

  it('is of each copy of a part by itself, and of two hands together', () => {
    const { part, session, evaluator, timeline } = scoredSession(playedAsWritten());
    const copy = { ...part, id: 'copy' };
    const two = {
      ...session,
      parts: { order: [...session.parts.order, 'copy'], byId: { ...session.parts.byId, copy } },
    };
    expect(scorePageOf(copy, two, 'played', evaluator, timeline)?.partIds).toEqual(['copy']);
    expect(scorePageOf(copy, two, 'played', evaluator, timeline)?.extras).toEqual([]);
    // Each lays another share of the same playing.
    const shareOf = (id: string, label: string): Part => ({
      ...part,
      id,
      layers: mapItems(part.layers, (layer) => ({
        ...layer,
        pieces: mapItems(layer.pieces, (piece) => ({ ...piece, split: { by: 'pitch:58', label } })),
      })),
    });
    const hands = [shareOf('low', 'low'), shareOf('high', 'high')];
    const both = { ...session, parts: orderedOf(hands) };
    const page = scorePageOf(hands[0], both, 'played', evaluator, timeline);
    expect(page?.partIds).toEqual(['low', 'high']);
    expect(page?.marks.map(({ is }) => is)).toEqual(WRITTEN.map(() => 'right'));
    // What is written goes with the session.
    expect(namedIn(both).takes.has(part.reference?.score ?? '')).toBe(true);
  });

  it('is nothing without a score', () => {
    const { part, withPart, evaluator, timeline } = scoredSession(FAULTY);
    const { reference, ...bare } = part;
    expect(reference?.name).toBe('Quay');
    expect(scorePageOf(bare, withPart(bare), 'played', evaluator, timeline)).toBeNull();
    expect(findingsByScore(bare, withPart(bare), evaluator, timeline)).toBeUndefined();
  });
});

describe('a missing note that is put in', () => {
  it('is as late and as loud as those around it', () => {
    const { part, session, evaluator, timeline } = scoredSession(FAULTY);
    const missing = findingsByScore(part, session, evaluator, timeline)?.find(
      ({ kind }) => kind === 'missing-note',
    );
    const [added] = missing?.mend && isByHand(missing.mend) ? missing.mend.add : [];
    expect(added.pitch).toBe(WRITTEN[9].pitch);
    expect(added.start).toBeCloseTo(9 * 480 + 24, 6);
    expect(added.end - added.start).toBeCloseTo(400, 6);
    expect(added.velocity).toBeGreaterThan(76);
    expect(added.velocity).toBeLessThan(83);
  });
});

describe('beats by the score', () => {
  it('are those of a player who is free, with every bar said', () => {
    // Slower and slower: each quarter lasts 20 ticks longer than the one before.
    let tick = 300;
    const free = WRITTEN.map(({ pitch }, at): [number, number, number, number] => {
      const start = tick;
      tick += 400 + 20 * at;
      return [start, start + 300, pitch, 80];
    });
    const { part, session, evaluator, timeline } = scoredSession(free);
    const followed = evaluator.followed(part, session, timeline);
    const told = followed && beatsByScore(followed);
    expect(told?.laid).toHaveLength(16);
    free.forEach(([start], at) => expect(told?.laid?.[at]).toBeCloseTo(start / 960, 6));
    expect(told?.places?.map(({ beat, bar }) => [beat, bar])).toEqual([1, 2, 3, 4].map((bar) => [1, bar]));
    expect([told?.beatsPerBar, told?.division]).toEqual([4, 'binary']);
  });

  it('count dotted quarters in 6/8', () => {
    const written = Array.from({ length: 12 }, (_, at) => ({
      at: at / 2,
      length: 0.5,
      pitch: 60 + ((at * 5) % 13),
      velocity: 80,
    }));
    const played = written.map(({ at, pitch }): [number, number, number, number] => [
      at * 480,
      at * 480 + 200,
      pitch,
      80,
    ]);
    const bars = plainBars([0, 3, 6], [{ at: 0, numerator: 6, denominator: 8 }]);
    const { part, session, evaluator, timeline } = scoredSession(played, written, bars);
    const followed = evaluator.followed(part, session, timeline);
    const told = followed && beatsByScore(followed);
    expect(told?.laid?.map((at) => Math.round(at * 1000))).toEqual([0, 750, 1500, 2250]);
    expect([told?.beatsPerBar, told?.division]).toEqual([2, 'ternary']);
  });
});
