import type { Session } from '@ordle/core';
import type { Spans } from '@/edits/timeActions';
import { engine } from '@/engine/engineClient';
import { useAnswer } from '@/engine/useAnswer';

// A part that cannot be made is told of where it is shown; the map needs only how long the others are.
const spansAsked = (asked: { session: Session }): Promise<Spans> => engine.spans(asked).catch(() => ({}));

/** Where the parts of a session begin and end; null until it is known. */
export const useSpans = (session: Session): Spans | null => useAnswer(spansAsked, { session }).answer;
