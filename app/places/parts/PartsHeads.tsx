import {
  DndContext,
  MouseSensor,
  TouchSensor,
  closestCenter,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { ListedRow, PartsPlace, Session } from '@ordle/core';
import type { ReactNode } from 'react';
import { HEADING } from '@/editor';
import { GroupHead } from './GroupHead';
import { PartHead } from './PartHead';
import type { PartsState } from './useParts';

export interface PartsHeadsProps {
  session: Session;
  state: PartsState;
  active: string | null;
  chosen: ReadonlySet<string>;
  scrolled: { top: number; height: number };
  mayWrite: boolean;
  onChoose(ids: readonly string[], adds: boolean): void;
  onOpen(id: string): void;
  onScroll(down: number): void;
  /** Parts were dragged to another place of the list. */
  onMove(ids: readonly string[], place: PartsPlace): void;
  onFold(group: string): void;
  /** The line by which a source is divided between the hands is to be changed. */
  onHandLine(source: string): void;
}

const idOf = (row: ListedRow): string => (row.kind === 'group' ? `group ${row.name}` : row.part.id);

/**
 * Beside the rows, once their height is known: each part's ink, name, what it is made of, mute and solo, and the
 * headings of groups. Rows are dragged into another order.
 */
export function PartsHeads(props: PartsHeadsProps) {
  const { state, chosen, scrolled, mayWrite, onScroll, onMove } = props;
  const { listed } = state;
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 6 } }),
    // A finger is held a moment before it drags.
    useSensor(TouchSensor, { activationConstraint: { delay: 180, tolerance: 8 } }),
  );
  const ids = listed.map(idOf);
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    const [from, to] = [ids.indexOf(String(active.id)), over ? ids.indexOf(String(over.id)) : -1];
    const [row, target] = [listed.at(from), listed.at(to)];
    if (from < 0 || to < 0 || from === to || !row || !target) return;
    const own = row.kind === 'group' ? row.parts.map(({ id }) => id) : [row.part.id];
    // A part that is selected along with others takes them along.
    const moving = row.kind === 'part' && chosen.has(row.part.id) ? [...chosen] : own;
    const side = to > from ? 'after' : 'before';
    if (target.kind === 'part') onMove(moving, { side, part: target.part.id });
    // Brought down onto an open heading means into its group.
    else if (side === 'after' && !target.isFolded)
      onMove(moving, { side: 'before', part: target.parts[0].id });
    else onMove(moving, { side, group: target.name });
  };
  return (
    <div className="flex w-52 shrink-0 flex-col max-sm:w-36 border-r border-rule-strong bg-ground">
      <div
        title="Ctrl and click selects several"
        className="h-6 shrink-0 truncate border-b border-rule-strong px-3 text-quiet leading-6 text-ink-2"
      >
        Ctrl and click selects several
      </div>
      <div className="min-h-0 grow overflow-hidden" onWheel={(event) => onScroll(event.deltaY)}>
        <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
          <SortableContext items={ids} strategy={verticalListSortingStrategy} disabled={!mayWrite}>
            <ul aria-label="Parts" style={{ transform: `translateY(${-scrolled.top}px)` }}>
              {(scrolled.height > 0 ? listed : []).map((row) => (
                <Row
                  key={idOf(row)}
                  id={idOf(row)}
                  height={row.kind === 'group' && !row.isFolded ? HEADING : scrolled.height}
                >
                  {row.kind === 'group' ? (
                    <GroupHead {...props} group={row} />
                  ) : (
                    <PartHead {...props} part={row.part} />
                  )}
                </Row>
              ))}
            </ul>
          </SortableContext>
        </DndContext>
      </div>
    </div>
  );
}

/** A row that can be dragged by any place of it that is no button of its own. */
function Row({ id, height, children }: { id: string; height: number; children: ReactNode }) {
  const { setNodeRef, transform, transition, isDragging, listeners } = useSortable({ id });
  return (
    <li
      ref={setNodeRef}
      {...listeners}
      style={{ height, transform: CSS.Translate.toString(transform), transition }}
      className={`touch-manipulation overflow-hidden border-b border-rule ${isDragging ? 'relative z-10 bg-sheet opacity-80' : ''}`}
    >
      {children}
    </li>
  );
}
