import {
  DndContext,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { SortableContext, horizontalListSortingStrategy, useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { describeWhere, itemOf, kindOf } from '@ordle/core';
import { memo } from 'react';
import { lightStep } from '@/music/lightStore';
import { selectDocument } from '@/state/sessionSlice';
import { store, useAppDispatch, useAppSelector } from '@/state/store';
import { makePermanent } from '@/steps/foldActions';
import { moveStep, removeStep, switchStep } from '@/steps/stepActions';
import { WithMenu, type MenuItem } from '@/ui';
import { StopButton } from './StopButton';

interface StepStopsProps {
  partId: string;
  /** Ids of the steps, in order. */
  order: readonly string[];
  currentId: string;
  mayWrite: boolean;
  onStand(id: string): void;
}

/**
 * The stops of the steps, which can be dragged into another order. Rendered only when the order or the current stop
 * changes: each reads its step by itself.
 */
export const StepStops = memo(function StepStops({
  partId,
  order,
  currentId,
  mayWrite,
  onStand,
}: StepStopsProps) {
  const dispatch = useAppDispatch();
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    const session = selectDocument(store.getState());
    const part = session && itemOf(session.parts, partId);
    if (!part || !over || active.id === over.id) return;
    moveStep(dispatch, part, String(active.id), part.steps.order.indexOf(String(over.id)));
  };
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
      <SortableContext items={[...order]} strategy={horizontalListSortingStrategy} disabled={!mayWrite}>
        {order.map((id, index) => (
          <StepStop
            key={id}
            id={id}
            isCurrent={currentId === id}
            partId={partId}
            mayWrite={mayWrite}
            index={index + 1}
            onStand={onStand}
          />
        ))}
      </SortableContext>
    </DndContext>
  );
});

interface StepStopProps {
  id: string;
  isCurrent: boolean;
  partId: string;
  mayWrite: boolean;
  index: number;
  onStand(id: string): void;
}

/** The stop of a step; pointing at it lights its notes. */
function StepStop({ id, mayWrite, ...stop }: StepStopProps) {
  const dispatch = useAppDispatch();
  const step = useAppSelector((state) => {
    const session = selectDocument(state);
    return session && itemOf(session.parts, stop.partId)?.steps.byId[id]?.step;
  });
  const { setNodeRef, transform, transition, isDragging, attributes, listeners } = useSortable({ id });
  if (!step) return null;
  const { on } = step;
  const where = describeWhere(step.where);
  const words = on ? kindOf(step.kind).describe(step) : 'off';
  const mark = (
    <span className={`block h-3.5 w-3.5 rounded-full border-current ${on ? 'border-[7px]' : 'border-2'}`} />
  );
  const items = (): (MenuItem | null)[] => {
    const session = selectDocument(store.getState());
    const part = session && itemOf(session.parts, stop.partId);
    if (!part || !mayWrite) return [];
    const targets = [{ partId: part.id, stepId: id, step }];
    const at = part.steps.order.indexOf(id);
    return [
      { label: 'Open its settings', onSelect: () => stop.onStand(id) },
      { label: on ? 'Switch off' : 'Switch on', hint: 'O', onSelect: () => switchStep(dispatch, targets) },
      null,
      {
        label: 'Move earlier in the line',
        hint: 'Alt+←',
        disabled: at === 0,
        onSelect: () => moveStep(dispatch, part, id, at - 1),
      },
      {
        label: 'Move later in the line',
        hint: 'Alt+→',
        disabled: at === part.steps.order.length - 1,
        onSelect: () => moveStep(dispatch, part, id, at + 1),
      },
      {
        label: 'Turn the steps so far into a take',
        onSelect: () => void makePermanent(dispatch, session, part, at + 1),
      },
      null,
      { label: 'Delete step', hint: 'Delete', onSelect: () => removeStep(dispatch, part, targets) },
    ];
  };
  return (
    <WithMenu items={items}>
      <div
        ref={setNodeRef}
        {...listeners}
        onPointerEnter={() => lightStep(id)}
        onPointerLeave={() => lightStep(null)}
        aria-roledescription={attributes['aria-roledescription']}
        style={{ transform: CSS.Translate.toString(transform), transition }}
        className={`flex flex-[0_1_11rem] ${isDragging ? 'z-10 opacity-80' : ''}`}
      >
        <StopButton
          id={id}
          {...stop}
          name={kindOf(step.kind).title}
          words={where === 'the whole part' || !on ? words : `${words}, ${where}`}
          end="none"
          mark={mark}
          faint={!on}
        />
      </div>
    </WithMenu>
  );
}
