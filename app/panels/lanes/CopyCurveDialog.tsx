import { listOf, createStep, laneName, type Part, type LaneView } from '@ordle/core';
import { useState } from 'react';
import { useAppDispatch } from '@/state/store';
import { Button, Dialog } from '@/ui';
import { PartPicker } from '@/panels/parts/PartPicker';
import { copySteps } from '@/steps/partsTogether';
import { useOpenBench } from '@/music/useBench';
import { figures } from '@/words/counts';

interface CopyCurveDialogProps {
  part: Part;
  lane: LaneView;
  onClose(): void;
}

/** Asks to which parts the curve of a lane is copied, as it is heard here; there it becomes a step that draws it. */
export function CopyCurveDialog({ part, lane, onClose }: CopyCurveDialogProps) {
  const bench = useOpenBench();
  const dispatch = useAppDispatch();
  const others = listOf(bench.session.parts).filter(({ id }) => id !== part.id);
  const [selected, setSelected] = useState<ReadonlySet<string>>(
    () => new Set(bench.together.map(({ id }) => id)),
  );
  const name = laneName(lane.lane);
  const copy = () => {
    const points = Array.from(lane.points.tick, (at, row) => ({ at, value: lane.points.value[row] }));
    const step = createStep('curve', { op: 'draw', lane: lane.lane, points });
    copySteps(
      dispatch,
      [step],
      others.filter(({ id }) => selected.has(id)),
      'add',
    );
    onClose();
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Copy ${name} to`}
      description={`Each gets a step that draws the ${figures(lane.points.length)} points of ${part.name}, in place of what it has there.`}
    >
      <PartPicker parts={others} selected={selected} onChange={setSelected} />
      <div className="flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button look="main" disabled={selected.size === 0} onClick={copy}>
          Copy
        </Button>
      </div>
    </Dialog>
  );
}
