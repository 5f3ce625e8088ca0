import {
  isQuantize,
  kindOf,
  timelineOf,
  type Part,
  type PartFacts,
  type Session,
  type Step,
  type SuggestedPart,
} from '@ordle/core';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link } from 'react-router';
import { engine } from '@/engine/engineClient';
import { useSections } from '@/music/useMarkers';
import { StepForm } from '@/panels/settings/forms/StepForm';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { Button, Check } from '@/ui';
import { msInWords } from '@/words/counts';
import { TimingStrip } from './TimingStrip';
import type { CleanUpState } from './useCleanUp';
import { stepInWords } from './words';

interface PartLineProps {
  part: Part;
  advised: SuggestedPart;
  /** The session as it would be: what the settings of the steps are shown against. */
  session: Session;
  state: CleanUpState;
  /** It is not to be touched yet: something else is asked first, or another tab has the session. */
  disabled: boolean;
}

/** One part of the sheet: whether it is cleaned, by what and why, and how it lies before and after. */
export function PartLine({ part, advised, session, state, disabled }: PartLineProps) {
  const [isOpen, setOpen] = useState(false);
  const steps = state.stepsOf(advised);
  const lie = state.lieOf(advised);
  const isLeft = state.left.has(part.id);
  const hasSteps = steps.length > 0;
  return (
    <li className="border-b border-rule py-2" data-testid="clean-up-part">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <span className="h-7 w-1.5 shrink-0" style={{ background: `var(--ink-part-${part.ink + 1})` }} />
        <span className="w-36 min-w-0 shrink-0 font-semibold">
          {hasSteps ? (
            <Check checked={!isLeft} disabled={disabled} onChange={(on) => state.leave(part.id, !on)}>
              {part.name}
            </Check>
          ) : (
            <span className="block truncate pl-5.5" title={part.name}>
              {part.name}
            </span>
          )}
        </span>
        <p className={`min-w-48 flex-1 ${hasSteps && !isLeft ? '' : 'text-ink-2'}`}>
          {reasonsInWords(steps, advised)}
          {advised.isFree && <FindBeats part={part} sessionId={session.id} />}
        </p>
        <TimingStrip {...lie} />
        <span
          className="w-32 text-right whitespace-nowrap"
          title="Root mean square distance from the grid, before and after"
        >
          {hasSteps && !isLeft ? (
            <>
              {msInWords(lie.before.offMs)} → <b>{msInWords(lie.after.offMs)} ms</b>
            </>
          ) : (
            !advised.isInTime && advised.picture && `${msInWords(lie.before.offMs)} ms off`
          )}
        </span>
        <button
          type="button"
          aria-expanded={isOpen}
          aria-label={`Settings for ${part.name}`}
          disabled={!hasSteps}
          onClick={() => setOpen(!isOpen)}
          className="flex h-6 w-6 items-center justify-center text-ink-2 hover:text-ink disabled:opacity-0"
        >
          {isOpen ? (
            <ChevronDown size={16} aria-hidden="true" />
          ) : (
            <ChevronRight size={16} aria-hidden="true" />
          )}
        </button>
      </div>
      {isOpen && hasSteps && (
        <StepsOfPart
          part={part}
          steps={steps}
          {...{ session, disabled }}
          onChange={(next) => state.change(part.id, next)}
        />
      )}
    </li>
  );
}

function reasonsInWords(steps: readonly Step[], { reasons, steps: advised }: SuggestedPart): string {
  if (steps.length === 0)
    return advised.length > 0 ? 'Nothing is done to it.' : reasons.map(asSentence).join(' ');
  // A step that was changed by hand keeps the reason why there is one of its kind.
  return steps
    .map((step, at) => {
      const kept = advised.findIndex(
        (own, place) => own.kind === step.kind && (place === at || !isQuantize(own)),
      );
      const reason = reasons[kept < 0 ? at : kept] as string | undefined;
      return `${stepInWords(step)}${reason ? `: ${reason}` : ''}.`;
    })
    .join(' ');
}

const asSentence = (words: string) => `${words[0].toUpperCase()}${words.slice(1)}.`;

function FindBeats({ part, sessionId }: { part: Part; sessionId: string }) {
  const dispatch = useAppDispatch();
  return (
    <Link
      to={`/s/${sessionId}/tempo`}
      className="ml-1 underline hover:text-ink"
      onClick={() => dispatch(viewChanged({ partId: part.id }))}
    >
      Find its beats on Tempo
    </Link>
  );
}

interface StepsOfPartProps {
  part: Part;
  steps: readonly Step[];
  session: Session;
  disabled: boolean;
  onChange(steps: Step[]): void;
}

/** The steps of one part with their settings, as they would be put on its line. */
function StepsOfPart({ part, steps, session, disabled, onChange }: StepsOfPartProps) {
  const timeline = useMemo(() => timelineOf(session), [session]);
  const [facts, setFacts] = useState<PartFacts | null>(null);
  const sections = useSections(0);
  const before = useRef<{ gesture: string; steps: readonly Step[] } | null>(null);
  useEffect(() => {
    let wanted = true;
    void engine.factsOf({ session, partId: part.id, stop: 0 }).then(
      (read) => wanted && setFacts(read),
      () => undefined,
    );
    return () => {
      wanted = false;
    };
    // They serve what the forms propose: read once, when the settings are opened.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [part.id]);
  const put = (at: number, step: Step | null) =>
    onChange(step ? steps.with(at, step) : steps.filter((_, other) => other !== at));
  return (
    <div className="mt-2 ml-6 flex flex-wrap gap-6 border-l border-rule-strong pl-4">
      {steps.map((step, at) => (
        <section key={at} aria-label={kindOf(step.kind).title} className="flex w-60 flex-col gap-2.5">
          <header className="flex items-baseline justify-between">
            <h3 className="font-serif font-semibold">{kindOf(step.kind).title}</h3>
            <Button className="h-6! px-1.5!" disabled={disabled} onClick={() => put(at, null)}>
              Delete step
            </Button>
          </header>
          <StepForm
            step={step}
            part={part}
            session={session}
            timeline={timeline}
            facts={facts}
            sections={sections}
            disabled={disabled}
            onChange={(_, settings, gesture) => {
              if (gesture && before.current?.gesture !== gesture) before.current = { gesture, steps };
              put(at, { ...step, ...settings } as Step);
            }}
            onAbandon={(gesture) => {
              if (before.current?.gesture === gesture) onChange([...before.current.steps]);
            }}
          />
        </section>
      ))}
    </div>
  );
}
