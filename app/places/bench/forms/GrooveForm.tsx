import {
  BUILT_IN_GROOVES,
  groovePatternSchema,
  patternOf,
  quartersOf,
  sentenceOf,
  type GroovePattern,
  type GrooveStep,
} from '@ordle/core';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { z } from 'zod';
import { engine } from '@/engine/engineClient';
import { saveAs } from '@/places/export/saveAs';
import { readMark, writeMark } from '@/storage/marks';
import { Button, NumberField, SliderField } from '@/ui';
import { signed, type StepFormProps } from './formProps';

/** Choose a pattern by its picture, and how much of it. */
export function GrooveForm({ step, session, disabled, onChange, onAbandon }: StepFormProps<GrooveStep>) {
  const chosen = patternOf(step);
  const [kept, keep] = useKeptGrooves();
  const carried =
    typeof step.groove === 'string' || kept.some(({ name }) => name === chosen.name) ? [] : [step.groove];
  const own = [...kept, ...carried];
  return (
    <>
      <div role="radiogroup" aria-label="Groove" className="grid grid-cols-2 gap-1.5">
        {[...BUILT_IN_GROOVES, ...own].map((groove) => (
          <button
            key={groove.name}
            type="button"
            role="radio"
            aria-checked={groove.name === chosen.name}
            disabled={disabled}
            onClick={() =>
              onChange(`Groove ${groove.name}`, { groove: own.includes(groove) ? groove : groove.name })
            }
            className={`border px-1.5 pt-1 text-left text-quiet ${groove.name === chosen.name ? 'border-accent bg-accent-soft' : 'border-rule hover:border-rule-strong'}`}
          >
            <GroovePicture groove={groove} />
            <span className="block truncate">{groove.name}</span>
          </button>
        ))}
      </div>
      <OwnGrooves
        step={step}
        session={session}
        disabled={disabled}
        kept={kept}
        keep={keep}
        onChange={onChange}
      />
      <SliderField
        label="Timing"
        value={step.timing}
        min={0}
        max={130}
        unit="%"
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(timing, gesture) => onChange(`Groove timing ${timing} %`, { timing }, gesture)}
      />
      <SliderField
        label="Accents"
        value={step.velocity}
        min={-100}
        max={100}
        unit="%"
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(velocity, gesture) =>
          onChange(`Groove accents ${signed(velocity)} %`, { velocity }, gesture)
        }
      />
      <SliderField
        label="Straighten first"
        value={step.straighten}
        min={0}
        max={100}
        unit="%"
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(straighten, gesture) => onChange(`Straighten ${straighten} %`, { straighten }, gesture)}
      />
      {step.straighten < 100 && step.timing > 0 && (
        <p className="text-quiet text-ink-2">
          The shifts are added to what is there; applied again they add up. Straightened at 100 % a repeat
          changes nothing.
        </p>
      )}
    </>
  );
}

const KEPT = 'grooves';

/** The person's own grooves, kept in this browser for all sessions. */
function useKeptGrooves(): [GroovePattern[], (grooves: GroovePattern[]) => void] {
  const [grooves, setGrooves] = useState<GroovePattern[]>([]);
  useEffect(() => {
    void readMark(KEPT).then((value) => {
      const parsed = z.array(groovePatternSchema).safeParse(value);
      if (parsed.success) setGrooves(parsed.data);
    });
  }, []);
  return [
    grooves,
    (list) => {
      setGrooves(list);
      void writeMark(KEPT, list);
    },
  ];
}

type OwnGroovesProps = Pick<StepFormProps<GrooveStep>, 'step' | 'session' | 'disabled' | 'onChange'> & {
  kept: GroovePattern[];
  keep(grooves: GroovePattern[]): void;
};

/** Takes the groove of a part, names it, keeps it, and carries it in and out as a file. */
function OwnGrooves({ step, session, disabled, kept, keep, onChange }: OwnGroovesProps) {
  const [from, setFrom] = useState('');
  const [beats, setBeats] = useState(4);
  const picker = useRef<HTMLInputElement>(null);
  const chosen = patternOf(step);
  const isOwn = typeof step.groove !== 'string';

  const take = async () => {
    try {
      const { groove, strokes } = await engine.takeGroove(
        session,
        from || session.parts[0].id,
        chosen.grid,
        beats,
      );
      const weak = strokes.filter((count) => count < 2).length;
      onChange(`Take the ${groove.name}`, { groove });
      if (weak > 0) toast(`${weak} of ${strokes.length} lines rest on fewer than two strokes.`);
    } catch (error) {
      toast(sentenceOf(error));
    }
  };
  const bringIn = async (files: FileList | null) => {
    for (const file of files ?? []) {
      try {
        const groove = groovePatternSchema.parse(JSON.parse(await file.text()));
        keep([...kept.filter(({ name }) => name !== groove.name), groove]);
        onChange(`Groove ${groove.name}`, { groove });
      } catch {
        toast(`${file.name} is not a groove: it must hold name, grid, beats and points.`);
      }
    }
  };
  return (
    <div className="flex flex-col gap-1.5">
      <div className="flex items-baseline gap-1 text-ink-2">
        <Button className="h-6 px-1.5" disabled={disabled} onClick={() => void take()}>
          Take
        </Button>
        from
        <select
          aria-label="Part to take the groove of"
          value={from}
          disabled={disabled}
          onChange={(event) => setFrom(event.target.value)}
          className="h-6 w-24 min-w-0 rounded-medium border border-rule-strong bg-sheet px-1"
        >
          {session.parts.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
        over
        <NumberField
          label="Beats of the cycle"
          value={beats}
          min={1}
          max={64}
          className="w-7"
          disabled={disabled}
          onCommit={setBeats}
        />
      </div>
      <div className="flex gap-1">
        {isOwn && (
          <>
            <Button
              look="quiet"
              className="h-6 px-1.5"
              disabled={kept.some(({ name }) => name === chosen.name)}
              onClick={() => keep([...kept, chosen])}
            >
              Keep
            </Button>
            <Button
              look="quiet"
              className="h-6 px-1.5"
              onClick={() =>
                saveAs(
                  `${chosen.name}.json`,
                  new TextEncoder().encode(`${JSON.stringify(chosen, null, 2)}\n`),
                  'application/json',
                )
              }
            >
              Export
            </Button>
            {kept.some(({ name }) => name === chosen.name) && (
              <Button
                look="quiet"
                className="h-6 px-1.5"
                onClick={() => keep(kept.filter(({ name }) => name !== chosen.name))}
              >
                Forget
              </Button>
            )}
          </>
        )}
        <Button
          look="quiet"
          className="ml-auto h-6 px-1.5"
          disabled={disabled}
          onClick={() => picker.current?.click()}
        >
          Import
        </Button>
        <input
          ref={picker}
          type="file"
          hidden
          accept=".json,application/json"
          aria-label="Grooves to import"
          onChange={(event) => {
            void bringIn(event.target.files);
            event.target.value = '';
          }}
        />
      </div>
      {isOwn && (
        <input
          aria-label="Name of the groove"
          key={chosen.name}
          defaultValue={chosen.name}
          disabled={disabled}
          onBlur={(event) => {
            const name = event.target.value.trim().slice(0, 200);
            if (name && name !== chosen.name)
              onChange(`Name the groove ${name}`, { groove: { ...chosen, name } });
          }}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
          className="border border-rule-strong bg-transparent px-1.5 py-0.5"
        />
      )}
    </div>
  );
}

/** Lines of the grid as faint ticks, strokes where the groove puts them, as high as their accent. */
function GroovePicture({ groove }: { groove: GroovePattern }) {
  const [width, height] = [104, 20];
  const step = quartersOf(groove.grid);
  const x = (beats: number) => 3 + (beats / groove.beats) * (width - 6);
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="w-full" aria-hidden="true">
      <path d={`M0 ${height - 0.5}H${width}`} stroke="var(--rule-strong)" />
      {groove.points.map(({ at, shift, accent }) => (
        <g key={at}>
          <path d={`M${x(at)} ${height}V${height - 4}`} stroke="var(--ink-3)" />
          {/* Shifts are small: drawn at twice their size, at most a step. */}
          <path
            d={`M${x(at + Math.max(-step, Math.min(step, shift * 2)))} ${height}V${height - 3 - accent * (height - 5)}`}
            stroke="var(--ink)"
            strokeWidth="1.5"
          />
        </g>
      ))}
    </svg>
  );
}
