import { drumName, pitchName } from '@ordle/core';
import { useSelection } from '@/state/selection';
import { placeInWords } from '@/panels/notes/noteColumns';
import { latenessInWords } from '@/panels/roll/NoteTip';
import { usePartView } from '@/music/partViewStore';
import { useOpenBench } from '@/music/useBench';
import { counted } from '@/words/counts';

/** Tells screen readers which note is selected. */
export function Announcer() {
  const bench = useOpenBench();
  const selection = useSelection();
  const { view } = usePartView();
  return (
    <p role="status" aria-label="Selected note" className="sr-only" data-testid="announced">
      {selectionInWords()}
    </p>
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
