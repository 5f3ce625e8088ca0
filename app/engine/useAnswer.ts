import { sentenceOf } from '@ordle/core';
import { useEffect, useRef, useState } from 'react';
import { createLatest } from './latest';

/**
 * What the engine says to a question, asked anew whenever one of the things it is about is another; while it works
 * out the next answer the last one stands, and is not `isCurrent`: nothing may be made of it. `question` is the one
 * of the first render.
 */
export function useAnswer<Asked extends object, Answer>(
  question: (asked: Asked) => Promise<Answer>,
  asked: Asked,
): { answer: Answer | null; isCurrent: boolean; error: string | null } {
  const [given, setGiven] = useState<{ to: Asked; answer: Answer } | null>(null);
  const [error, setError] = useState<string | null>(null);
  const asking = useRef(
    createLatest(
      async (to: Asked) => ({ to, answer: await question(to) }),
      (next) => {
        setGiven(next);
        setError(null);
      },
      (reason) => setError(sentenceOf(reason)),
    ),
  );
  // eslint-disable-next-line react-hooks/exhaustive-deps -- asked by what it is about, not by the object that holds it
  useEffect(() => asking.current.ask(asked), Object.values(asked));
  const about = given && Object.values(given.to);
  const isCurrent = about !== null && Object.values(asked).every((each, at) => each === about[at]);
  return { answer: given?.answer ?? null, isCurrent, error };
}
