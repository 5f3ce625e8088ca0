import {
  clipsFrom,
  deleteNotes,
  moveNotes,
  noEdits,
  pasteNotes,
  sentenceOf,
  type AlongAction,
  type CurveEdit,
  type NoteEdits,
  type NotesOnClipboard,
  type PasteHow,
  type PastePlan,
  type PartView,
} from '@ordle/core';
import { toast } from 'sonner';
import { engine } from '@/engine/engineClient';
import type { BenchState } from '@/music/useBench';
import type { AppDispatch } from '@/state/store';
import { applyEdits, selectedNotes, type EditTarget } from './editActions';
import { counted } from '@/words/counts';

interface Putting {
  content: NotesOnClipboard;
  plan: PastePlan;
  how: PasteHow | 'in place';
  bench: BenchState;
  view: PartView;
  target: EditTarget;
}

/**
 * Lays notes from the clipboard down as one action; those that give way are deleted or moved later, with their
 * controllers where these go along.
 */
export async function putNotes(dispatch: AppDispatch, { content, plan, how, bench, view, target }: Putting) {
  const { part, timeline, session, stop } = bench;
  if (!part) return;
  const at = { session, partId: part.id, stop: stop?.index ?? 0 };
  const giving = selectedNotes(view, new Set(plan.rows.map((row) => view.notes.id[row])));
  const by = plan.to - plan.from;
  const action: AlongAction = how === 'push' ? { kind: 'move', ticks: by } : { kind: 'delete' };
  const gaveWay = (): NoteEdits =>
    giving.length === 0 ? noEdits() : how === 'push' ? moveNotes(giving, by, 0) : deleteNotes(giving);
  try {
    const { along } = bench.view;
    const clips = along ? clipsFrom(content, timeline.ticksPerQuarter) : [];
    const [cleared, laid] = await Promise.all([
      along && giving.length > 0 ? engine.alongEdits({ ...at, ids: giving.map(({ id }) => id), action }) : [],
      clips.length > 0 ? engine.layClips({ ...at, clips, at: plan.tick }) : [],
    ]);
    const curves: CurveEdit[] = [...cleared, ...laid];
    const words = {
      add: '',
      'in place': ' where they were',
      replace: ' in place of others',
      push: ', the rest later',
    };
    await applyEdits(
      dispatch,
      `Paste ${counted(content.notes.length, 'note')}${words[how]}`,
      (newId) => ({
        ...gaveWay(),
        add: pasteNotes(content, plan.tick, part.channel, timeline.ticksPerQuarter, newId),
        ...(curves.length > 0 ? { curves } : {}),
      }),
      null,
      target,
    );
  } catch (error) {
    toast(sentenceOf(error));
  }
}
