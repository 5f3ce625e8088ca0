import { mergedPart } from '../arranging';
import { itemOf, listOf, orderedOf, removeItem, timelineOf, type Session } from '../session';
import { createStep } from '../steps';
import { numbersOf } from '../takes';
import { named, note, opened, withSteps } from '../testing/quay';
import { dependentsOf, exportSession } from '.';

/** Bell and horn, a merge of the two, a drum aligned to the bell, a hand held by the pedals of the channel. */
function harbour() {
  const { session, evaluator, takeOf } = opened([
    [],
    [named('bell'), ...note(0, 200, 60)],
    [named('horn'), ...note(10, 200, 64)],
    [named('hand'), ...note(0, 300, 50)],
    [named('pedals'), [0, 0xb0, 64, 127], [900, 0xb0, 64, 0]],
  ]);
  const [bell, horn, hand, pedals] = listOf(session.parts);
  const numbers = numbersOf(session);
  const how = { mode: 'layer', doubles: { keep: 'both', withinMs: 30 }, oneChannel: false } as const;
  const both = mergedPart([bell, horn], { ...how, lead: bell.id, name: 'both' }, [], 'both', numbers);
  const whole: Session = {
    ...session,
    parts: orderedOf([
      bell,
      withSteps(horn, [createStep('align', { to: 'bell' })]),
      withSteps(hand, [createStep('length', { hold: 'fromPedal' })]),
      pedals,
      both,
    ]),
    nextPiece: numbers.next,
  };
  const told = (name: string) => {
    const part = listOf(whole.parts).find((each) => each.name === name);
    return part && dependentsOf(part, whole).map(({ part: other, why }) => `${other.name} ${why}`);
  };
  return { whole, evaluator, takeOf, told };
}

describe('parts that need another', () => {
  it('are told with what they need it for', () => {
    const { told } = harbour();
    expect(told('bell')).toEqual(['horn aligned to', 'hand held by', 'both made of']);
    expect(told('pedals')).toEqual(['hand held by']);
    expect(told('both')).toEqual(['hand held by']);
    expect(told('hand')).toEqual([]);
  });

  it('say so when it is gone, and all others are heard and written', () => {
    const { whole, evaluator, takeOf } = harbour();
    const parts = structuredClone(whole.parts);
    const horn = listOf(parts).find(({ name }) => name === 'horn');
    removeItem(parts, horn?.id ?? '');
    const without: Session = { ...whole, parts };
    const timeline = timelineOf(without);
    const end = (name: string) => {
      const part = listOf(parts).find((each) => each.name === name);
      if (!part) throw new Error(`no part ${name}`);
      return evaluator.evaluate(part, without, timeline).stages.at(-1)?.notes.end[0];
    };
    // On the channel of one that cannot be worked out, and held all the same.
    expect(end('hand')).toBe(900);
    expect(() => end('both')).toThrow('“both” is made of a part that is no longer in the session');
    const ids = parts.order.filter((id) => itemOf(parts, id)?.name !== 'both');
    const file = exportSession(without, { format: 1, version: 'cleaned', parts: ids }, evaluator, takeOf);
    expect(file.tracks).toHaveLength(4);
  });
});
