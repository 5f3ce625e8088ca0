import type { Session } from '@ordle/core';
import { useEffect, useRef, useState } from 'react';
import { engine } from '@/engine/engineClient';
import { createLatest } from '@/engine/latest';
import type { Spans } from '@/edits/timeActions';

/** Where the parts of a session begin and end; null until it is known. */
export function useSpans(session: Session): Spans | null {
  const [spans, setSpans] = useState<Spans | null>(null);
  const asking = useRef(
    createLatest(
      (asked: { session: Session }) => engine.spans(asked),
      setSpans,
      // A part that cannot be made is told of where it is shown; the map needs only how long the others are.
      () => setSpans({}),
    ),
  );
  useEffect(() => asking.current.ask({ session }), [session]);
  return spans;
}
