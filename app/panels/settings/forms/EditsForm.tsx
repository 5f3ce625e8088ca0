import {
  changedIds,
  columnEditOf,
  countOfColumns,
  placedColumns,
  withoutIds,
  type EditTable,
  type EditsStep,
} from '@ordle/core';
import { useEffect, useState } from 'react';
import { keepColumns } from '@/edits/manyEdits';
import { attempt } from '@/ui/attempt';
import { loadTable } from '@/storage/editTables';
import { selectionStore } from '@/state/selection';
import { useAppDispatch } from '@/state/store';
import { Button } from '@/ui';
import { usePartView } from '@/music/partViewStore';
import { changeStep } from '@/steps/changeSteps';
import { useOpenBench } from '@/music/useBench';
import { EditEntries, type EntryOfEdits } from './EditEntries';
import { counted, figures } from '@/words/counts';

/** What was done by hand, and the edits that no longer find their note. */
export function EditsForm({ step }: { step: EditsStep }) {
  const bench = useOpenBench();
  const dispatch = useAppDispatch();
  const { view } = usePartView();
  const { part, stop, mayWrite } = bench;
  const inTable = useTable(step.table?.key);
  if (!part || !stop) return null;
  const lost = view?.partId === part.id && view.stop === stop.index ? view.lostEdits : [];
  const changed = Object.keys(step.change).map(Number);
  const table = step.table;
  const rows: [string, number[]][] = [
    ['changed', changed],
    ['added', step.add.flatMap(({ id }) => (id === undefined ? [] : [id]))],
    ['deleted', step.delete],
  ];
  const own = (id: number) => inTable === null || columnEditOf(inTable, id) === undefined;
  const counts: Record<string, number> = {
    changed: (table?.changed ?? 0) + changed.filter(own).length,
    added: step.add.length,
    deleted: (table?.deleted ?? 0) + step.delete.filter(own).length,
  };
  const selectRow = (name: string, ids: number[]) =>
    attempt(async () => {
      const many = name === 'changed' && table ? changedIds(await loadTable(table.key)) : [];
      selectionStore.select(part.id, [...ids, ...many]);
    });
  /** Takes back what was done to some notes. */
  const takeBack = async (label: string, gone: ReadonlySet<number>) => {
    const columns = table && withoutIds(placedColumns(await loadTable(table.key), table.places), gone);
    const kept = columns && { table: { key: (await keepColumns(columns)).key, ...countOfColumns(columns) } };
    const change = Object.fromEntries(Object.entries(step.change).filter(([id]) => !gone.has(Number(id))));
    changeStep(dispatch, part.id, stop.id, label, {
      change,
      add: step.add.filter(({ id }) => id === undefined || !gone.has(id)),
      delete: step.delete.filter((id) => !gone.has(id)),
      ...kept,
    });
  };
  const forget = () => takeBack(`Delete ${counted(lost.length, 'lost edit')}`, new Set(lost));
  const remove = (entry: EntryOfEdits) =>
    'note' in entry
      ? attempt(() => takeBack('Take back a hand edit', new Set([entry.note])))
      : changeStep(dispatch, part.id, stop.id, 'Take back a hand edit of a lane', {
          curves: step.curves?.filter((_, at) => at !== entry.curve),
        });
  return (
    <>
      <p className="text-ink-2">
        Drag, draw, trim or type: every change made by hand lands here, and what was played stays as it is.
        Switch the step off to hear it without.
      </p>
      <dl>
        {rows.map(([name, ids]) => (
          <div key={name} className="flex items-center justify-between py-px">
            <dt className="text-ink-2">notes {name}</dt>
            <dd className="flex items-center gap-2">
              {(counts[name] ?? 0) > 0 && name !== 'deleted' && (
                <Button className="h-5 px-1" onClick={() => selectRow(name, ids)}>
                  select
                </Button>
              )}
              {figures(counts[name] ?? 0)}
            </dd>
          </div>
        ))}
      </dl>
      <EditEntries
        step={step}
        table={inTable}
        view={view?.partId === part.id && view.stop === stop.index ? view : null}
        mayWrite={mayWrite}
        onRemove={remove}
      />
      {lost.length > 0 && (
        <div role="status" className="border border-rule-strong bg-sheet p-2">
          <p>
            {counted(lost.length, 'note')} edited here {lost.length === 1 ? 'is' : 'are'} no longer there: an
            earlier step removes {lost.length === 1 ? 'it' : 'them'}. The edits wait and apply again when the
            notes come back.
          </p>
          <p className="mt-1 text-quiet text-ink-2">
            Note numbers: {lost.slice(0, 12).join(', ')}
            {lost.length > 12 && ' ...'}
          </p>
          {mayWrite && (
            <Button className="mt-1.5" onClick={() => attempt(forget)}>
              Delete them
            </Button>
          )}
        </div>
      )}
    </>
  );
}

/** The table a step names, once it is read; null until then, and without one. */
function useTable(key: string | undefined): EditTable | null {
  const [read, setRead] = useState<EditTable | null>(null);
  useEffect(() => {
    let wanted = true;
    if (key !== undefined)
      void loadTable(key).then(
        (table) => wanted && setRead(table),
        () => undefined,
      );
    return () => {
      wanted = false;
    };
  }, [key]);
  return read?.key === key ? read : null;
}
