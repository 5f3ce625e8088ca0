import {
  clipsFrom,
  deleteNotes,
  notesFromText,
  pasteNotes,
  secondsToTicks,
  sentenceOf,
  type CurveEdit,
} from '@ordle/core';
import { useEffect, useRef } from 'react';
import { toast } from 'sonner';
import { useCommands } from '@/commands';
import { engine } from '@/engine/engineClient';
import { holdClipboard, type ClipboardHolder } from '@/surface';
import { transport } from '@/sound/transport';
import { useSelection } from '@/state/selection';
import { useAppDispatch } from '@/state/store';
import { copiedNotes } from './copiedNotes';
import { applyEdits, applyEditsAlong, selectedNotes, notesInWords, targetNow } from './editActions';
import { usePartView } from '@/music/partViewStore';
import type { BenchState } from '@/music/useBench';

/** Copy, cut and paste of notes, within and between parts and sessions, through the system clipboard. */
export function useClipboard(bench: BenchState) {
  const dispatch = useAppDispatch();
  const selection = useSelection();
  const { view } = usePartView();
  const { part, timeline, mayWrite } = bench;
  const selected = () => (selection.partId === part?.id ? selectedNotes(view, selection.ids) : []);

  const paste = (text: string | null | undefined, inPlace: boolean, target = targetNow()) => {
    if (!part || !mayWrite || !target) return;
    try {
      const content = notesFromText(copiedNotes.wholeOf(text));
      const tick = inPlace
        ? content.origin * timeline.ticksPerQuarter
        : Math.round(secondsToTicks(timeline.tempo, transport.second()));
      const clips = bench.view.along ? clipsFrom(content, timeline.ticksPerQuarter) : [];
      const put = (curves?: CurveEdit[]) =>
        applyEdits(
          dispatch,
          `Paste ${notesInWords(content.notes.length)}`,
          (newId) => ({
            change: {},
            delete: [],
            add: pasteNotes(content, tick, part.channel, timeline.ticksPerQuarter, newId),
            ...(curves && curves.length > 0 ? { curves } : {}),
          }),
          null,
          target,
        );
      if (clips.length === 0) put();
      else
        engine
          .layClips({
            session: bench.session,
            partId: part.id,
            stop: bench.stop?.index ?? 0,
            clips,
            at: tick,
          })
          .then(put, (error: unknown) => toast(sentenceOf(error)));
    } catch (error) {
      toast(sentenceOf(error));
    }
  };
  const fromSystem = async (inPlace: boolean) => {
    // Where it is to go is settled by the key press, not by where one is when the browser hands the text over.
    const target = targetNow();
    const text = await navigator.clipboard?.readText().catch(() => null);
    paste(text, inPlace, target);
  };
  const copy = () => {
    const notes = selected();
    if (notes.length === 0) return null;
    const plain = copiedNotes.keep(notes, timeline.ticksPerQuarter);
    toast(`${notesInWords(notes.length)} copied.`);
    if (bench.view.along && part) {
      const at = { session: bench.session, partId: part.id, stop: bench.stop?.index ?? 0 };
      copiedNotes
        .addControllers(plain, notes, timeline.ticksPerQuarter, at)
        .catch((error: unknown) => toast(sentenceOf(error)));
    }
    return plain;
  };
  const removeSelected = () => {
    const notes = selected();
    applyEditsAlong(dispatch, `Cut ${notesInWords(notes.length)}`, { kind: 'delete' }, notes, () =>
      deleteNotes(notes),
    );
  };

  const latest = useRef<ClipboardHolder>(null);
  useEffect(() => {
    latest.current = {
      copy,
      remove() {
        if (mayWrite) removeSelected();
      },
      paste(text) {
        paste(text, false);
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

  const some = selection.partId === part?.id && selection.ids.size > 0;
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
    paste: mayWrite && (() => void fromSystem(false)),
    'paste-in-place': mayWrite && (() => void fromSystem(true)),
  });
}
