import { drumName, pitchName } from '@ordle/core';
import { useState } from 'react';
import { useSelection } from '@/state/selection';
import { useAppSelector } from '@/state/store';
import { placeInWords } from '@/panels/notes/noteColumns';
import { latenessInWords } from '@/panels/roll/NoteTip';
import { usePartView } from '@/music/partViewStore';
import { useOpenBench } from '@/music/useBench';
import { counted } from '@/words/counts';

/** Tells screen readers which note is selected and what the last action was. */
export function Announcer() {
  const bench = useOpenBench();
  const selection = useSelection();
  const { view } = usePartView();
  const { label, count } = useLastAction();
  return (
    <>
      <p role="status" aria-label="Selected note" className="sr-only" data-testid="announced">
        {selectionInWords()}
      </p>
      <p role="status" aria-label="Last action" className="sr-only">
        {/* Anew at each action, so that one done twice is told twice. */}
        <span key={count}>{label}</span>
      </p>
    </>
  );

  function selectionInWords(): string {
    const { part, timeline } = bench;
    const elsewhere = [...selection.others.values()].reduce((sum, { size }) => sum + size, 0);
    if (elsewhere > 0) return `${counted(elsewhere + selection.ids.size, 'note')} selected in several parts`;
    if (!part || !view || selection.partId !== part.id || selection.ids.size === 0) return '';
    if (selection.ids.size > 1) return `${counted(selection.ids.size, 'note')} selected`;
    const row = view.notes.id.indexOf([...selection.ids][0]);
    if (row < 0) return '';
    const pitch = view.notes.pitch[row];
    const name = (part.sound.drums ? drumName(pitch) : null) ?? pitchName(pitch, bench.view.middleC);
    return `${name}, ${placeInWords(view.notes.start[row], { timeline, time: bench.view.time })}, velocity ${Math.round(view.notes.velocity[row])}, ${latenessInWords(view.late[row])}`;
  }
}

/** The last thing done, undone or done again, and a number that is another for each. */
function useLastAction(): { label: string; count: number } {
  const history = useAppSelector((state) => state.session.work?.history);
  const done = history?.done.length ?? 0;
  const [last, setLast] = useState({ history, done, label: '', count: 0 });
  // Worked out while rendering, so that it is said with what it did.
  if (last.history !== history) {
    const latest = history?.done.at(-1)?.label ?? '';
    const isUndone = history !== undefined && last.history !== undefined && done < last.done;
    const undone = isUndone ? last.history?.done.at(done)?.label : undefined;
    const label = undone === undefined ? latest : `Undone: ${undone}`;
    setLast({ history, done, label, count: last.count + 1 });
    return { label, count: last.count + 1 };
  }
  return last;
}
