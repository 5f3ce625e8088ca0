import { describeWhere, type Where } from '@ordle/core';
import { LabelledRow, NumberField, Segmented } from '@/ui';

interface WhereFieldProps {
  where: Where;
  /** Number of bars the part has. */
  bars: number;
  /** The bars a loop or the window suggests, [from, to). */
  suggested: [number, number];
  disabled: boolean;
  onChange(where: Where): void;
}

/** Which bars a step touches. People count bars from first to last; a where ends before its second bar. */
export function WhereField({ where, bars, suggested, disabled, onChange }: WhereFieldProps) {
  const { bars: chosen, ...others } = where;
  const most = Math.max(bars, chosen ? chosen[1] - 1 : 1);
  return (
    <div className="flex flex-col gap-1.5">
      <LabelledRow label="Where">
        <Segmented
          label="Where"
          disabled={disabled}
          value={chosen ? 'bars' : 'whole'}
          options={[
            { value: 'whole', label: 'whole part' },
            { value: 'bars', label: 'bars' },
          ]}
          onChange={(next) => onChange(next === 'whole' ? others : { ...others, bars: chosen ?? suggested })}
        />
      </LabelledRow>
      {chosen && (
        <div className="flex items-baseline gap-1 text-ink-2">
          from bar
          <NumberField
            label="First bar"
            value={chosen[0]}
            min={1}
            max={most}
            className="w-11"
            disabled={disabled}
            onCommit={(from) => onChange({ ...others, bars: [from, Math.max(chosen[1], from + 1)] })}
          />
          to bar
          <NumberField
            label="Last bar"
            value={chosen[1] - 1}
            min={1}
            max={99999}
            className="w-11"
            disabled={disabled}
            onCommit={(last) => onChange({ ...others, bars: [Math.min(chosen[0], last), last + 1] })}
          />
        </div>
      )}
      {Object.keys(others).length > 0 && (
        <p className="text-quiet text-ink-2">Also limited to {describeWhere(others)}.</p>
      )}
    </div>
  );
}
