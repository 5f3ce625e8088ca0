import {
  createGrid,
  deleteNotes,
  itemOf,
  notesFromText,
  pastePlan,
  secondsToTicks,
  sentenceOf,
  type PasteHow,
} from '@ordle/core';
import { useEffect, useRef } from 'react';
import { toast } from 'sonner';
import { useCommands } from '@/commands';
import { holdClipboard, type ClipboardHolder } from '@/surface';
import { transport } from '@/sound/transport';
import { useSelection } from '@/state/selection';
import { useAppDispatch } from '@/state/store';
import { copiedNotes } from './copiedNotes';
import { gridInForce } from '@/music/gridInForce';
import { applyToAll, countedInAll, selectedInAll } from './across';
import { targetNow } from './editActions';
import { putNotes } from './putNotes';
import { stopAt } from '@/music/stops';
import { usePartView } from '@/music/partViewStore';
import type { BenchState } from '@/music/useBench';

/** Copy, cut and paste of notes, within and between parts and sessions, through the system clipboard. */
export function useClipboard(bench: BenchState) {
  const dispatch = useAppDispatch();
  const selection = useSelection();
  const { view } = usePartView();
  const { part, timeline, mayWrite } = bench;

  const paste = async (
    text: string | null | undefined,
    how: PasteHow | 'in place',
    target = targetNow(),
    at = secondsToTicks(timeline.tempo, transport.second()),
  ) => {
    if (!part || !mayWrite || !target || !view) return;
    try {
      const content = notesFromText(await copiedNotes.wholeOf(text));
      const { values, swing } = gridInForce(bench);
      const plan =
        how === 'in place'
          ? { tick: content.origin * timeline.ticksPerQuarter, from: 0, to: 0, rows: [] }
          : pastePlan(
              content,
              at,
              how,
              bench.view.snap,
              createGrid(timeline.meter, values, swing),
              view.notes,
              timeline,
            );
      await putNotes(dispatch, { content, plan, how, bench, view, target });
    } catch (error) {
      toast(sentenceOf(error));
    }
  };
  const fromSystem = async (how: PasteHow | 'in place') => {
    // Where it is to go is settled by the key press, not by where one is when the browser hands the text over.
    const [target, at] = [targetNow(), secondsToTicks(timeline.tempo, transport.second())];
    const text = await navigator.clipboard?.readText().catch(() => null);
    await paste(text, how, target, at);
  };
  const copy = () => {
    const all = selectedInAll();
    if (all.length === 0) return null;
    const among = all.map(({ target, notes }) => ({ part: target.partId, notes }));
    const [{ notes }] = all;
    const plain = copiedNotes.keep(notes, timeline, among);
    toast(`${countedInAll(all)} copied.`);
    if (bench.view.along) {
      const { session } = bench;
      const copied = all.flatMap((own) => {
        const at = itemOf(session.parts, own.target.partId);
        const stop = at && stopAt(at, own.target.stop).index;
        return at && stop !== undefined ? [{ at: { session, partId: at.id, stop }, notes: own.notes }] : [];
      });
      copiedNotes.addControllers(plain, timeline, copied).catch((error: unknown) => toast(sentenceOf(error)));
    }
    return plain;
  };
  const removeSelected = () => {
    const all = selectedInAll();
    void applyToAll(dispatch, `Cut ${countedInAll(all)}`, all, deleteNotes, { kind: 'delete' });
  };

  const latest = useRef<ClipboardHolder>(null);
  useEffect(() => {
    latest.current = {
      copy,
      remove() {
        if (mayWrite) removeSelected();
      },
      paste(text) {
        void paste(text, 'add');
        return true;
      },
    };
  });
  useEffect(
    () =>
      holdClipboard({
        copy: () => latest.current?.copy() ?? null,
        remove: () => latest.current?.remove(),
        paste: (text) => latest.current?.paste(text) ?? false,
      }),
    [],
  );

  const some = (selection.partId === part?.id && selection.ids.size > 0) || selection.others.size > 0;
  const write = () => {
    const text = copy();
    if (text !== null) void navigator.clipboard?.writeText(text).catch(() => undefined);
  };
  useCommands({
    copy: some && write,
    cut:
      some &&
      mayWrite &&
      (() => {
        write();
        removeSelected();
      }),
    paste: mayWrite && (() => void fromSystem('add')),
    'paste-replace': mayWrite && (() => void fromSystem('replace')),
    'paste-push': mayWrite && (() => void fromSystem('push')),
    'paste-in-place': mayWrite && (() => void fromSystem('in place')),
  });
}
