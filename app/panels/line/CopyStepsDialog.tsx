import { listOf, kindOf, portableSteps, type Step } from '@ordle/core';
import { useState } from 'react';
import { useAppDispatch } from '@/state/store';
import { Button, Dialog, Segmented } from '@/ui';
import { PartPicker } from '@/panels/parts/PartPicker';
import { copySteps, type Joining } from '@/steps/partsTogether';
import { useOpenBench } from '@/music/useBench';

interface CopyStepsDialogProps {
  /** What is copied: one step, or the whole list. */
  steps: readonly Step[];
  onClose(): void;
}

/** Asks to which parts some steps are copied, and whether they join what is there or stand in its place. */
export function CopyStepsDialog({ steps, onClose }: CopyStepsDialogProps) {
  const bench = useOpenBench();
  const dispatch = useAppDispatch();
  const others = listOf(bench.session.parts).filter(({ id }) => id !== bench.part?.id);
  const [selected, setSelected] = useState<ReadonlySet<string>>(
    () => new Set(bench.together.map(({ id }) => id)),
  );
  const [joining, setJoining] = useState<Joining>('add');
  const copied = portableSteps(steps);
  const left = steps.length - copied.length;
  const title =
    steps.length === 1 ? `Copy ${kindOf(steps[0].kind).title.toLowerCase()} to` : 'Copy all steps to';
  return (
    <Dialog open onClose={onClose} title={title}>
      <PartPicker parts={others} selected={selected} onChange={setSelected} />
      <Segmented
        label="How they join"
        value={joining}
        options={[
          { value: 'add', label: 'after their steps' },
          { value: 'replace', label: 'instead of their steps' },
        ]}
        onChange={setJoining}
      />
      {left > 0 && (
        <p className="text-quiet text-ink-2">
          {left === 1 ? 'One step speaks' : `${left} steps speak`} of single notes of this part and{' '}
          {left === 1 ? 'stays' : 'stay'} here.
        </p>
      )}
      <div className="flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button
          look="main"
          disabled={selected.size === 0 || copied.length === 0}
          onClick={() => {
            copySteps(
              dispatch,
              copied,
              others.filter(({ id }) => selected.has(id)),
              joining,
            );
            onClose();
          }}
        >
          Copy
        </Button>
      </div>
    </Dialog>
  );
}
