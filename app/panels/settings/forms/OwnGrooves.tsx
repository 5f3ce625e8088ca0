import {
  listOf,
  groovePatternSchema,
  patternOf,
  sentenceOf,
  type GroovePattern,
  type GrooveStep,
  type NoteValue,
  type TakenGroove,
} from '@ordle/core';
import { useRef, useState } from 'react';
import { toast } from 'sonner';
import { engine } from '@/engine/engineClient';
import { saveAs } from '@/files/saveAs';
import { useSelection } from '@/state/selection';
import { Button, NumberField, Select } from '@/ui';
import type { StepFormProps } from './formProps';
import { NoteValueSelect } from './GridPicker';

/** Stands for the selected notes among the parts a groove can be taken of. */
const SELECTED = 'chosen';

type OwnGroovesProps = Pick<StepFormProps<GrooveStep>, 'step' | 'session' | 'disabled' | 'onChange'> & {
  kept: GroovePattern[];
  keep(grooves: GroovePattern[]): void;
  /** Told what a groove that was just taken rests on. */
  onTaken(taken: TakenGroove): void;
};

/** Takes the groove of a part, names it, keeps it, and carries it in and out as a file. */
export function OwnGrooves({ step, session, disabled, kept, keep, onChange, onTaken }: OwnGroovesProps) {
  const [from, setFrom] = useState('');
  const [beats, setBeats] = useState(4);
  const [grid, setGrid] = useState<NoteValue>(patternOf(step).grid);
  const selection = useSelection();
  const some = selection.partId !== null && selection.ids.size > 0;
  const picker = useRef<HTMLInputElement>(null);
  const pattern = patternOf(step);
  const isOwn = typeof step.groove !== 'string';

  const take = async () => {
    const ids = from === SELECTED ? [...selection.ids] : null;
    const partId = ids ? selection.partId : from || listOf(session.parts)[0].id;
    try {
      const taken = await engine.takeGroove({ session, partId: partId ?? '', grid, beats, ids });
      onChange(`Take the ${taken.groove.name}`, { groove: taken.groove });
      onTaken(taken);
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
        <Select
          label="Part to take the groove of"
          value={from}
          disabled={disabled}
          className="min-w-0 grow"
          onChange={setFrom}
        >
          {some && <option value={SELECTED}>the selected notes</option>}
          {listOf(session.parts).map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </Select>
      </div>
      <div className="flex items-baseline gap-1 text-ink-2">
        by
        <NoteValueSelect label="Grid of the groove" value={grid} disabled={disabled} onChange={setGrid} />
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
        beats
      </div>
      <div className="flex gap-1">
        {isOwn && (
          <>
            <Button
              className="h-6 px-1.5"
              disabled={kept.some((known) => JSON.stringify(known) === JSON.stringify(pattern))}
              onClick={() => keep([...kept.filter(({ name }) => name !== pattern.name), pattern])}
            >
              Save
            </Button>
            <Button
              className="h-6 px-1.5"
              onClick={() =>
                saveAs(
                  `${pattern.name}.json`,
                  new TextEncoder().encode(`${JSON.stringify(pattern, null, 2)}\n`),
                  'application/json',
                )
              }
            >
              Export
            </Button>
            {kept.some(({ name }) => name === pattern.name) && (
              <Button
                className="h-6 px-1.5"
                onClick={() => keep(kept.filter(({ name }) => name !== pattern.name))}
              >
                Delete
              </Button>
            )}
          </>
        )}
        <Button className="ml-auto h-6 px-1.5" disabled={disabled} onClick={() => picker.current?.click()}>
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
          key={pattern.name}
          defaultValue={pattern.name}
          disabled={disabled}
          onBlur={(event) => {
            const name = event.target.value.trim().slice(0, 200);
            if (name && name !== pattern.name)
              onChange(`Name the groove ${name}`, { groove: { ...pattern, name } });
          }}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
          className="border border-rule-strong bg-transparent px-1.5 py-0.5"
        />
      )}
    </div>
  );
}
