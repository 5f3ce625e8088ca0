import {
  barAt,
  barNumbered,
  endOfBlock,
  itemOf,
  layoutOf,
  lengthOf,
  linkedWith,
  moveBlock,
  repeatUpTo,
  secondsToTicks,
  ticksToSeconds,
  type Session,
} from '@ordle/core';
import { useState } from 'react';
import { useOpenBench } from '@/music/useBench';
import { Button, LabelledRow, NumberField, Segmented } from '@/ui';
import { counted } from '@/words/counts';
import { changeEach } from './blockActions';
import type { PartsEdits } from './usePartsEdits';
import type { PartsState } from './useParts';

interface BlockPanelProps {
  session: Session;
  state: PartsState;
  editing: PartsEdits;
  mayWrite: boolean;
}

/** The selected blocks: exact values, and what can be done with them. */
export function BlockPanel({ session, state, editing, mayWrite }: BlockPanelProps) {
  const { own, on, edits } = editing;
  const { timeline } = useOpenBench();
  const [until, setUntil] = useState<number | null>(null);
  const chosen = [...own].flatMap(([part, ids]) =>
    (state.blocks.get(part) ?? []).filter(({ id }) => ids.has(id)).map((block) => ({ part, block })),
  );
  if (chosen.length === 0)
    return (
      <section aria-label="Block" className="border-b border-rule p-4">
        <h2 className="font-serif text-[1.05rem] font-semibold">No block selected</h2>
        <p className="mt-1 text-quiet text-ink-2">
          Click a block to select it, drag it to move it, drag an end to trim it, with Alt the right end to
          stretch it. Drag over the ruler to take bars of all parts.
        </p>
      </section>
    );
  const [{ part: partId, block }] = chosen;
  const part = itemOf(session.parts, partId);
  const { ticksPerQuarter: quarter, meter, tempo } = timeline;
  const barOf = (quarters: number) => barAt(meter, Math.max(0, quarters * quarter) + 1e-6);
  const first = barOf(block.at);
  const barQuarters = (first.end - first.start) / quarter;
  const overlapping = (state.blocks.get(partId) ?? []).filter(
    (each) =>
      each.id !== block.id &&
      !each.muted &&
      !block.muted &&
      each.at < endOfBlock(block) - 1e-6 &&
      endOfBlock(each) > block.at + 1e-6,
  );
  const linked = linkedWith(state.blocks.get(partId) ?? [], block.id);
  const target = until ?? barOf(endOfBlock(block)).number + 4;
  const nudge = (ms: number) =>
    changeEach(on, `Nudge blocks by ${ms} ms`, (own) => {
      const tick = secondsToTicks(tempo, Math.max(0, ticksToSeconds(tempo, own.at * quarter) + ms / 1000));
      return { ...own, at: tick / quarter };
    });
  return (
    <section aria-label="Block" className="flex flex-col gap-2 border-b border-rule p-4">
      <h2 className="font-serif text-[1.05rem] font-semibold">
        {chosen.length > 1 ? counted(chosen.length, 'block') : `${part?.name ?? ''}, bar ${first.number}`}
      </h2>
      <p className="text-quiet text-ink-2">
        {part && layoutOf(part)
          ? 'Cleaned by the steps before the layout, then laid here.'
          : 'Not rearranged yet. The first change adds a Layout step.'}
      </p>
      {overlapping.length > 0 && (
        <p className="font-semibold">
          It overlaps {counted(overlapping.length, 'other block')} of this part: where they lie over each
          other both sound.
        </p>
      )}
      <LabelledRow label="at bar">
        <NumberField
          label="At bar"
          value={
            Math.round(
              (first.number + (block.at * quarter - first.start) / (first.end - first.start)) * 1000,
            ) / 1000
          }
          min={1}
          max={100000}
          step={0.001}
          disabled={!mayWrite}
          onCommit={(bar) => {
            const whole = barNumbered(meter, Math.floor(bar));
            const place = (whole.start + (bar - Math.floor(bar)) * (whole.end - whole.start)) / quarter;
            changeEach(on, `Move blocks to bar ${bar}`, (each) => moveBlock(each, place - block.at));
          }}
        />
      </LabelledRow>
      <LabelledRow label="length">
        <span className="tabular-nums">{Math.round((lengthOf(block) / barQuarters) * 100) / 100} bars</span>
      </LabelledRow>
      <LabelledRow label="times">
        <NumberField
          label="Times"
          value={block.times}
          min={1}
          max={10000}
          disabled={!mayWrite}
          onCommit={(times) => changeEach(on, `Repeat blocks ${times} times`, (each) => ({ ...each, times }))}
        />
      </LabelledRow>
      <LabelledRow label="stretch">
        <NumberField
          label="Stretch"
          value={Math.round(block.stretch * 10000) / 100}
          min={1}
          max={10000}
          step={0.01}
          unit="%"
          disabled={!mayWrite}
          onCommit={(percent) =>
            changeEach(on, `Stretch blocks to ${percent} %`, (each) => ({ ...each, stretch: percent / 100 }))
          }
        />
      </LabelledRow>
      <LabelledRow label="nudge by">
        <NumberField
          label="Nudge by"
          value={0}
          min={-10000}
          max={10000}
          step={0.1}
          unit="ms"
          disabled={!mayWrite}
          onCommit={nudge}
        />
      </LabelledRow>
      <LabelledRow label="Over the end">
        <Segmented
          label="Notes over the end"
          value={block.held}
          options={[
            { value: 'ring', label: 'ring on' },
            { value: 'cut', label: 'cut' },
          ]}
          disabled={!mayWrite}
          onChange={(held) =>
            changeEach(on, `Held notes ${held} at the ends of blocks`, (each) => ({ ...each, held }))
          }
        />
      </LabelledRow>
      <div className="flex items-center gap-2">
        <Button
          disabled={!mayWrite}
          onClick={() =>
            changeEach(on, `Repeat blocks up to bar ${target}`, (each) =>
              repeatUpTo(each, barNumbered(meter, target).start / quarter),
            )
          }
        >
          Repeat up to bar
        </Button>
        <NumberField
          label="Repeat up to bar, number"
          value={target}
          min={2}
          max={100000}
          disabled={!mayWrite}
          onCommit={setUntil}
        />
      </div>
      <div className="flex flex-wrap gap-2">
        <Button disabled={!mayWrite} onClick={edits.split}>
          Split at the play line
        </Button>
        <Button disabled={!mayWrite} onClick={edits.join}>
          Join
        </Button>
        <Button disabled={!mayWrite} onClick={edits.duplicate}>
          Duplicate after
        </Button>
        <Button disabled={!mayWrite} onClick={edits.mute}>
          {chosen.every(({ block: each }) => each.muted === true) ? 'Unmute' : 'Mute'}
        </Button>
        <Button disabled={!mayWrite} onClick={edits.leaveOut}>
          Leave out
        </Button>
      </div>
      {linked.length > 0 && (
        <span>
          <Button disabled={!mayWrite} onClick={edits.independent}>
            Make independent
          </Button>
        </span>
      )}
      {linked.length > 0 && (
        <p className="text-quiet text-ink-2">
          {counted(linked.length, 'other block')} of the same source: what is cleaned before the layout holds
          for all of them, hand edits after it for one alone.
        </p>
      )}
    </section>
  );
}
