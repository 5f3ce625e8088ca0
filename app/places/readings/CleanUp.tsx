import { itemOf, kindOf, type Session, type Step, type ReadingsOfParts } from '@ordle/core';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { Button, Check } from '@/ui';
import { msInWords } from '@/words/counts';
import { addSuggested } from '@/steps/suggestedSteps';

interface CleanUpProps {
  session: Session;
  readings: ReadingsOfParts;
  mayWrite: boolean;
}

const inWords = (step: Step) => `${kindOf(step.kind).title} ${kindOf(step.kind).describe(step)}`;

/** What would clean the parts up, each with its reason and what it would come to; added only when it is asked for. */
export function CleanUp({ session, readings, mayWrite }: CleanUpProps) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const advised = readings.parts.flatMap(({ partId, suggestion }) => {
    const part = itemOf(session.parts, partId);
    return part && suggestion ? [{ part, suggestion }] : [];
  });
  const chosen = advised.filter(({ part, suggestion }) => suggestion.steps.length > 0 && !left.has(part.id));
  return (
    <section
      aria-label="Suggested clean-up"
      data-testid="clean-up"
      className="flex max-h-[55%] shrink-0 flex-col border-t border-rule-strong"
    >
      <h2 className="px-4 pt-3 pb-1 font-serif text-[1.05rem] font-semibold">Suggested clean-up</h2>
      <ul className="overflow-y-auto px-4" tabIndex={0} aria-label="What is suggested">
        {advised.length === 0 && (
          <li className="pb-3 text-ink-2">
            Nothing to suggest: each part is tight, or has a step that puts it in time.
          </li>
        )}
        {advised.map(({ part, suggestion: { steps, reasons, before, after, isFree } }) => (
          <li key={part.id} className="border-b border-rule py-1.5 last:border-b-0">
            <div className="flex items-baseline gap-2">
              {steps.length > 0 ? (
                <Check
                  checked={!left.has(part.id)}
                  onChange={(on) => {
                    const next = new Set(left);
                    if (on) next.delete(part.id);
                    else next.add(part.id);
                    setLeft(next);
                  }}
                >
                  <span className="font-semibold">{part.name}</span>
                </Check>
              ) : (
                <span className="font-semibold">{part.name}</span>
              )}
              <span className="grow" />
              {steps.length > 0 && (
                <span className="whitespace-nowrap" title="How far it is off its lines, now and then">
                  {msInWords(before.offMs)} → {msInWords(after.offMs)} ms
                </span>
              )}
            </div>
            {reasons.map((reason, at) => (
              <p key={reason} className="text-ink-2">
                {steps.length > 0 && <span className="text-ink">{inWords(steps[at])}: </span>}
                {reason}
              </p>
            ))}
            {isFree && (
              <Button
                className="mt-1 h-6 px-2"
                onClick={() => {
                  dispatch(viewChanged({ partId: part.id }));
                  void navigate(`/s/${session.id}/tempo`);
                }}
              >
                Find its beats on Tempo
              </Button>
            )}
          </li>
        ))}
      </ul>
      {advised.some(({ suggestion }) => suggestion.steps.length > 0) && (
        <footer className="flex border-t border-rule p-3">
          <Button
            look="main"
            className="grow justify-center"
            disabled={!mayWrite || chosen.length === 0}
            onClick={() =>
              addSuggested(
                dispatch,
                chosen.map(({ part, suggestion }) => ({ partId: part.id, steps: suggestion.steps })),
              )
            }
          >
            Add these steps
          </Button>
        </footer>
      )}
    </section>
  );
}
