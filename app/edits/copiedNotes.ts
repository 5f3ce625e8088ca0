import { notesToText, type Note, type NotesOfPart, type Timeline } from '@ordle/core';
import { engine } from '@/engine/engineClient';
import type { ClipsRequest } from '@/engine/protocol';

/**
 * What was last copied here: for where the system clipboard may not be read, and with the controllers of the notes,
 * which the engine finds only after the browser has taken the text of a copy.
 */
let last: { plain: string; whole: string } | null = null;
/** The finding of those controllers, for a paste that comes before they are found. */
let finding: Promise<void> = Promise.resolve();

export const copiedNotes = {
  /** Keeps notes as text and gives the text. */
  keep(notes: readonly Note[], timeline: Timeline, among: readonly NotesOfPart[] = []): string {
    const plain = notesToText(notes, timeline, [], among);
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
    among: readonly NotesOfPart[] = [],
  ) {
    const clips = engine.clipsOf({ ...at, ids: notes.map(({ id }) => id) });
    finding = clips.then(
      (found) => {
        if (found.length > 0 && last?.plain === plain)
          last = { plain, whole: notesToText(notes, timeline, found, among) };
      },
      () => undefined,
    );
    const found = await clips;
    await finding;
    if (found.length > 0 && last?.plain === plain)
      await navigator.clipboard?.writeText(last.whole).catch(() => undefined);
  },
  /**
   * Text from the clipboard with the controllers that belong to it, which are waited for; without any text, what was
   * last copied.
   */
  async wholeOf(text: string | null | undefined): Promise<string> {
    await finding;
    if (!text) return last?.whole ?? '';
    return text === last?.plain ? last.whole : text;
  },
};
