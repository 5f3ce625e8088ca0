import { useState } from 'react';
import { leftByKey } from './letGo';
import { useMixed } from './mixed';
import { ownTip, useNumberTip } from './settingTips';

interface NumberFieldProps {
  label: string;
  value: number;
  min: number;
  max: number;
  step?: number;
  unit?: string;
  disabled?: boolean;
  className?: string;
  /** The setting it shows, for telling that it is mixed. */
  setting?: string;
  /** What it is where nothing is said of it, as it is shown here. */
  initial?: number;
  /** What it does, where no form of a step knows it. */
  tip?: string;
  onCommit(value: number): void;
}

/**
 * A typed value: taken over at Enter or when the field is left, put back by Escape, and left by both; values out of
 * range go to the nearest end.
 */
export function NumberField({
  label,
  value,
  min,
  max,
  step = 1,
  unit,
  disabled,
  className = 'w-12',
  setting,
  initial,
  tip: own,
  onCommit,
}: NumberFieldProps) {
  const mixed = useMixed(setting);
  const tip = useNumberTip(setting, { min, max, unit, initial }, ownTip(own));
  const [draft, setDraft] = useState<string | null>(null);
  const commit = (text: string) => {
    setDraft(null);
    const typed = Number(text.replace(',', '.').replace('−', '-'));
    if (text.trim() === '' || Number.isNaN(typed)) return;
    const next = Math.min(max, Math.max(min, Math.round(typed / step) * step));
    const tidy = Number(next.toFixed(6));
    if (mixed || tidy !== value) onCommit(tidy);
  };
  const nudge = (by: number) => {
    setDraft(null);
    const next = Math.min(max, Math.max(min, Number((value + by).toFixed(6))));
    if (mixed || next !== value) onCommit(next);
  };
  return (
    <span className="inline-flex items-baseline gap-0.5" title={tip}>
      <input
        type="text"
        inputMode="decimal"
        role="spinbutton"
        aria-label={label}
        data-untouched={draft === null || undefined}
        aria-valuenow={value}
        aria-valuetext={mixed ? 'mixed' : undefined}
        placeholder={mixed ? 'mixed' : undefined}
        aria-valuemin={min}
        aria-valuemax={max}
        disabled={disabled}
        value={draft ?? (mixed ? '' : String(value))}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={(event) => draft !== null && commit(event.target.value)}
        onFocus={(event) => event.target.select()}
        onKeyDown={(event) => {
          if (event.key === 'ArrowUp') nudge(step);
          else if (event.key === 'ArrowDown') nudge(-step);
          else if (!leftByKey(event, commit, () => setDraft(null))) return;
          event.stopPropagation();
          if (event.key.startsWith('Arrow')) event.preventDefault();
        }}
        className={`${className} rounded-small border border-transparent border-b-rule-strong bg-transparent px-0.5 text-right font-semibold hover:border-edge focus:border-edge focus:bg-sheet focus-visible:outline-offset-0 disabled:opacity-45`}
      />
      {unit && <span className="text-ink-2">{unit}</span>}
    </span>
  );
}
