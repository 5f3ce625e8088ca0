import { deleteNotes, notesFromText, notesToText, pasteNotes, secondsToTicks, sentenceOf } from '@ordle/core';
import { useEffect } from 'react';
import { toast } from 'sonner';
import { useCommands } from '@/commands';
import { isTyping } from '@/commands/runtime';
import { transport } from '@/sound/transport';
import { useSelection } from '@/state/selection';
import { useAppDispatch } from '@/state/store';
import { applyEdits, chosenNotes, notesInWords } from './editActions';
import { usePartView } from './partViewStore';
import type { BenchState } from './useBench';

/** What was last copied here, for where the system clipboard may not be read. */
let lastCopied: string | null = null;

/** Copy, cut and paste of notes, within and between parts and sessions, through the system clipboard. */
export function useClipboard(bench: BenchState) {
  const dispatch = useAppDispatch();
  const selection = useSelection();
  const { view } = usePartView();
  const { part, timeline, mayWrite } = bench;
  const chosen = () => (selection.partId === part?.id ? chosenNotes(view, selection.ids) : []);

  const paste = (text: string, inPlace: boolean) => {
    if (!part || !mayWrite) return;
    try {
      const content = notesFromText(text);
      const tick = inPlace
        ? content.origin * timeline.ticksPerQuarter
        : Math.round(secondsToTicks(timeline.tempo, transport.second()));
      applyEdits(dispatch, `Paste ${notesInWords(content.notes.length)}`, (newId) => ({
        change: {},
        delete: [],
        add: pasteNotes(content, tick, part.channel, timeline.ticksPerQuarter, newId),
      }));
    } catch (error) {
      toast(sentenceOf(error));
    }
  };
  const fromSystem = async (inPlace: boolean) => {
    const text = await navigator.clipboard?.readText().catch(() => null);
    paste(text ?? lastCopied ?? '', inPlace);
  };
  const copy = () => {
    const notes = chosen();
    if (notes.length === 0) return null;
    lastCopied = notesToText(notes, timeline.ticksPerQuarter);
    toast(`${notesInWords(notes.length)} copied.`);
    return lastCopied;
  };
  const cutChosen = () => {
    const notes = chosen();
    applyEdits(dispatch, `Cut ${notesInWords(notes.length)}`, () => deleteNotes(notes));
  };

  useEffect(() => {
    const onCopy = (event: ClipboardEvent) => {
      if (
        isTyping(event as unknown as KeyboardEvent) ||
        (event.target as HTMLElement | null)?.closest('[role=dialog]')
      )
        return;
      const text = copy();
      if (text === null) return;
      event.clipboardData?.setData('text/plain', text);
      event.preventDefault();
      if (event.type === 'cut' && mayWrite) cutChosen();
    };
    const onPaste = (event: ClipboardEvent) => {
      if (
        isTyping(event as unknown as KeyboardEvent) ||
        (event.target as HTMLElement | null)?.closest('[role=dialog]')
      )
        return;
      paste(event.clipboardData?.getData('text/plain') || (lastCopied ?? ''), false);
      event.preventDefault();
    };
    document.addEventListener('copy', onCopy);
    document.addEventListener('cut', onCopy);
    document.addEventListener('paste', onPaste);
    return () => {
      document.removeEventListener('copy', onCopy);
      document.removeEventListener('cut', onCopy);
      document.removeEventListener('paste', onPaste);
    };
  });

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
        cutChosen();
      }),
    paste: mayWrite && (() => void fromSystem(false)),
    'paste-in-place': mayWrite && (() => void fromSystem(true)),
  });
}
