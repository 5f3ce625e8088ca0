import { describeWhere, listOf, waitsFor, type AlignStep, type PartFacts, type Session } from '@ordle/core';
import { useEffect, useState } from 'react';
import { engine } from '@/engine/engineClient';
import { Select } from '@/ui';
import type { StepFormProps } from './formProps';
import { StepSlider } from './StepFields';
import { WhereNotes } from './WhereNotes';

export function AlignForm(form: StepFormProps<AlignStep>) {
  const { step, part, session, disabled, onChange } = form;
  const others = listOf(session.parts).filter(({ id }) => id !== part.id);
  const other = others.find(({ id, name }) => id === step.to || name === step.to);
  const facts = useFactsOf(session, other?.id);
  return (
    <>
      <label className="flex items-center gap-2">
        <span className="w-13 shrink-0 text-ink-2">To</span>
        <Select
          setting="to"
          label="Part to align to"
          value={other?.id ?? ''}
          disabled={disabled}
          className="min-w-0 grow"
          onChange={(to) =>
            onChange(`Align to ${others.find(({ id }) => id === to)?.name ?? 'no part'}`, {
              to,
              toWhere: undefined,
            })
          }
        >
          <option value="">
            {step.to !== '' && !other ? `${step.to} (not in this session)` : 'no part yet'}
          </option>
          {others.map((each) => {
            const isWaiting = waitsFor(each, part.id, session);
            return (
              <option key={each.id} value={each.id} disabled={isWaiting}>
                {isWaiting ? `${each.name}, which waits for this part` : each.name}
              </option>
            );
          })}
        </Select>
      </label>
      {other && (
        <WhereNotes
          where={step.toWhere ?? {}}
          label="only some notes"
          facts={facts}
          pieces={other.sound.drums ? (facts?.used ?? []) : []}
          disabled={disabled}
          onChange={(toWhere) =>
            onChange(`Align to ${describeWhere(toWhere)} of ${other.name}`, {
              toWhere: Object.keys(toWhere).length === 0 ? undefined : toWhere,
            })
          }
        />
      )}
      <StepSlider form={form} setting="strength" label="Strength" />
      <StepSlider form={form} setting="reachMs" label="Reach" />
      <p className="text-quiet text-ink-2">
        Each note is pulled toward the nearest stroke of the other part as it is cleaned; with none in reach
        it stays. The marks under the notes show the strokes.
      </p>
    </>
  );
}

/** What is in another part as it is cleaned; null while it is read. */
function useFactsOf(session: Session, partId: string | undefined): PartFacts | null {
  const [read, setRead] = useState<{ of: string; facts: PartFacts } | null>(null);
  useEffect(() => {
    if (partId === undefined) return;
    let wanted = true;
    void engine.factsOf({ session, partId, stop: Infinity }).then(
      (facts) => wanted && setRead({ of: partId, facts }),
      () => undefined,
    );
    return () => {
      wanted = false;
    };
    // Facts serve suggestions; they are read when another part is chosen.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [partId]);
  return read !== null && read.of === partId ? read.facts : null;
}
