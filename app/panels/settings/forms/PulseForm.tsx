import type { PulseStep } from '@ordle/core';
import { secondsToTicks } from '@ordle/core';
import { X } from 'lucide-react';
import { transport } from '@/sound/transport';
import { Button, NumberField } from '@/ui';
import type { StepFormProps } from './formProps';
import { StepSlider } from './StepFields';
import { figures } from '@/words/counts';

/** Pairs shown one by one; a found tempo has thousands. */
const MOST_ROWS = 40;

/** Pairs of a played beat and where it is to lie, in quarter notes from the start. */
export function PulseForm(form: StepFormProps<PulseStep>) {
  const { step, timeline, disabled, onChange } = form;
  const { beats } = step;
  const put = (label: string, next: [number, number][]) => onChange(label, { beats: next });
  const set = (index: number, side: 0 | 1, value: number) => {
    const pair: [number, number] = side === 0 ? [value, beats[index][1]] : [beats[index][0], value];
    const next = beats.with(index, pair);
    // Pairs rise on both sides; a value that would cross a neighbour is not taken.
    if (next.every(([at, to], row) => row === 0 || (at > next[row - 1][0] && to > next[row - 1][1])))
      put(`Beat ${index + 1} ${side === 0 ? 'played' : 'to lie'} at ${value}`, next);
  };
  const addHere = () => {
    const at = Number(
      (secondsToTicks(timeline.tempo, transport.second()) / timeline.ticksPerQuarter).toFixed(3),
    );
    const after = beats.findIndex(([played]) => played >= at);
    const row = after < 0 ? beats.length : after;
    const [before, next] = [beats[row - 1], beats[row]];
    const target =
      before && next
        ? before[1] + ((at - before[0]) / (next[0] - before[0])) * (next[1] - before[1])
        : before
          ? before[1] + at - before[0]
          : at;
    if (beats[row]?.[0] !== at)
      put(`Add a beat at ${at}`, beats.toSpliced(row, 0, [at, Number(target.toFixed(3))]));
  };
  return (
    <>
      <StepSlider form={form} setting="strength" label="Strength" />
      <div
        className="grid grid-cols-[1fr_1fr_1.5rem] items-baseline gap-x-2 gap-y-1"
        role="group"
        aria-label="Beats"
      >
        <span className="text-ink-2">was played at</span>
        <span className="text-ink-2">move to</span>
        <span />
        {beats.slice(0, MOST_ROWS).map(([played, target], index) => (
          <BeatRow
            key={index}
            number={index + 1}
            played={played}
            target={target}
            disabled={disabled}
            onSet={(side, value) => set(index, side, value)}
            onRemove={
              beats.length > 2 ? () => put(`Remove beat ${index + 1}`, beats.toSpliced(index, 1)) : null
            }
          />
        ))}
      </div>
      {beats.length > MOST_ROWS && (
        <p className="text-ink-2">and {figures(beats.length - MOST_ROWS)} more beats</p>
      )}
      <Button className="self-start" disabled={disabled} onClick={addHere}>
        Add a beat at the play line
      </Button>
      <p className="text-quiet text-ink-2">
        In quarter notes from the start. Between two beats everything moves evenly; beyond them as at the
        nearest two.
      </p>
    </>
  );
}

interface BeatRowProps {
  number: number;
  played: number;
  target: number;
  disabled: boolean;
  onSet(side: 0 | 1, value: number): void;
  onRemove: (() => void) | null;
}

function BeatRow({ number, played, target, disabled, onSet, onRemove }: BeatRowProps) {
  const field = (side: 0 | 1, label: string, value: number) => (
    <NumberField
      label={`Beat ${number} ${label}`}
      value={value}
      min={0}
      max={1e7}
      step={0.001}
      className="w-16"
      disabled={disabled}
      onCommit={(next) => onSet(side, next)}
    />
  );
  return (
    <>
      {field(0, 'was played at', played)}
      {field(1, 'move to', target)}
      {onRemove ? (
        <button
          type="button"
          aria-label={`Remove beat ${number}`}
          className="flex h-6 w-6 items-center justify-center text-ink-2 hover:text-ink"
          disabled={disabled}
          onClick={onRemove}
        >
          <X size={14} aria-hidden="true" />
        </button>
      ) : (
        <span />
      )}
    </>
  );
}
