import type { NamedSection } from '@ordle/core';
import { Select } from '@/ui';

interface SectionSelectProps {
  sections: readonly NamedSection[];
  /** The bars that are chosen, of which a section may be meant. */
  bars: readonly [number, number] | undefined;
  disabled: boolean;
  onChange(section: NamedSection): void;
}

/** Chooses some bars by the name of their section; nothing where no bars have names. */
export function SectionSelect({ sections, bars, disabled, onChange }: SectionSelectProps) {
  if (sections.length === 0) return null;
  const chosen = sections.find((each) => each.bars[0] === bars?.[0] && each.bars[1] === bars[1]);
  return (
    <Select
      label="Section"
      value={chosen?.id ?? ''}
      disabled={disabled}
      className="w-full"
      onChange={(id) => {
        const section = sections.find((each) => each.id === id);
        if (section) onChange(section);
      }}
    >
      <option value="" disabled>
        by section
      </option>
      {sections.map(({ id, name, bars: own }) => (
        <option key={id} value={id}>{`${name}, ${own[0]} to ${own[1] - 1}`}</option>
      ))}
    </Select>
  );
}
