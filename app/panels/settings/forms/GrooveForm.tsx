import {
  listOf,
  BUILT_IN_GROOVES,
  patternOf,
  stackedGroove,
  weakPoints,
  type GroovePattern,
  type GrooveStep,
  type TakenGroove,
} from '@ordle/core';
import { useState } from 'react';
import { Button } from '@/ui';
import type { StepFormProps } from './formProps';
import { GrooveEditor } from './GrooveEditor';
import { GroovePicture } from './GroovePicture';
import { OwnGrooves } from './OwnGrooves';
import { StepSlider } from './StepFields';
import { useKeptGrooves } from './useKeptGrooves';

/** Choose a pattern by its picture, and how much of it. */
export function GrooveForm(form: StepFormProps<GrooveStep>) {
  const { step, part, session, disabled, onChange, onAbandon } = form;
  const pattern = patternOf(step);
  // A new step does nothing; the first groove that is picked or made is laid on at full, over straightened notes.
  const isNew = step.timing === 0 && step.velocity === 0 && step.straighten === 0;
  const take: typeof onChange = (label, settings, gesture) =>
    onChange(label, isNew ? { timing: 100, straighten: 100, ...settings } : settings, gesture);
  const [kept, keep] = useKeptGrooves();
  const carried =
    typeof step.groove === 'string' || kept.some(({ name }) => name === pattern.name) ? [] : [step.groove];
  // A kept groove that is being edited shows as it is here, not as it is kept.
  const own = [...kept.map((known) => (known.name === pattern.name ? pattern : known)), ...carried];
  const [taken, setTaken] = useState<TakenGroove | null>(null);
  const stacked = stackedGroove(
    listOf(part.steps).map((placed) => placed.step),
    listOf(part.steps).findIndex((placed) => placed.step === step),
  );
  return (
    <>
      <GrooveEditor
        groove={pattern}
        weak={taken && sameLines(taken.groove, pattern) ? weakPoints(taken) : null}
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(label, groove, gesture) =>
          take(label, { groove: typeof step.groove === 'string' ? copyOf(groove, own) : groove }, gesture)
        }
      />
      <div role="radiogroup" aria-label="Groove" className="grid grid-cols-2 gap-1.5">
        {[...BUILT_IN_GROOVES, ...own].map((groove) => (
          <button
            key={groove.name}
            type="button"
            role="radio"
            aria-checked={groove.name === pattern.name}
            disabled={disabled}
            onClick={() =>
              take(`Groove ${groove.name}`, { groove: own.includes(groove) ? groove : groove.name })
            }
            className={`border px-1.5 pt-1 text-left text-quiet ${groove.name === pattern.name ? 'border-ink bg-sheet' : 'border-rule hover:border-edge'}`}
          >
            <GroovePicture groove={groove} />
            <span className="block leading-tight">{groove.name}</span>
          </button>
        ))}
      </div>
      <OwnGrooves
        onTaken={setTaken}
        step={step}
        session={session}
        disabled={disabled}
        kept={kept}
        keep={keep}
        onChange={take}
      />
      <StepSlider form={form} setting="timing" label="Timing" says="Groove timing" />
      <StepSlider form={form} setting="velocity" label="Accents" says="Groove accents" isSigned />
      <StepSlider form={form} setting="straighten" label="Straighten first" says="Straighten" />
      {stacked !== null ? (
        <div role="status" className="border border-rule-strong bg-sheet p-2">
          <p>
            {stacked.name} was applied before, so the shifts add up: the farthest stroke ends{' '}
            {Math.round(stacked.share * 100)} % of a grid unit from its line.
          </p>
          {!disabled && (
            <Button className="mt-1.5" onClick={() => onChange('Straighten 100 %', { straighten: 100 })}>
              Straighten first
            </Button>
          )}
        </div>
      ) : (
        step.straighten < 100 &&
        step.timing > 0 && (
          <p className="text-quiet text-ink-2">
            The shifts are added to what is there; applied again they add up. Straightened at 100 % a repeat
            changes nothing.
          </p>
        )
      )}
    </>
  );
}

/** Whether what was said of one groove's points holds for the other's. */
const sameLines = (a: GroovePattern, b: GroovePattern) =>
  a.name === b.name && a.points.length === b.points.length;

/** A built-in groove that is edited becomes the person's own, under a name of its own. */
function copyOf(groove: GroovePattern, own: readonly GroovePattern[]): GroovePattern {
  const base = `${groove.name}, edited`;
  let name = base;
  for (let number = 2; own.some((known) => known.name === name); number++) name = `${base} ${number}`;
  return { ...groove, name };
}
