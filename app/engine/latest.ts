/** Asks for something again and again where only the newest answer matters. */
export interface Latest<A> {
  ask(argument: A): void;
  /** Forgets what is under way or waiting; its answer is not delivered. */
  drop(): void;
}

/**
 * One question is out at a time; while it is, only the newest of the others is kept and asked next. An answer is
 * delivered unless it was dropped, so a slider always shows the last value that was worked out and never an older one
 * after it.
 */
export function createLatest<A, R>(
  work: (argument: A) => Promise<R>,
  onAnswer: (answer: R, argument: A) => void,
  onError: (error: unknown) => void,
): Latest<A> {
  let running = false;
  let pending: { argument: A } | null = null;
  let generation = 0;

  async function run(argument: A) {
    running = true;
    const born = generation;
    try {
      const answer = await work(argument);
      if (born === generation) onAnswer(answer, argument);
    } catch (error) {
      if (born === generation) tell(error);
    }
    running = false;
    const next = pending;
    pending = null;
    if (next) void run(next.argument);
  }

  /** What throws here must not strand what waits. */
  function tell(error: unknown) {
    try {
      onError(error);
    } catch (problem) {
      console.error(problem);
    }
  }

  return {
    ask(argument) {
      if (running) pending = { argument };
      else void run(argument);
    },
    drop() {
      generation++;
      pending = null;
    },
  };
}
