import { listOf, kindOf, setValues } from '@ordle/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type MouseEvent } from 'react';
import { selectionStore, useSelection } from '@/state/selection';
import { useAppDispatch } from '@/state/store';
import { applyEdits, selectedNotes } from '@/edits/editActions';
import { NOTE_COLUMNS, orderedRows, type ColumnContext, type NoteColumn } from './noteColumns';
import { usePartView } from '@/music/partViewStore';
import { useOpenBench } from '@/music/useBench';

const ROW = 22;

/** The notes of the editor as a table: sortable, editable in place, with the editor's own selection of notes. */
export function NoteList({ onReveal }: { onReveal(row: number): void }) {
  const bench = useOpenBench();
  const dispatch = useAppDispatch();
  const selection = useSelection();
  const { view } = usePartView();
  const { part, timeline, mayWrite } = bench;
  const [sort, setSort] = useState({ column: 'start', descending: false });
  const [editing, setEditing] = useState<{ row: number; column: string } | null>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const steps = useMemo(
    () => (part ? listOf(part.steps).map(({ step }) => kindOf(step.kind).title) : []),
    [part],
  );
  const context = useMemo<ColumnContext | null>(
    () =>
      view && part && view.partId === part.id
        ? {
            view,
            timeline,
            drums: part.sound.drums,
            middleC: bench.view.middleC,
            time: bench.view.time,
            steps,
          }
        : null,
    [view, part, timeline, bench.view.middleC, bench.view.time, steps],
  );
  const rows = useMemo(() => {
    const column = NOTE_COLUMNS.find(({ id }) => id === sort.column) ?? NOTE_COLUMNS[0];
    return context ? orderedRows(column, sort.descending, context) : new Uint32Array(0);
  }, [context, sort]);
  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer keeps its own state by design
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  });

  // The note the keyboard stands on is kept in sight.
  const focus = selection.partId === part?.id ? selection.focus : null;
  useEffect(() => {
    if (focus === null || !context) return;
    const at = rows.findIndex((row) => context.view.notes.id[row] === focus);
    if (at >= 0) virtual.scrollToIndex(at, { align: 'auto' });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only when the focus moves
  }, [focus]);

  if (!context || !part) return null;
  const { notes } = context.view;
  const selected = selection.partId === part.id ? selection.ids : new Set<number>();
  const placeOfFocus = () => rows.findIndex((row) => notes.id[row] === focus);

  const click = (place: number, event: MouseEvent | KeyboardEvent) => {
    const row = rows[place];
    const id = notes.id[row];
    const from = placeOfFocus();
    if (event.shiftKey && from >= 0) {
      const [low, high] = from < place ? [from, place] : [place, from];
      selectionStore.add(
        part.id,
        [...rows.subarray(low, high + 1)].map((each) => notes.id[each]),
      );
    } else if (event.ctrlKey || event.metaKey) selectionStore.add(part.id, [id], true);
    else selectionStore.select(part.id, [id], id);
    onReveal(row);
  };

  const onKeyDown = (event: KeyboardEvent) => {
    if (editing) return;
    const by = { ArrowDown: 1, ArrowUp: -1, PageDown: 15, PageUp: -15 }[event.key];
    if (by !== undefined) {
      const place = Math.min(rows.length - 1, Math.max(0, placeOfFocus() + by));
      if (rows.length > 0) click(place, event);
    } else if (event.key === 'Enter' && focus !== null && mayWrite)
      setEditing({ row: rows[placeOfFocus()], column: 'velocity' });
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  const commit = (row: number, column: NoteColumn, text: string) => {
    setEditing(null);
    const typed = column.edit?.parse(text, context);
    if (!typed || !column.edit) return;
    const { field } = column.edit;
    const note = selectedNotes(context.view, new Set([notes.id[row]]));
    applyEdits(dispatch, `${column.title[0].toUpperCase()}${column.title.slice(1)} of 1 note`, () =>
      setValues(note, field, typed),
    );
  };

  return (
    <section
      aria-label="Note list"
      className="flex h-[40%] min-h-28 shrink flex-col border-t border-rule-strong bg-sheet"
    >
      <div
        ref={scroller}
        role="grid"
        aria-label="Notes"
        aria-rowcount={rows.length}
        aria-multiselectable
        tabIndex={0}
        onKeyDown={onKeyDown}
        className="min-h-0 grow overflow-auto focus-visible:outline-offset-[-2px]"
      >
        <div
          role="row"
          className="sticky top-0 z-10 flex w-max min-w-full border-b border-rule-strong bg-sheet"
        >
          {NOTE_COLUMNS.map((column) => (
            <button
              key={column.id}
              type="button"
              role="columnheader"
              aria-sort={sort.column === column.id ? (sort.descending ? 'descending' : 'ascending') : 'none'}
              onClick={() =>
                setSort({ column: column.id, descending: sort.column === column.id && !sort.descending })
              }
              style={{ width: column.width }}
              className="shrink-0 px-2 py-0.5 text-right text-quiet whitespace-nowrap text-ink-2 last:grow last:text-left hover:text-ink"
            >
              {column.title}
              {sort.column === column.id && (sort.descending ? ' ↓' : ' ↑')}
            </button>
          ))}
        </div>
        <div
          role="presentation"
          className="relative w-max min-w-full"
          style={{ height: virtual.getTotalSize() }}
        >
          {virtual.getVirtualItems().map(({ index, start }) => {
            const row = rows[index];
            const isSelected = selected.has(notes.id[row]);
            return (
              <div
                key={index}
                role="row"
                aria-rowindex={index + 1}
                aria-selected={isSelected}
                onClick={(event) => click(index, event)}
                style={{ transform: `translateY(${start}px)`, height: ROW }}
                className={`absolute flex w-full ${isSelected ? 'bg-well' : 'hover:bg-well/60'} ${notes.id[row] === focus ? 'outline outline-1 outline-ink' : ''}`}
              >
                {NOTE_COLUMNS.map((column) => (
                  <div
                    key={column.id}
                    role="gridcell"
                    style={{ width: column.width }}
                    onDoubleClick={() => column.edit && mayWrite && setEditing({ row, column: column.id })}
                    className="shrink-0 truncate border-b border-rule px-2 text-right leading-[21px] last:grow last:text-left"
                  >
                    {editing?.row === row && editing.column === column.id ? (
                      <CellInput
                        label={`${column.title} of this note`}
                        initial={column.words(row, context)}
                        onCommit={(text) => commit(row, column, text)}
                        onGiveUp={() => setEditing(null)}
                      />
                    ) : (
                      column.words(row, context)
                    )}
                  </div>
                ))}
              </div>
            );
          })}
        </div>
      </div>
    </section>
  );
}

function CellInput({
  label,
  initial,
  onCommit,
  onGiveUp,
}: {
  label: string;
  initial: string;
  onCommit(text: string): void;
  onGiveUp(): void;
}) {
  const [text, setText] = useState(initial);
  return (
    <input
      autoFocus
      aria-label={label}
      value={text}
      onFocus={(event) => event.target.select()}
      onClick={(event) => event.stopPropagation()}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => (text === initial ? onGiveUp() : onCommit(text))}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Enter') event.currentTarget.blur();
        if (event.key === 'Escape') onGiveUp();
      }}
      className="h-[19px] w-full border border-ink bg-ground px-1 text-right"
    />
  );
}
