import {
  clipsFrom,
  deleteNotes,
  itemOf,
  moveNotes,
  noEdits,
  pasteNotes,
  rowsInWay,
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
import { otherViewsStore } from '@/music/otherViews';
import type { BenchState } from '@/music/useBench';
import type { AppDispatch } from '@/state/store';
import { applyEdits, selectedNotes, type EditTarget } from './editActions';
import { counted } from '@/words/counts';

const HOW_IN_WORDS = {
  add: '',
  'in place': ' where they were',
  replace: ' in place of others',
  push: ', the rest later',
};

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
export async function putNotes(dispatch: AppDispatch, putting: Putting) {
  const { content, plan, how, bench, view, target } = putting;
  const { part, timeline, session, stop } = bench;
  if (!part) return;
  if (content.others) return putInParts(dispatch, putting);
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
    await applyEdits(
      dispatch,
      `Paste ${counted(content.notes.length, 'note')}${HOW_IN_WORDS[how]}`,
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

/**
 * Lays notes of several parts down in the same parts, as one action; what gives way gives way in each. Parts that are
 * gone are told.
 */
async function putInParts(dispatch: AppDispatch, { content, plan, how, bench, view, target }: Putting) {
  const { session, timeline, part: active } = bench;
  const wanted = [{ part: content.part ?? '', notes: content.notes }, ...(content.others ?? [])];
  const found = wanted.filter(({ part }) => itemOf(session.parts, part));
  const lacking = wanted.length - found.length;
  const gesture = crypto.randomUUID();
  const count = found.reduce((sum, { notes }) => sum + notes.length, 0);
  const label = `Paste ${counted(count, 'note')} in ${counted(found.length, 'part')}${HOW_IN_WORDS[how]}`;
  for (const { part: partId, notes } of found) {
    const part = itemOf(session.parts, partId);
    const isActive = partId === active?.id;
    const shown = isActive ? view : otherViewsStore.get().find((other) => other.partId === partId)?.view;
    if (!part) continue;
    const by = plan.to - plan.from;
    const rows =
      shown && how !== 'add' && how !== 'in place' ? rowsInWay(shown.notes, plan, how, timeline) : [];
    const giving = shown ? selectedNotes(shown, new Set(rows.map((row) => shown.notes.id[row]))) : [];
    const gaveWay =
      giving.length === 0 ? noEdits() : how === 'push' ? moveNotes(giving, by, 0) : deleteNotes(giving);
    await applyEdits(
      dispatch,
      label,
      (newId) => ({
        ...gaveWay,
        add: pasteNotes({ notes }, plan.tick, part.channel, timeline.ticksPerQuarter, newId),
      }),
      gesture,
      isActive ? target : { ...target, partId, stop: 'cleaned' },
    );
  }
  if (lacking > 0) toast(`${counted(lacking, 'part')} of what was copied is not in this session.`);
}
