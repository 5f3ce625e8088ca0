import { createLive } from './live';

function recorded() {
  const log: unknown[][] = [];
  const live = createLive({
    onEdit: (label, edits, gesture) => log.push(['edit', label, edits.length, gesture !== null]),
    onAbandon: () => log.push(['abandon']),
  });
  return { live, log };
}

describe('a gesture while it goes on', () => {
  beforeEach(() => void jest.useFakeTimers({ now: 10000 }));
  afterEach(() => void jest.useRealTimers());

  it('is written as it goes only while music plays, not more often than it can be heard', () => {
    const { live, log } = recorded();
    live.begin();
    live.show(true, 'one', () => []);
    live.show(true, 'too soon', () => []);
    jest.advanceTimersByTime(100);
    live.show(true, 'two', () => []);
    live.end('done', []);
    expect(log).toEqual([['edit', 'one', 0, true], ['edit', 'two', 0, true], ['edit', 'done', 0, true]]); // prettier-ignore
  });

  it('without music is one edit at its end, and nothing when it is given up', () => {
    const { live, log } = recorded();
    live.begin();
    live.show(false, 'one', () => []);
    live.end('done', []);
    live.begin();
    live.show(false, 'one', () => []);
    live.abandon();
    expect(log).toEqual([['edit', 'done', 0, false]]);
    live.begin();
    jest.advanceTimersByTime(100);
    live.show(true, 'heard', () => []);
    live.abandon();
    expect(log.slice(1)).toEqual([['edit', 'heard', 0, true], ['abandon']]);
  });
});
