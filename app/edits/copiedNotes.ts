import { notesToText, type Note, type Timeline } from '@ordle/core';
import { engine } from '@/engine/engineClient';
import type { ClipsRequest } from '@/engine/protocol';

/**
 * What was last copied here: for where the system clipboard may not be read, and with the controllers of the notes,
 * which the engine finds only after the browser has taken the text of a copy.
 */
let last: { plain: string; whole: string } | null = null;

export const copiedNotes = {
  /** Keeps notes as text and gives the text. */
  keep(notes: readonly Note[], timeline: Timeline): string {
    const plain = notesToText(notes, timeline);
    last = { plain, whole: plain };
    return plain;
  },
  /**
   * Puts the controllers of what was copied beside it, here and on the system clipboard, so that another tab has them
   * too.
   */
  async addControllers(
    plain: string,
    notes: readonly Note[],
    timeline: Timeline,
    at: Omit<ClipsRequest, 'ids'>,
  ) {
    const clips = await engine.clipsOf({ ...at, ids: notes.map(({ id }) => id) });
    if (clips.length === 0 || last?.plain !== plain) return;
    last = { plain, whole: notesToText(notes, timeline, clips) };
    await navigator.clipboard?.writeText(last.whole).catch(() => undefined);
  },
  /** Text from the clipboard with what is known beside it; without any, what was last copied. */
  wholeOf(text: string | null | undefined): string {
    if (!text) return last?.whole ?? '';
    return text === last?.plain ? last.whole : text;
  },
};
