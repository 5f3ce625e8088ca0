import { pitchName, positionAt, setValues, tickAtPosition } from '@ordle/core';
import { useCommands } from '@/commands';
import { useSelection } from '@/state/selection';
import { useAppDispatch } from '@/state/store';
import { viewChanged, type View } from '@/state/viewSlice';
import { Check, Segmented, TypedField, useWidthOf } from '@/ui';
import { applyToAll, countedInAll, selectedInAll } from '@/edits/across';
import { useOthersShown } from '@/music/otherViews';
import { usePartView } from '@/music/partViewStore';
import { selectionSummary } from '@/edits/selectionSummary';
import { useDeferredValue, useMemo, useState } from 'react';
import { parsePitch, parsePosition, parseTyped } from '@/edits/typedValues';
import { useDragged } from '@/music/draggedStore';
import { useOpenBench } from '@/music/useBench';
import { EditorMenu, SNAPPINGS, VERSIONS } from './EditorMenu';
import { TroubleWalk } from './TroubleWalk';
import { useRovingIn } from '@/ui/useRoving';
import { counted } from '@/words/counts';

/** The width of the bar, in pixels, from which on everything has room in it, and all but what is seldom set. */
const [WHOLE, MOST] = [900, 700];

/**
 * Tools, snapping, what is shown, and the exact values of the selected notes. What there is no room for is in a menu:
 * by the width of the bar alone, so that nothing moves when notes are selected.
 */
export function EditorBar({ onReveal }: { onReveal(row: number): void }) {
  const bench = useOpenBench();
  const dispatch = useAppDispatch();
  const { view } = bench;
  const [bar, setBar] = useState<HTMLDivElement | null>(null);
  useRovingIn(bar);
  const width = useWidthOf(bar);
  const set = (change: Partial<View>) => dispatch(viewChanged(change));
  const isWhole = width >= WHOLE;
  const hasMost = width >= MOST;
  return (
    <div
      ref={setBar}
      role="group"
      aria-label="Editor tools"
      className="flex h-8 shrink-0 items-center gap-1 overflow-hidden border-b border-rule bg-sheet px-2.5 max-sm:h-auto max-sm:flex-wrap max-sm:py-1"
    >
      <div className="w-33 shrink-0">
        <Segmented
          label="Tool"
          value={view.tool}
          disabled={!bench.mayWrite}
          options={[
            {
              value: 'select',
              label: 'select',
              title: 'Select, move, trim; Ctrl-drag copies, Alt is free of the grid, Shift is fine (S)',
            },
            { value: 'draw', label: 'draw', title: 'Draw notes (D)' },
            { value: 'erase', label: 'erase', title: 'Erase notes (E)' },
          ]}
          onChange={(tool) => set({ tool })}
        />
      </div>
      {hasMost && (
        <BarSelect
          label="Snap"
          title="How what is dragged goes by the grid; N switches it on and off"
          value={view.snap}
          options={SNAPPINGS}
          onChange={(snap) => set({ snap })}
        />
      )}
      <SelectionFields />
      <span className="grow" />
      <TroubleWalk isShown={hasMost} onReveal={onReveal} />
      {isWhole && (
        <BarSelect
          label="Show"
          title="Show cleaned over as played, or one of them (1, 2, 3)"
          value={view.show}
          options={VERSIONS}
          onChange={(show) => set({ show })}
        />
      )}
      {isWhole && (
        <span title="Note list (K)" className="shrink-0 pl-1">
          <Check checked={view.list} onChange={(list) => set({ list })}>
            list
          </Check>
        </span>
      )}
      <EditorMenu isWhole={isWhole} hasMost={hasMost} set={set} />
    </div>
  );
}

interface BarSelectProps<T extends string> {
  label: string;
  title: string;
  value: T;
  options: readonly { value: T; label: string }[];
  onChange(value: T): void;
}

function BarSelect<T extends string>({ label, title, value, options, onChange }: BarSelectProps<T>) {
  return (
    <select
      aria-label={label}
      title={title}
      value={value}
      onChange={(event) => onChange(event.target.value as T)}
      className="h-6 shrink-0 rounded-medium border border-transparent bg-transparent text-ink underline decoration-edge decoration-1 underline-offset-4 hover:border-edge"
    >
      {options.map((option) => (
        <option key={option.value} value={option.value}>
          {option.label}
        </option>
      ))}
    </select>
  );
}

/** Start, length, pitch and velocity of the selected notes; `+10` and `-10` shift each of them. */
function SelectionFields() {
  const bench = useOpenBench();
  const dispatch = useAppDispatch();
  const selection = useSelection();
  // What is typed here can wait until the notes are painted.
  const view = useDeferredValue(usePartView().view);
  const dragged = useDragged();
  const { part, timeline, mayWrite } = bench;
  const others = useOthersShown();
  const ids = selection.partId === part?.id && view?.partId === part.id ? selection.ids : null;
  const summary = useMemo(() => {
    const elsewhere = others.flatMap((other) => {
      const own = other.partId === part?.id ? undefined : selection.others.get(other.partId);
      return own ? [[other.view, own] as const] : [];
    });
    const mine = view && ids && ids.size > 0 ? [[view, ids] as const] : [];
    return { ...selectionSummary([...mine, ...elsewhere]), parts: mine.length + elsewhere.length };
  }, [view, ids, others, selection.others, part?.id]);
  const { count } = summary;
  useCommands({
    'type-values':
      count > 0 ? () => document.querySelector<HTMLInputElement>('[data-field=start]')?.focus() : undefined,
  });
  if (count === 0) return <span className="text-ink-3">nothing selected</span>;
  const { meter } = timeline;
  const position = (tick: number) => {
    const { bar, beat, tick: rest } = positionAt(meter, tick);
    return `${bar}.${beat}.${String(rest).padStart(3, '0')}`;
  };
  const { start, length, pitch, velocity } = summary;
  // While the notes are dragged the fields say where they would come to lie.
  const shownStart = start === null ? null : Math.max(0, Math.round(start + dragged.ticks));
  const set = (
    field: Parameters<typeof setValues>[1],
    words: string,
    typed: { relative: boolean; value: number } | null,
  ) => {
    if (!typed) return;
    const all = selectedInAll();
    void applyToAll(dispatch, `${words} of ${countedInAll(all)}`, all, (notes) =>
      setValues(notes, field, typed),
    );
  };
  return (
    <span className="flex shrink-0 items-center gap-1" data-testid="selected">
      <b className="whitespace-nowrap">
        {counted(count, 'note')}
        {summary.parts > 1 && ` in ${summary.parts} parts`}
      </b>
      <NoteField
        name="start"
        label="Start"
        short="at"
        width="w-14"
        shown={shownStart === null ? null : position(shownStart)}
        disabled={!mayWrite}
        onCommit={(text) =>
          set(
            'start',
            'Start',
            parsePosition(text, (place) => tickAtPosition(meter, place)),
          )
        }
      />
      <NoteField
        name="length"
        label="Length"
        short="length"
        width="w-10"
        shown={length === null ? null : String(length)}
        disabled={!mayWrite}
        onCommit={(text) => set('length', 'Length', parseTyped(text))}
      />
      <NoteField
        name="pitch"
        label="Pitch"
        short="pitch"
        width="w-10"
        shown={pitch === null ? null : pitchName(inMidi(pitch + dragged.semitones), bench.view.middleC)}
        disabled={!mayWrite}
        onCommit={(text) => set('pitch', 'Pitch', parsePitch(text, bench.view.middleC))}
      />
      <NoteField
        name="velocity"
        label="Velocity"
        short="velocity"
        width="w-10"
        shown={velocity === null ? null : String(velocity)}
        disabled={!mayWrite}
        onCommit={(text) => set('velocity', 'Velocity', parseTyped(text))}
      />
    </span>
  );
}

const inMidi = (pitch: number) => Math.min(127, Math.max(0, pitch));

interface NoteFieldProps {
  name: string;
  label: string;
  /** The label as there is room for it. */
  short: string;
  width: string;
  /** What to show; null where the notes differ. */
  shown: string | null;
  disabled: boolean;
  onCommit(text: string): void;
}

function NoteField({ short, width, label, ...field }: NoteFieldProps) {
  return (
    <label className="flex items-center gap-0.5 text-ink-2">
      <span>{short}</span>
      <TypedField
        {...field}
        label={label}
        title={`${label}; +10 or -10 shifts each note`}
        className={`${width} text-ink`}
      />
    </label>
  );
}
