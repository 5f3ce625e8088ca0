import { createLatest } from './latest';

/** Questions that are answered by hand. */
function setUp() {
  const open: { argument: number; answer: (value: number) => void; fail: (error: Error) => void }[] = [];
  const answers: number[] = [];
  const errors: string[] = [];
  const latest = createLatest(
    (argument: number) => new Promise<number>((answer, fail) => open.push({ argument, answer, fail })),
    (answer) => answers.push(answer),
    (error) => errors.push(String(error)),
  );
  const settle = () => new Promise((resolve) => setTimeout(resolve));
  return { open, answers, errors, latest, settle };
}

describe('latest wins', () => {
  it('asks one at a time and skips what was overtaken', async () => {
    const { open, answers, latest, settle } = setUp();
    [1, 2, 3, 4].forEach((argument) => latest.ask(argument));
    expect(open.map(({ argument }) => argument)).toEqual([1]);
    open[0].answer(10);
    await settle();
    expect(open.map(({ argument }) => argument)).toEqual([1, 4]);
    open[1].answer(40);
    await settle();
    expect(answers).toEqual([10, 40]);
  });

  it('delivers nothing that was dropped, and goes on after errors', async () => {
    const { open, answers, errors, latest, settle } = setUp();
    latest.ask(1);
    latest.drop();
    latest.ask(2);
    open[0].answer(10);
    await settle();
    open[1].fail(new Error('no'));
    await settle();
    latest.ask(3);
    open[2].answer(30);
    await settle();
    expect([answers, errors]).toEqual([[30], ['Error: no']]);
  });
});

describe('listeners that throw', () => {
  it('do not strand what waits behind them', async () => {
    const asked: number[] = [];
    const complained = jest.spyOn(console, 'error').mockImplementation(() => undefined);
    const fail = () => {
      throw new Error('the page could not show it');
    };
    const latest = createLatest(async (argument: number) => void asked.push(argument), fail, fail);
    latest.ask(1);
    latest.ask(2);
    await new Promise((resolve) => setTimeout(resolve));
    expect(asked).toEqual([1, 2]);
    expect(complained).toHaveBeenCalledTimes(2);
    complained.mockRestore();
  });
});
