import { mergedPart } from '../arranging';
import {
  itemOf,
  listOf,
  mapItems,
  namedBy,
  orderedOf,
  timelineOf,
  withSources,
  type Part,
  type Session,
} from '../session';
import { createStep } from '../steps';
import { numbersOf } from '../takes';
import type { RawEvent } from '../testing/files';
import { named, note, opened, put, withSteps } from '../testing/quay';
import { checkExport, chosenParts, createEvaluator, exportSession, partsHeard } from '.';

const aside = (part: Part): Part => ({ ...part, setAside: true });

describe('what parts ask of each other', () => {
  it('comes to an end, though two merges of notes and pedal are on one channel', () => {
    const { session, evaluator } = opened([
      [],
      [named('right'), ...note(0, 480, 72)],
      [named('right pedal'), [0, 0xb0, 64, 127], [480, 0xb0, 64, 0]],
      [named('left'), ...note(0, 480, 48)],
      [named('left pedal'), [0, 0xb0, 67, 127], [480, 0xb0, 67, 0]],
    ]);
    const [right, rightPedal, left, leftPedal] = listOf(session.parts);
    const numbers = numbersOf(session);
    const how = { mode: 'layer', doubles: { keep: 'both', withinMs: 30 }, oneChannel: false } as const;
    const x = mergedPart([right, rightPedal], { ...how, lead: right.id, name: 'X' }, [], 'x', numbers);
    const y = mergedPart([left, leftPedal], { ...how, lead: left.id, name: 'Y' }, [], 'y', numbers);
    const merged: Session = {
      ...session,
      parts: orderedOf([...listOf(mapItems(session.parts, aside)), x, y]),
      nextPiece: numbers.next,
    };
    for (const part of [x, y])
      expect(evaluator.evaluate(part, merged, timelineOf(merged)).stages.at(-1)?.notes.length).toBe(1);
  });

  it('is asked once each, however often parts are made of the same', () => {
    const { session, takeOf } = opened([[], note(0, 480, 60), note(0, 480, 62)]);
    let asked = 0;
    const evaluator = createEvaluator((key) => {
      asked++;
      return takeOf(key);
    });
    let pair = [...listOf(session.parts)];
    const all = [...pair];
    const numbers = numbersOf(session);
    const how = { mode: 'layer', doubles: { keep: 'first', withinMs: 30 }, oneChannel: false } as const;
    for (let level = 0; level < 16; level++) {
      const before = pair;
      pair = [0, 1].map((side) =>
        mergedPart(
          before,
          { ...how, lead: before[side].id, name: `${level}.${side}` },
          [],
          `p${level}.${side}`,
          numbers,
        ),
      );
      all.push(...pair);
    }
    const [top] = pair;
    const whole: Session = {
      ...session,
      parts: orderedOf(all.map((part) => (part === top ? part : aside(part)))),
    };
    expect(evaluator.evaluate(top, whole, timelineOf(whole)).stages[0].notes.length).toBe(2);
    // Sixteen levels of two would be 65,536 ways down to the takes.
    expect(asked).toBeLessThan(2000);
  });

  it('names every part that is heard: those on the channel of a source as well', () => {
    const onSecond = note(0, 480, 60).map(([tick, status, pitch, velocity]): RawEvent => [
      tick,
      status | 1,
      pitch,
      velocity,
    ]);
    const { session, takeOf } = opened([[], note(0, 480, 60), onSecond, [[0, 0xb1, 64, 127], [960, 0xb1, 64, 0]]]); // prettier-ignore
    const [a, c, pedal] = listOf(session.parts);
    const how = { mode: 'layer', doubles: { keep: 'both', withinMs: 30 }, oneChannel: false } as const;
    const x = mergedPart([a, c], { ...how, lead: a.id, name: 'X' }, [], 'x', numbersOf(session));
    const held = withSteps(aside(c), [createStep('length', { hold: 'fromPedal' })]);
    const merged: Session = { ...session, parts: orderedOf([aside(a), held, pedal, x]) };
    const heard = partsHeard(x, merged);
    expect(heard.map(({ id }) => id)).toContain(pedal.id);
    // With what is named loaded, and nothing else, it can be evaluated.
    const loaded = new Set(
      withSources(merged, [x.id, ...heard.map(({ id }) => id)]).flatMap((part) => [...namedBy(part).takes]),
    );
    const evaluator = createEvaluator((key) => {
      if (!loaded.has(key)) throw new Error('not loaded');
      return takeOf(key);
    });
    expect([...evaluator.evaluate(x, merged, timelineOf(merged)).stages[0].notes.end]).toContain(960);
  });

  it('is remembered over a check and an export', () => {
    const { session, evaluator, takeOf } = opened([note(0, 480, 60)]);
    const part = withSteps(listOf(session.parts)[0], [createStep('transpose', { semitones: 1 })]);
    const whole = put(session, part);
    const first = evaluator.evaluate(part, whole, timelineOf(whole)).stages[1];
    const options = { format: 1, version: 'cleaned', parts: [part.id] } as const;
    checkExport(chosenParts(whole, options, evaluator), options, evaluator, takeOf);
    exportSession(whole, options, evaluator, takeOf);
    expect(evaluator.evaluate(part, whole, timelineOf(whole)).stages[1]).toBe(first);
    expect(itemOf(whole.parts, part.id)).toBe(part);
  });
});
