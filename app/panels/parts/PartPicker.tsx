import type { Part } from '@ordle/core';
import { Check } from '@/ui';

interface PartPickerProps {
  parts: readonly Part[];
  selected: ReadonlySet<string>;
  onChange(selected: ReadonlySet<string>): void;
}

/** Ticks beside parts, with how many steps each has. */
export function PartPicker({ parts, selected, onChange }: PartPickerProps) {
  return (
    <fieldset className="flex flex-col gap-1">
      <legend className="sr-only">Parts</legend>
      {parts.map(({ id, name, steps: own }) => (
        <Check
          key={id}
          checked={selected.has(id)}
          onChange={(on) => {
            const next = new Set(selected);
            if (on) next.add(id);
            else next.delete(id);
            onChange(next);
          }}
        >
          {name}
          <span className="text-quiet text-ink-2">
            {own.order.length === 0
              ? ', no steps yet'
              : own.order.length === 1
                ? ', 1 step'
                : `, ${own.order.length} steps`}
          </span>
        </Check>
      ))}
      {parts.length === 0 && <p className="text-ink-2">This session has no other part.</p>}
    </fieldset>
  );
}
