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
  type Note,
  type NoteEdits,
  type NotesOnClipboard,
  type PasteHow,
  type PastePlan,
  type PartView,
  type Timeline,
} from '@ordle/core';
import { toast } from 'sonner';
import { engine } from '@/engine/engineClient';
import type { StopQuestion } from '@/engine/protocol';
import { stopAt } from '@/music/stops';
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
  const gaveWay = (): NoteEdits =>
    giving.length === 0 ? noEdits() : how === 'push' ? moveNotes(giving, by, 0) : deleteNotes(giving);
  try {
    const { lanes } = content;
    const curves = await curvesOf(at, { lanes, plan, giving, how, isAlong: bench.view.along, timeline });
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

/** Edits of lanes that go along with a paste: those of the notes that give way, then those that were copied. */
async function curvesOf(
  at: StopQuestion,
  {
    lanes,
    plan,
    giving,
    how,
    isAlong,
    timeline,
  }: Pick<Putting, 'plan' | 'how'> & {
    lanes: NotesOnClipboard['lanes'];
    giving: readonly Note[];
    isAlong: boolean;
    timeline: Timeline;
  },
): Promise<CurveEdit[]> {
  if (!isAlong) return [];
  const action: AlongAction =
    how === 'push' ? { kind: 'move', ticks: plan.to - plan.from } : { kind: 'delete' };
  const clips = clipsFrom({ lanes }, timeline.ticksPerQuarter);
  const [cleared, laid] = await Promise.all([
    giving.length > 0 ? engine.alongEdits({ ...at, ids: giving.map(({ id }) => id), action }) : [],
    clips.length > 0 ? engine.layClips({ ...at, clips, at: plan.tick }) : [],
  ]);
  return [...cleared, ...laid];
}

/**
 * Lays notes of several parts down in the same parts, as one action; what gives way gives way in each. Parts that are
 * gone are told.
 */
async function putInParts(dispatch: AppDispatch, { content, plan, how, bench, view, target }: Putting) {
  const { session, timeline, part: active } = bench;
  const wanted = [
    { part: content.part ?? '', notes: content.notes, lanes: content.lanes },
    ...(content.others ?? []),
  ];
  const found = wanted.filter(({ part }) => itemOf(session.parts, part));
  const lacking = wanted.length - found.length;
  const gesture = crypto.randomUUID();
  const count = found.reduce((sum, { notes }) => sum + notes.length, 0);
  const label = `Paste ${counted(count, 'note')} in ${counted(found.length, 'part')}${HOW_IN_WORDS[how]}`;
  const puttingIn = async ({ part: partId, notes, lanes }: (typeof found)[number]) => {
    const part = itemOf(session.parts, partId);
    if (!part) return null;
    const isActive = partId === active?.id;
    const shown = isActive ? view : otherViewsStore.get().find((other) => other.partId === partId)?.view;
    const by = plan.to - plan.from;
    const rows =
      shown && how !== 'add' && how !== 'in place' ? rowsInWay(shown.notes, plan, how, timeline) : [];
    const giving = shown ? selectedNotes(shown, new Set(rows.map((row) => shown.notes.id[row]))) : [];
    const gaveWay =
      giving.length === 0 ? noEdits() : how === 'push' ? moveNotes(giving, by, 0) : deleteNotes(giving);
    const to = isActive ? target : { ...target, partId, stop: 'cleaned' };
    const at = { session, partId, stop: stopAt(part, to.stop).index };
    const curves = await curvesOf(at, { lanes, plan, giving, how, isAlong: bench.view.along, timeline });
    const make = (newId: () => number) => ({
      ...gaveWay,
      add: pasteNotes({ notes }, plan.tick, part.channel, timeline.ticksPerQuarter, newId),
      ...(curves.length > 0 ? { curves } : {}),
    });
    return { to, make };
  };
  try {
    // All of it is worked out before any of it is written: where one part fails, nothing is half pasted.
    for (const put of await Promise.all(found.map(puttingIn)))
      if (put) await applyEdits(dispatch, label, put.make, gesture, put.to);
  } catch (error) {
    toast(sentenceOf(error));
    return;
  }
  if (lacking > 0) toast(`${counted(lacking, 'part')} of what was copied is not in this session.`);
}
