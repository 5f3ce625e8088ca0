import { drumName, pitchName } from '@ordle/core';
import { useSelection } from '@/state/selection';
import { useAppSelector } from '@/state/store';
import { notesInWords } from '@/edits/editActions';
import { placeInWords } from '@/panels/notes/noteColumns';
import { latenessInWords } from '@/panels/roll/NoteTip';
import { usePartView } from '@/music/partViewStore';
import { useOpenBench } from '@/music/useBench';

/** Tells screen readers which note is selected and what the last action was. */
export function Announcer() {
  const bench = useOpenBench();
  const selection = useSelection();
  const { view } = usePartView();
  const last = useAppSelector((state) => state.session.work?.history.done.at(-1)?.label);
  return (
    <>
      <p role="status" aria-label="Selected note" className="sr-only" data-testid="announced">
        {selectionInWords()}
      </p>
      <p role="status" aria-label="Last action" className="sr-only">
        {last}
      </p>
    </>
  );

  function selectionInWords(): string {
    const { part, timeline } = bench;
    if (!part || !view || selection.partId !== part.id || selection.ids.size === 0) return '';
    if (selection.ids.size > 1) return `${notesInWords(selection.ids.size)} selected`;
    const row = view.notes.id.indexOf([...selection.ids][0]);
    if (row < 0) return '';
    const pitch = view.notes.pitch[row];
    const name = (part.sound.drums ? drumName(pitch) : null) ?? pitchName(pitch, bench.view.middleC);
    return `${name}, ${placeInWords(view.notes.start[row], { timeline, time: bench.view.time })}, velocity ${Math.round(view.notes.velocity[row])}, ${latenessInWords(view.late[row])}`;
  }
}
