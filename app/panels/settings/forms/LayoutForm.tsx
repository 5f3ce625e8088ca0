import { barAt, barNumbered, type LayoutBlock, type LayoutStep, type Timeline } from '@ordle/core';
import { X } from 'lucide-react';
import { Button, NumberField, Select } from '@/ui';
import type { StepFormProps } from './formProps';
import { settingOf } from './settingOf';

const TIMES = settingOf({ kind: 'layout' }, 'blocks.times');
const STRETCH = settingOf({ kind: 'layout' }, 'blocks.stretch');

/**
 * The stretches of a layout: which bars, where they lie, how often. Places are bars, as on the ruler; a part of a bar
 * is a decimal.
 */
export function LayoutForm({ step, timeline, disabled, onChange }: StepFormProps<LayoutStep>) {
  const { blocks } = step;
  const put = (label: string, next: LayoutBlock[]) => onChange(label, { blocks: next });
  const add = () => {
    const last = blocks[blocks.length - 1];
    const end = last.at + (last.to - last.from) * last.stretch * last.times;
    put('Add a stretch', [...blocks, { ...last, id: crypto.randomUUID(), at: end, times: 1 }]);
  };
  return (
    <>
      <ol aria-label="Stretches" className="flex flex-col gap-2">
        {blocks.map((block, index) => {
          const name = `stretch ${index + 1}`;
          const change = (label: string, settings: Partial<LayoutBlock>) =>
            put(label, blocks.with(index, { ...block, ...settings }));
          const bars = (key: 'from' | 'to' | 'at', label: string) => (
            <NumberField
              label={`${label} of ${name}`}
              value={barOf(block[key], timeline)}
              min={key === 'at' ? -9999 : 1}
              max={99999}
              step={0.001}
              className="w-11"
              disabled={disabled}
              onCommit={(bar) => {
                const next = { ...block, [key]: quartersOf(bar, timeline) };
                // A stretch that would end before it begins keeps its length.
                if (next.to <= next.from)
                  next[key === 'from' ? 'to' : 'from'] += next.from - next.to + block.to - block.from;
                if (next.from >= 0) change(`${label} of ${name}: bar ${bar}`, next);
              }}
            />
          );
          return (
            <li key={block.id ?? index} className="flex flex-col gap-1 border-b border-rule pb-2">
              <span className="flex items-baseline gap-1.5 text-ink-2">
                bars {bars('from', 'First bar')} up to {bars('to', 'Bar after the last')}
                {blocks.length > 1 && (
                  <button
                    type="button"
                    aria-label={`Leave out ${name}`}
                    className="ml-auto flex h-6 w-6 items-center justify-center hover:text-ink"
                    disabled={disabled}
                    onClick={() => put(`Leave out ${name}`, blocks.toSpliced(index, 1))}
                  >
                    <X size={14} aria-hidden="true" />
                  </button>
                )}
              </span>
              <span className="flex items-baseline gap-1.5 text-ink-2">
                at bar {bars('at', 'Place')}
                <NumberField
                  label={`Times of ${name}`}
                  value={block.times}
                  min={TIMES.min}
                  max={TIMES.max}
                  className="w-9"
                  unit="times"
                  disabled={disabled}
                  onCommit={(times) => change(`${name}: ${times} times`, { times })}
                />
                <NumberField
                  label={`Factor of ${name}`}
                  value={block.stretch}
                  min={STRETCH.min}
                  max={STRETCH.max}
                  step={STRETCH.step}
                  className="w-9"
                  unit="× long"
                  disabled={disabled}
                  onCommit={(stretch) => change(`${name}: ${stretch} times as long`, { stretch })}
                />
              </span>
              <Select
                label={`Held notes of ${name}`}
                value={block.held}
                disabled={disabled}
                onChange={(held) =>
                  change(held === 'cut' ? 'Cut held notes' : 'Let held notes ring', {
                    held: held === 'cut' ? 'cut' : 'ring',
                  })
                }
              >
                <option value="ring">held notes ring on</option>
                <option value="cut">held notes are cut at its end</option>
              </Select>
              {block.muted === true && (
                <span className="flex items-baseline justify-between text-ink-2">
                  muted: nothing of it is heard
                  <Button
                    look="quiet"
                    className="h-6"
                    disabled={disabled}
                    onClick={() => {
                      const heard = { ...block };
                      delete heard.muted;
                      put(`Unmute ${name}`, blocks.with(index, heard));
                    }}
                  >
                    unmute
                  </Button>
                </span>
              )}
            </li>
          );
        })}
      </ol>
      <Button className="self-start" disabled={disabled} onClick={add}>
        Add a stretch
      </Button>
      <p className="text-quiet text-ink-2">
        What lies in no stretch is left out. Steps before this one hold for every copy; hand edits after it
        for one.
      </p>
    </>
  );
}

/** Quarters from the start as a bar from 1, with decimals inside a bar. */
function barOf(quarters: number, { meter, ticksPerQuarter }: Timeline): number {
  const tick = quarters * ticksPerQuarter;
  const bar = barAt(meter, tick + 1e-6);
  return Number((bar.number + (tick - bar.start) / (bar.end - bar.start)).toFixed(3));
}

function quartersOf(bar: number, { meter, ticksPerQuarter }: Timeline): number {
  const { start, end } = barNumbered(meter, Math.floor(bar));
  return Number(((start + (bar - Math.floor(bar)) * (end - start)) / ticksPerQuarter).toFixed(6));
}
