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
import { STEP_KINDS, describeWhere, kindOf, type Part } from '@ordle/core';
import { Plus } from 'lucide-react';
import { useEffect, useRef, type KeyboardEvent, type ReactNode } from 'react';
import { run } from '@/commands';
import { useSelection } from '@/state/selection';
import { useAppDispatch } from '@/state/store';
import { stoodAt } from '@/state/viewSlice';
import { Menu } from '@/ui';
import { lightStep } from './lightStore';
import { addStep, moveStep, removeStep, switchStep } from './stepActions';
import { stepsTogether } from './partsTogether';
import { stopsOf, type Stop } from './stops';
import type { BenchState } from './useBench';

interface LineProps {
  bench: BenchState;
  part: Part;
  stop: Stop;
  /** Root mean square distance from the grid at every stop, as played first; empty while not known. */
  spreads: number[];
}

const spreadText = (ms: number | undefined) =>
  ms === undefined ? ' ' : `±${ms < 10 ? ms.toFixed(1) : ms.toFixed(0)} ms`;

/** The part's line of steps, from as played to cleaned. */
export function LineOfSteps({ bench, part, stop, spreads }: LineProps) {
  const { session, together, mayWrite } = bench;
  const targets = stepsTogether(part, stop.id, together);
  const dispatch = useAppDispatch();
  const scroller = useRef<HTMLDivElement>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const selection = useSelection();
  const chosen = selection.partId === part.id ? [...selection.ids] : [];
  const place = stop.id === 'cleaned' ? part.steps.length : stop.index;
  const stand = (id: string) => dispatch(stoodAt({ partId: part.id, stop: id }));

  useEffect(() => {
    scroller.current
      ?.querySelector(`[data-stop="${escapeId(stop.id)}"]`)
      ?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [stop.id]);

  function onKeyDown(event: KeyboardEvent) {
    // With these keys a press is a command, not a walk along the line.
    if (event.shiftKey || event.ctrlKey || event.metaKey) return;
    const stops = stopsOf(part);
    const at = stops.findIndex(({ id }) => id === stop.id);
    const isStep = stop.id !== 'played' && stop.id !== 'cleaned';
    const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (by !== 0 && event.altKey && isStep && mayWrite)
      moveStep(dispatch, part, stop.id, stop.index - 1 + by);
    else if (by !== 0) {
      const next = stops[Math.min(stops.length - 1, Math.max(0, at + by))];
      stand(next.id);
      scroller.current?.querySelector<HTMLElement>(`[data-stop="${escapeId(next.id)}"]`)?.focus();
    } else if ((event.key === 'Delete' || event.key === 'Backspace') && isStep && mayWrite)
      removeStep(dispatch, part, targets);
    else if (event.key.toLowerCase() === 'o' && isStep && mayWrite) switchStep(dispatch, targets);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  function onDragEnd({ active, over }: DragEndEvent) {
    if (!over || active.id === over.id) return;
    moveStep(
      dispatch,
      part,
      String(active.id),
      part.steps.findIndex(({ id }) => id === over.id),
    );
  }

  return (
    <section
      aria-label="Line of steps"
      className="flex h-23 shrink-0 items-stretch border-b border-rule bg-sheet"
    >
      <div
        ref={scroller}
        role="toolbar"
        aria-label="Stops: arrow keys walk, Alt and arrow moves a step, O switches it off, Delete removes it"
        onKeyDown={onKeyDown}
        className="flex min-w-0 grow overflow-x-auto overflow-y-hidden px-2"
      >
        <StopButton
          id="played"
          chosen={stop.id === 'played'}
          end="first"
          name="As played"
          words={takesInWords(part)}
          reading={spreadText(spreads[0])}
          onStand={stand}
          mark={<Square />}
        />
        <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
          <SortableContext
            items={part.steps.map(({ id }) => id)}
            strategy={horizontalListSortingStrategy}
            disabled={!mayWrite}
          >
            {part.steps.map(({ id, step }, index) => (
              <StepStop
                key={id}
                id={id}
                chosen={stop.id === id}
                on={step.on}
                name={kindOf(step.kind).title}
                words={step.on ? kindOf(step.kind).describe(step) : 'off'}
                where={describeWhere(step.where)}
                reading={spreadText(spreads[index + 1])}
                onStand={stand}
              />
            ))}
          </SortableContext>
        </DndContext>
        <StopButton
          id="cleaned"
          chosen={stop.id === 'cleaned'}
          end="last"
          name="Cleaned"
          words={
            part.steps.length === 0
              ? 'same as played'
              : `${part.steps.filter(({ step }) => step.on).length} of ${part.steps.length} steps on`
          }
          reading={spreadText(spreads.at(-1))}
          onStand={stand}
          mark={<Square />}
        />
        {mayWrite && (
          <Menu
            align="start"
            trigger={
              <button
                type="button"
                aria-label="Add a step"
                className="flex w-24 shrink-0 flex-col items-center pt-7 text-ink-2 hover:text-ink"
              >
                <span className="flex h-5 w-5 items-center justify-center rounded-full border border-dashed border-ink-3">
                  <Plus size={12} aria-hidden="true" />
                </span>
                <span className="mt-1 text-quiet">add a step</span>
              </button>
            }
            items={[
              ...STEP_KINDS.map((kind) => ({
                label: kind.title,
                hint: kind.hint,
                onSelect: () => void addStep(dispatch, { session, part, together, after: place }, kind.kind),
              })),
              ...(chosen.length > 0
                ? STEP_KINDS.filter(({ kind }) => kind !== 'edits').map((kind) => ({
                    label: `${kind.title}, chosen notes only`,
                    hint: `Touches the ${chosen.length === 1 ? 'note' : `${chosen.length} notes`} chosen now`,
                    onSelect: () =>
                      void addStep(dispatch, { session, part, together, after: place }, kind.kind, chosen),
                  }))
                : []),
            ]}
          />
        )}
        <button
          type="button"
          onClick={() => run('recipes')}
          className="flex w-20 shrink-0 flex-col items-center pt-8.5 text-quiet text-ink-2 hover:text-ink"
          title="Save this list of steps, or apply a saved one (R)"
        >
          recipes
        </button>
      </div>
    </section>
  );
}

/** Ids are UUIDs or our own words; escaped all the same where they meet a selector. */
const escapeId = (id: string) => globalThis.CSS?.escape(id) ?? id;

function takesInWords(part: Part): string {
  const takes = new Set(part.layers.flat().map((segment) => segment.take)).size;
  if (part.layers.length > 1) return `${part.layers.length} layers`;
  return takes === 1 ? '1 take' : `${takes} takes, bars chosen`;
}

const Square = () => <span className="block h-2.5 w-2.5 bg-current" />;

interface StopProps {
  id: string;
  chosen: boolean;
  name: string;
  words: string;
  reading: string;
  onStand(id: string): void;
}

function StopButton({
  id,
  chosen,
  end,
  name,
  words,
  reading,
  mark,
  faint = false,
  onStand,
}: StopProps & { end: 'first' | 'last' | 'none'; mark: ReactNode; faint?: boolean }) {
  const line = end === 'first' ? 'left-1/2 right-0' : end === 'last' ? 'left-0 right-1/2' : 'left-0 right-0';
  return (
    <button
      type="button"
      data-stop={id}
      tabIndex={chosen ? 0 : -1}
      aria-pressed={chosen}
      aria-label={`${name}, ${words}, ${reading.trim()}`}
      onClick={() => onStand(id)}
      className={`relative flex min-w-36 flex-[0_1_14rem] flex-col items-center px-2 pt-1.5 pb-1 hover:bg-well/60 ${chosen ? 'bg-accent-soft! text-accent' : faint ? 'text-ink-3' : 'text-ink'}`}
    >
      <span className={`h-5 truncate ${chosen ? 'font-semibold text-ink' : faint ? '' : 'font-semibold'}`}>
        {name}
      </span>
      <span className={`absolute top-[2.15rem] h-px bg-ink ${line}`} aria-hidden="true" />
      <span className="relative flex h-5 items-center">{mark}</span>
      <span className="max-w-full truncate text-quiet text-ink-2">{words}</span>
      <span className={`text-quiet ${chosen ? 'text-ink-2' : 'text-ink-3'}`}>{reading}</span>
    </button>
  );
}

function StepStop({ on, where, ...stop }: StopProps & { on: boolean; where: string }) {
  const { setNodeRef, transform, transition, isDragging, attributes, listeners } = useSortable({
    id: stop.id,
  });
  const words = where === 'the whole part' || !on ? stop.words : `${stop.words}, ${where}`;
  const mark = (
    <span
      className={`block h-3.5 w-3.5 rounded-full border-2 border-current ${on ? 'bg-current' : 'bg-sheet'}`}
    />
  );
  return (
    <div
      ref={setNodeRef}
      {...listeners}
      onPointerEnter={() => lightStep(stop.id)}
      onPointerLeave={() => lightStep(null)}
      aria-roledescription={attributes['aria-roledescription']}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`flex flex-[0_1_14rem] ${isDragging ? 'z-10 opacity-80' : ''}`}
    >
      <StopButton {...stop} words={words} end="none" mark={mark} faint={!on} />
    </div>
  );
}
