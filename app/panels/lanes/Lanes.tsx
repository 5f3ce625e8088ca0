import { DndContext, PointerSensor, closestCenter, useSensor, useSensors } from '@dnd-kit/core';
import { SortableContext, arrayMove, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { useEffect, useRef, type RefObject } from 'react';
import type { RollEditor } from '@/editor';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { AddLane } from './AddLane';
import { LANE_HEIGHT, lanesShown, type ShownLane } from '@/music/laneList';
import { LanePane } from './LanePane';
import { useAlong } from '@/edits/useAlong';
import { Check } from '@/ui';
import { counted } from '@/words/counts';
import { useOpenBench } from '@/music/useBench';

interface LanesProps {
  editor: RefObject<RollEditor | null>;
  playing: boolean;
}

/** The lanes under the editor: any number, each with its own height; dragged into another order by their names. */
export function Lanes({ editor, playing }: LanesProps) {
  const bench = useOpenBench();
  const dispatch = useAppDispatch();
  const stack = useRef<HTMLDivElement>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const lanes = lanesShown(bench);
  const along = useAlong(bench);
  const names = lanes.map(({ lane }) => lane).join(' ');
  const before = useRef(names);
  useEffect(() => {
    const known = new Set(before.current.split(' '));
    before.current = names;
    // A lane that comes to the others comes into sight, however many there are.
    const added = names.split(' ').findLastIndex((lane) => !known.has(lane));
    if (added >= 0)
      stack.current?.querySelectorAll('section').item(added)?.scrollIntoView({ block: 'nearest' });
  }, [names]);
  const put = (next: readonly ShownLane[]) =>
    dispatch(
      viewChanged({
        lanes: next
          .filter(({ withStep }) => !withStep)
          .map(({ lane, height, folded }) => ({ lane, height, folded })),
      }),
    );
  return (
    <section
      aria-label="Lanes"
      className={`flex shrink flex-col border-t border-rule-strong bg-sheet ${lanes.length > 0 ? 'min-h-13' : 'min-h-6'}`}
    >
      <div ref={stack} className="min-h-0 overflow-y-auto">
        {lanes.length > 0 && (
          <DndContext
            sensors={sensors}
            collisionDetection={closestCenter}
            onDragEnd={({ active, over }) => {
              const at = (id: string | number | undefined) => lanes.findIndex(({ lane }) => lane === id);
              if (over && active.id !== over.id) put(arrayMove(lanes, at(active.id), at(over.id)));
            }}
          >
            <SortableContext items={lanes.map(({ lane }) => lane)} strategy={verticalListSortingStrategy}>
              {lanes.map((shown) => (
                <LanePane
                  key={shown.lane}
                  editor={editor}
                  stack={stack}
                  playing={playing}
                  shown={shown}
                  along={along}
                  onChange={(change) =>
                    put(
                      lanes.map((each) =>
                        each.lane === shown.lane ? { ...each, ...change, withStep: false } : each,
                      ),
                    )
                  }
                  onClose={() => put(lanes.filter(({ lane }) => lane !== shown.lane))}
                />
              ))}
            </SortableContext>
          </DndContext>
        )}
      </div>
      <footer className="flex min-h-6 shrink-0 flex-wrap items-center justify-between">
        <AddLane
          onClosed={() => editor.current?.focus()}
          onAdd={(lane) => put([...lanes, { lane, height: LANE_HEIGHT, folded: false, withStep: false }])}
        />
        {lanes.length > 1 && <span className="text-quiet text-ink-2">{counted(lanes.length, 'lane')}</span>}
        <span className="ml-auto flex items-center">
          <ZoomButton label="Zoom out (−)" sign="−" onClick={() => editor.current?.zoom(1.3)} />
          <ZoomButton label="Zoom in (+)" sign="+" onClick={() => editor.current?.zoom(1 / 1.3)} />
          <ZoomButton label="Fit the part (F)" sign="fit" onClick={() => editor.current?.fit()} />
        </span>
        <span
          className="px-2 text-quiet text-ink-2"
          title="Controllers go along when notes are moved, copied or deleted by hand (Shift+N)"
        >
          <Check checked={bench.view.along} onChange={(along) => dispatch(viewChanged({ along }))}>
            Moving notes also moves controllers
          </Check>
        </span>
      </footer>
    </section>
  );
}

function ZoomButton({ label, sign, onClick }: { label: string; sign: string; onClick(): void }) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      onClick={onClick}
      className="h-6 min-w-6 px-1.5 text-ink-2 hover:bg-well hover:text-ink"
    >
      {sign}
    </button>
  );
}
