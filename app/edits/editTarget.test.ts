import { createStep, noEdits, type CurveEdit, type Note } from '@ordle/core';
import { store } from '@/state/store';
import { closed } from '@/state/sessionSlice';
import { viewChanged } from '@/state/viewSlice';
import { applyEdits, applyEditsAlong, targetNow } from './editActions';
import { inTurn } from './inTurn';
import { openSession, partOfSteps } from '@/testing/bench';

const told: string[] = [];
jest.mock('sonner', () => ({ toast: (words: string) => void told.push(words) }));

/** The engine, answering when the test says so. */
let answer: (curves: CurveEdit[]) => void = () => undefined;
jest.mock('@/engine/engineClient', () => ({
  engine: { alongEdits: () => new Promise((resolve) => (answer = resolve)) },
  Cancelled: class extends Error {},
}));
jest.mock('@/music/partViewStore', () => ({
  partViewStore: {
    get: () => ({ view: { partId: 'a', lanesThere: [{ lane: 'cc1', points: 1 }] }, asOf: null }),
    subscribe: () => () => undefined,
  },
}));

const NOTE: Note = { id: 1, start: 0, end: 10, pitch: 60, velocity: 80, release: 64, channel: 0 };
const remove = () => ({ ...noEdits(), delete: [1] });

beforeEach(() => void told.splice(0));

describe('hand edits that wait for the engine', () => {
  it('land in the part they were made in, at the stop that was current, whatever is gone to meanwhile', async () => {
    const steps = [createStep('quantize'), createStep('humanize')];
    const { kinds } = openSession([partOfSteps('a', steps), partOfSteps('b')]);
    store.dispatch(viewChanged({ partId: 'a', stops: { a: 'a-0' } }));
    const done = applyEditsAlong(store.dispatch, 'Delete', { kind: 'delete' }, [NOTE], remove);
    store.dispatch(viewChanged({ partId: 'b', stops: { a: 'cleaned' } }));
    answer([]);
    await done;
    expect([kinds('a'), kinds('b')]).toEqual([['quantize', 'edits', 'humanize'], []]);
  });

  it('are told and not done when the part, or the session, is gone by then', async () => {
    const { kinds } = openSession([partOfSteps('a'), partOfSteps('b')]);
    store.dispatch(viewChanged({ partId: 'a' }));
    const target = targetNow();
    openSession([partOfSteps('b')]);
    applyEdits(store.dispatch, 'Delete 1 note', remove, null, target);
    expect(kinds('b')).toEqual([]);
    store.dispatch(closed());
    applyEdits(store.dispatch, 'Delete 1 note', remove, null, target);
    expect(told).toEqual(
      Array(2).fill(
        '“Delete 1 note” was not done: the part was left or removed before it could be worked out.',
      ),
    );
  });
});

describe('what waits for its turn', () => {
  it('is done though what came before it threw', async () => {
    store.dispatch(closed());
    const done: number[] = [];
    inTurn(() => {
      throw new Error('first');
    });
    inTurn(() => Promise.reject(new Error('second')));
    inTurn(() => void done.push(3));
    await new Promise((resolve) => setTimeout(resolve));
    expect(done).toEqual([3]);
    expect(told).toHaveLength(2);
  });
});
