import { nameOfNoteValue, type NoteValue } from '@ordle/core';
import { X } from 'lucide-react';
import { Button, LabelledRow, NumberField, Segmented, Select } from '@/ui';

const QUICK = ['1/8', '1/8T', '1/16', '1/16T'];
const PLAIN = ['1/1', '1/2', '1/4', '1/8', '1/16', '1/32', '1/64', '1/128'];
export const NOTE_VALUES: readonly { group: string; values: string[] }[] = [
  { group: 'straight', values: PLAIN },
  { group: 'triplet', values: PLAIN.map((value) => `${value}T`) },
  { group: 'dotted', values: PLAIN.map((value) => `${value}D`) },
];

interface GridPickerProps {
  value: NoteValue | NoteValue[];
  setting?: string;
  disabled: boolean;
  onChange(value: NoteValue | NoteValue[]): void;
}

/** The grid of a step: a note value, a tuplet, or several grids at once. */
export function GridPicker({ value, setting, disabled, onChange }: GridPickerProps) {
  const grids = Array.isArray(value) ? value : [value];
  const put = (next: NoteValue[]) => onChange(next.length === 1 ? next[0] : next);
  const first = grids[0];
  return (
    <div className="flex flex-col gap-1.5">
      <LabelledRow label="Grid">
        <Segmented
          label="Grid"
          setting={setting}
          disabled={disabled}
          value={grids.length === 1 && typeof first === 'string' && QUICK.includes(first) ? first : null}
          options={QUICK.map((name) => ({ value: name, label: name }))}
          onChange={(next) => put([next])}
        />
      </LabelledRow>
      {grids.map((grid, index) => (
        <div key={index} className="flex items-center gap-2">
          <span className="w-13 shrink-0 text-quiet text-ink-3">{index > 0 ? 'and' : 'other'}</span>
          <NoteValueSelect
            label={grids.length > 1 ? `Grid ${index + 1}` : 'Grid, all values'}
            value={grid}
            setting={setting}
            disabled={disabled}
            onChange={(next) => put(grids.with(index, next))}
          />
          {typeof grid !== 'string' && (
            <>
              <NumberField
                label="Parts of the tuplet"
                value={grid.count}
                min={2}
                max={64}
                className="w-9"
                disabled={disabled}
                onCommit={(count) => put(grids.with(index, { ...grid, count }))}
              />
              <span className="text-ink-2">in</span>
              <Select
                label="Span of the tuplet"
                value={grid.in}
                disabled={disabled}
                onChange={(span) => put(grids.with(index, { ...grid, in: span }))}
              >
                {PLAIN.map((name) => (
                  <option key={name}>{name}</option>
                ))}
              </Select>
            </>
          )}
          {grids.length > 1 && (
            <Button
              look="quiet"
              className="w-7 justify-center px-0"
              aria-label={`Remove grid ${nameOfNoteValue(grid)}`}
              disabled={disabled}
              onClick={() => put(grids.toSpliced(index, 1))}
            >
              <X size={14} aria-hidden="true" />
            </Button>
          )}
        </div>
      ))}
      {grids.length < 8 && (
        <Button
          className="h-6! self-end px-1.5!"
          disabled={disabled}
          onClick={() => put([...grids, grids.includes('1/8T') ? '1/16' : '1/8T'])}
        >
          add a second grid
        </Button>
      )}
      {grids.length > 1 && (
        <p className="text-quiet text-ink-2">Each note goes to the nearest line of any of these.</p>
      )}
    </div>
  );
}

interface NoteValueSelectProps {
  label: string;
  value: NoteValue;
  setting?: string;
  disabled?: boolean;
  onChange(value: NoteValue): void;
}

export function NoteValueSelect({ label, value, setting, disabled, onChange }: NoteValueSelectProps) {
  return (
    <Select
      label={label}
      setting={setting}
      value={typeof value === 'string' ? value : 'tuplet'}
      disabled={disabled}
      onChange={(next) => onChange(next === 'tuplet' ? { count: 5, in: '1/4' } : next)}
    >
      <NoteValueOptions />
      <option value="tuplet">tuplet</option>
    </Select>
  );
}

/** All note values, grouped, for a select. */
export function NoteValueOptions() {
  return NOTE_VALUES.map(({ group, values }) => (
    <optgroup key={group} label={group}>
      {values.map((name) => (
        <option key={name}>{name}</option>
      ))}
    </optgroup>
  ));
}
