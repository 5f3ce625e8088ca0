import { itemOf, listOf, sentenceOf, timelineOf, type Part, type Session } from '@ordle/core';
import { useState } from 'react';
import { toast } from 'sonner';
import { SessionChoice, TickList } from '@/panels/otherSession/SessionChoice';
import { useOtherSession } from '@/panels/otherSession/useOtherSession';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { copySteps } from '@/steps/partsTogether';
import { recipeStore } from '@/steps/recipeStore';
import { Button, Dialog, Segmented } from '@/ui';
import { counted } from '@/words/counts';
import { bringPartsIn, stepsToBring } from './bringActions';

interface BringPartsProps {
  session: Session;
  /** The part that steps are brought to. */
  active: Part | null;
  onClose(): void;
}

type What = 'parts' | 'steps' | 'recipe';

/**
 * Brings parts of another session in with their takes, or the steps of one of them: onto the active part, or as a
 * recipe.
 */
export function BringParts({ session, active, onClose }: BringPartsProps) {
  const dispatch = useAppDispatch();
  const other = useOtherSession(session.id);
  const { from } = other;
  const [what, setWhat] = useState<What>('parts');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [error, setError] = useState<string | null>(null);
  const parts = from ? listOf(from.parts) : [];
  const ids = parts.map(({ id }) => id).filter((id) => chosen.has(id));
  const one = from && ids.length === 1 ? itemOf(from.parts, ids[0]) : undefined;
  const steps = from && one ? stepsToBring(from, one.id, session) : [];
  const bring = async () => {
    if (!from) return;
    if (what === 'parts') {
      const [first] = await bringPartsIn(dispatch, from, ids);
      if (first) dispatch(viewChanged({ partId: first }));
    } else if (what === 'steps' && active) copySteps(dispatch, steps, [active], 'add');
    else if (what === 'recipe' && one) {
      const name = `${one.name}, ${from.name}`;
      recipeStore.add({ ordle: 'recipe', version: 1, name, steps });
      toast(`Saved the recipe “${name}”. It can be applied in every session.`);
    }
    onClose();
  };
  const isReady =
    what === 'parts' ? ids.length > 0 : steps.length > 0 && (what === 'recipe' || active !== null);
  return (
    <Dialog open title="From another session" onClose={onClose}>
      <div className="flex flex-col gap-3">
        <SessionChoice other={other} onLook={() => setChosen(new Set())} />
        <Segmented
          label="What comes"
          value={what}
          options={[
            { value: 'parts', label: 'parts' },
            { value: 'steps', label: 'steps' },
            { value: 'recipe', label: 'a recipe' },
          ]}
          onChange={setWhat}
        />
        {from && parts.length === 0 && <p>This session has no parts.</p>}
        <TickList
          label="Parts of the session"
          chosen={chosen}
          // Steps come from one part.
          onChosen={(next) =>
            setChosen(what === 'parts' ? next : new Set([...next].filter((id) => !chosen.has(id))))
          }
          items={parts.map(({ id, name, steps: own, setAside }) => ({
            id,
            name,
            words: [setAside ? 'set aside' : '', counted(own.order.length, 'step')]
              .filter(Boolean)
              .join(', '),
          }))}
        />
        <p className="text-quiet text-ink-2">{wordsOf(what, from, session, active)}</p>
        {error !== null && (
          <p role="alert" className="font-semibold">
            {error}
          </p>
        )}
        <span className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button
            look="main"
            disabled={!isReady}
            onClick={() => {
              bring().catch((reason: unknown) => setError(sentenceOf(reason)));
            }}
          >
            {what === 'parts'
              ? ids.length === 0
                ? 'Copy'
                : `Copy ${counted(ids.length, 'part')}`
              : what === 'steps'
                ? `Add ${counted(steps.length, 'step')}`
                : `Save ${counted(steps.length, 'step')}`}
          </Button>
        </span>
      </div>
    </Dialog>
  );
}

function wordsOf(what: What, from: Session | null, session: Session, active: Part | null): string {
  if (what === 'steps')
    return `The steps of one part are added to ${active?.name ?? 'the active part'}. Hand edits and choices of single notes stay behind.`;
  if (what === 'recipe') return 'The steps of one part become a recipe, kept for all sessions.';
  const [there, here] = [from ? bpmOf(from) : null, bpmOf(session)];
  const tempo =
    there !== null && there !== here ? ` It was at ${there} bpm there; here it is heard at ${here}.` : '';
  return `Parts come with their takes, their steps and all they are made of, and lie by their beats.${tempo}`;
}

/** The tempo a session begins with, to a tenth. */
function bpmOf(session: Session): number {
  const { tempo, ticksPerQuarter } = timelineOf(session);
  return Math.round(600 / (tempo.secondsPerTick[0] * ticksPerQuarter)) / 10;
}
