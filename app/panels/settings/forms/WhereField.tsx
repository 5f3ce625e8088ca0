import type { NamedSection, PartFacts, Where } from '@ordle/core';
import { Button, LabelledRow, Segmented } from '@/ui';
import { BarsFields } from '@/panels/sections/BarsFields';
import { SectionSelect } from '@/panels/sections/SectionSelect';
import { WhereNotes } from './WhereNotes';

interface WhereFieldProps {
  where: Where;
  /** Number of bars the part has. */
  lastBar: number;
  sections: readonly NamedSection[];
  /** The bars a loop or the window suggests, [from, to). */
  suggested: [number, number];
  facts: PartFacts | null;
  /** The pieces of a drum part, by note number; none of other parts. */
  pieces: readonly number[];
  /** Ids of the notes selected in the editor, which a where can be limited to. */
  selected: readonly number[];
  disabled: boolean;
  /** Splits the step at the play line. */
  onSplit?(): void;
  /** Whether the play line stands where it can be split. */
  maySplit?: boolean;
  onChange(where: Where): void;
}

/** Which bars a step touches. People count bars from first to last; a where ends before its second bar. */
export function WhereField(props: WhereFieldProps) {
  const {
    where,
    lastBar,
    sections,
    suggested,
    facts,
    pieces,
    selected,
    disabled,
    onSplit,
    maySplit = true,
    onChange,
  } = props;
  const { bars, ...others } = where;
  const most = Math.max(lastBar, bars ? bars[1] - 1 : 1);
  return (
    <div className="flex flex-col gap-1.5">
      <LabelledRow label="Where">
        <Segmented
          label="Where"
          setting="where"
          disabled={disabled}
          value={bars ? 'bars' : 'whole'}
          options={[
            { value: 'whole', label: 'whole part' },
            { value: 'bars', label: 'bars' },
          ]}
          onChange={(next) => onChange(next === 'whole' ? others : { ...others, bars: bars ?? suggested })}
        />
      </LabelledRow>
      {bars && (
        <div className="flex items-baseline gap-1 text-ink-2">
          <BarsFields
            bars={bars}
            most={most}
            words={['from bar', 'to bar']}
            disabled={disabled}
            onChange={(next) => onChange({ ...others, bars: next })}
          />
        </div>
      )}
      {bars && (
        <SectionSelect
          bars={bars}
          sections={sections}
          disabled={disabled}
          onChange={(section) => onChange({ ...others, bars: [...section.bars] })}
        />
      )}
      {onSplit && !disabled && (
        <div className="flex items-baseline justify-between gap-2 text-quiet text-ink-2">
          <span>or drag across the ruler or the piano keys</span>
          <Button
            className="h-6! shrink-0 px-1.5!"
            disabled={!maySplit}
            title="Cuts the step in two at the bar line nearest to the play line (Shift+X)"
            onClick={onSplit}
          >
            Split at the play line
          </Button>
        </div>
      )}
      <WhereNotes
        where={where}
        facts={facts}
        pieces={pieces}
        selected={selected}
        disabled={disabled}
        onChange={onChange}
      />
    </div>
  );
}
