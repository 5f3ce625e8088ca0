import { NumberField } from '@/ui';

interface BarsFieldsProps {
  /** From the first bar up to, not including, the second. */
  bars: readonly [number, number];
  /** The last bar the first may be. */
  most: number;
  /** What stands before the first and between the two. */
  words: readonly [before: string, between: string];
  disabled?: boolean;
  onChange(bars: [number, number]): void;
}

/** Some bars as people say them, from first to last; each field takes the other along. */
export function BarsFields({ bars: [from, end], most, words, disabled, onChange }: BarsFieldsProps) {
  return (
    <>
      {words[0]}
      <NumberField
        label="First bar"
        value={from}
        min={1}
        max={most}
        className="w-11"
        disabled={disabled}
        onCommit={(first) => onChange([first, Math.max(end, first + 1)])}
      />
      {words[1]}
      <NumberField
        label="Last bar"
        value={end - 1}
        min={1}
        max={99999}
        className="w-11"
        disabled={disabled}
        onCommit={(last) => onChange([Math.min(from, last), last + 1])}
      />
    </>
  );
}
