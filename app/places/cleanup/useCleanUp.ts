import {
  itemOf,
  listOf,
  pulseKeeper,
  timelineOf,
  withSuggested,
  type LieWithSteps,
  type PulseHints,
  type SaidOfBeats,
  type Session,
  type SessionSuggestion,
  type Step,
  type SuggestedPart,
} from '@ordle/core';
import { useMemo, useState } from 'react';
import { engine } from '@/engine/engineClient';
import { useAnswer } from '@/engine/useAnswer';
import { putTime } from '@/edits/timeActions';
import { edit } from '@/state/sessionSlice';
import { useAppDispatch } from '@/state/store';
import { counted } from '@/words/counts';
import { stepInWords } from './words';

/** Steps of a part that a person changed, and how it lies with them; null while that is worked out. */
export interface Changed {
  steps: Step[];
  lie: LieWithSteps | null;
}

/** What was done, as it is told. */
export interface Done {
  parts: { name: string; words: string; before: number; after: number }[];
  beats: number;
  /** One of the steps that were put in, by which it is known whether they still stand; null where there are none. */
  stepId: string | null;
}

const suggestionOf = ({ session, said }: { session: Session; said: SaidOfBeats; turn: number }) =>
  engine.suggestion({ session, said });

/** What is suggested for a session, what a person made of it, and the doing of it. */
export function useCleanUp(session: Session) {
  const dispatch = useAppDispatch();
  const [said, setSaid] = useState<SaidOfBeats>({});
  const [turn, setTurn] = useState(0);
  const { answer, isCurrent, error } = useAnswer(suggestionOf, { session, said, turn });
  const [agreed, setAgreed] = useState(false);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [changed, setChanged] = useState<Readonly<Record<string, Changed>>>({});
  const [done, setDone] = useState<Done | null>(null);
  const beats = beatsOf(answer);
  const found = beats?.found ?? null;
  const stepsOf = (part: SuggestedPart) => changed[part.partId]?.steps ?? part.steps;
  const lieOf = (part: SuggestedPart): LieWithSteps => changed[part.partId]?.lie ?? part;
  const chosen = (answer?.parts ?? []).filter((part) => !left.has(part.partId) && stepsOf(part).length > 0);
  const mayDo = isCurrent && (found ? agreed : chosen.length > 0);
  const picked = useMemo(
    () => new Map(chosen.map((part) => [part.partId, stepsOf(part)])),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what is chosen is made of these
    [answer, left, changed],
  );
  /** The session as it would be, to be heard. */
  const heard = useMemo(
    () =>
      answer && isCurrent
        ? withSuggested(session, beatsOf(answer)?.found ?? null, picked, () => crypto.randomUUID())
        : session,
    [answer, isCurrent, session, picked],
  );

  return {
    suggestion: answer,
    isCurrent,
    error,
    again: () => setTurn(turn + 1),
    agreed,
    agree: () => setAgreed(true),
    /** Other beats are tried: they are to be agreed to anew. */
    say(partId: string, make: (hints: PulseHints | undefined) => PulseHints) {
      const part = itemOf(session.parts, partId);
      if (!part) return;
      const keeper = pulseKeeper(part, session);
      setSaid({ ...said, [keeper.id]: make(said[keeper.id] ?? keeper.pulse) });
      setAgreed(false);
      setChanged({});
    },
    left,
    leave(partId: string, isLeft: boolean) {
      const next = new Set(left);
      if (isLeft) next.add(partId);
      else next.delete(partId);
      setLeft(next);
    },
    stepsOf,
    lieOf,
    change(partId: string, steps: Step[]) {
      setChanged((before) => ({ ...before, [partId]: { steps, lie: before[partId]?.lie ?? null } }));
      void engine
        .lieWithSteps({ session, partId, steps, found })
        .then((lie) =>
          setChanged((before) =>
            before[partId]?.steps === steps ? { ...before, [partId]: { steps, lie } } : before,
          ),
        )
        .catch(() => undefined);
    },
    heard,
    chosen,
    mayDo,
    /** Does all of it as one action. */
    clean() {
      const next = withSuggested(session, found, picked, () => crypto.randomUUID());
      const label = found ? 'Clean up, under the found tempo' : `Clean up ${counted(chosen.length, 'part')}`;
      dispatch(
        edit(label, (draft) => {
          putTime(draft, session, next);
          for (const [id, hints] of Object.entries(said)) {
            const keeper = itemOf(draft.parts, id);
            if (keeper) keeper.pulse = structuredClone(hints);
          }
        }),
      );
      const first = chosen.at(0);
      const line = first && next.parts.byId[first.partId];
      setDone({
        parts: chosen.map((part) => ({
          name: part.name,
          words: stepsOf(part).map(stepInWords).join(', '),
          before: lieOf(part).before.offMs,
          after: lieOf(part).after.offMs,
        })),
        beats: found?.beats.length ?? 0,
        stepId: (line && listOf(line.steps).at(-1)?.id) ?? null,
      });
      setChanged({});
      setAgreed(false);
    },
    done: done && stands(done, session) ? done : null,
    timeline: timelineOf(heard),
  };
}

export type CleanUpState = ReturnType<typeof useCleanUp>;

const beatsOf = (suggestion: SessionSuggestion | null) =>
  suggestion?.recordings.length === 1 ? suggestion.recordings[0].beats : null;

/** Whether what was done has not been taken back. */
const stands = ({ stepId }: Done, session: Session): boolean =>
  stepId === null || listOf(session.parts).some(({ steps }) => stepId in steps.byId);
