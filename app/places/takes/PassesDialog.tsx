import {
  barAt,
  barsOfLoop,
  cutsByBars,
  cutsByLength,
  passesOf,
  takesOfPart,
  ticksToSeconds,
  withPasses,
  type Part,
  type Timeline,
  type TakeRow,
} from '@ordle/core';
import { useMemo, useState } from 'react';
import { useAppDispatch } from '@/state/store';
import { Button, Dialog, LabelledRow, NumberField, Segmented } from '@/ui';
import { counted } from '@/words/counts';
import { changeAssembly } from '@/edits/assemblyActions';

interface PassesDialogProps {
  partId: string;
  lockedTo: Part['lockedTo'];
  timeline: Timeline;
  row: TakeRow;
  /** Whether the part plays it anywhere. */
  inUse: boolean;
  onClose(): void;
}

/** Splits a take that was played on and on into one take a pass: where it repeats, by bars, or by length. */
export function PassesDialog({ partId, lockedTo, timeline, row, inUse, onClose }: PassesDialogProps) {
  const dispatch = useAppDispatch();
  const { take, notes } = row;
  const loop = useMemo(() => barsOfLoop(notes, '1/16', timeline), [notes, timeline]);
  const [by, setBy] = useState<'bars' | 'length'>('bars');
  const [bars, setBars] = useState(loop ?? 4);
  const [first, setFirst] = useState(1);
  const [seconds, setSeconds] = useState(
    Math.round(1000 * ticksToSeconds(timeline.tempo, 4 * timeline.meter.barTicks[0])) / 1000,
  );
  const end = notes.start[notes.start.length - 1] + 1;
  const lastBar = barAt(timeline.meter, end - 1).number;
  const cuts =
    by === 'bars' ? cutsByBars(first, bars, end, timeline) : cutsByLength(first, seconds, end, timeline);
  const split = () => {
    changeAssembly(
      dispatch,
      `Split ${take.name} into ${counted(cuts.length, 'pass', 'passes')}`,
      partId,
      (now, session, numbers) => {
        const passes = passesOf(take, cuts, lockedTo, timeline, () => numbers.next++);
        return withPasses(now, take, passes, takesOfPart(now, session), numbers);
      },
    );
    onClose();
  };
  return (
    <Dialog open title={`Split ${take.name} into passes`} onClose={onClose}>
      <p className="text-ink-2">
        {loop === null ? 'No repetition found.' : `It repeats after ${counted(loop, 'bar')}.`}
      </p>
      <Segmented
        label="Passes by"
        value={by}
        options={[
          { value: 'bars', label: 'by bars' },
          { value: 'length', label: 'by length' },
        ]}
        onChange={setBy}
      />
      {by === 'bars' ? (
        <LabelledRow label="every">
          <NumberField
            label="Bars of a pass"
            value={bars}
            min={1}
            max={10000}
            unit="bars"
            onCommit={setBars}
          />
        </LabelledRow>
      ) : (
        <LabelledRow label="every">
          <NumberField
            label="Seconds of a pass"
            value={seconds}
            min={0.1}
            max={36000}
            step={0.001}
            unit="s"
            onCommit={setSeconds}
          />
        </LabelledRow>
      )}
      <LabelledRow label="from bar">
        <NumberField
          label="First bar of the first pass"
          value={first}
          min={1}
          max={lastBar}
          onCommit={setFirst}
        />
      </LabelledRow>
      {cuts.length > 1 && (
        <p className="text-ink-2">
          They lie one over the other
          {inUse ? ', and the part is then one pass long: it plays the first.' : '.'}
        </p>
      )}
      <span className="flex items-center justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button look="main" disabled={cuts.length < 2} onClick={split}>
          {cuts.length < 2 ? 'One pass only' : `Make ${counted(cuts.length, 'take')}`}
        </Button>
      </span>
    </Dialog>
  );
}
