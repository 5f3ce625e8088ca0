import { notesToText, type LaneClip, type Note, type NotesOfPart, type Timeline } from '@ordle/core';
import { engine } from '@/engine/engineClient';
import type { ClipsRequest } from '@/engine/protocol';

/** Notes that were copied, and where they and their controllers are found. */
export interface CopiedOfPart {
  at: Omit<ClipsRequest, 'ids'>;
  notes: readonly Note[];
}

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
  async addControllers(plain: string, timeline: Timeline, copied: readonly CopiedOfPart[]) {
    const clips = Promise.all(
      copied.map(({ at, notes }) => engine.clipsOf({ ...at, ids: notes.map(({ id }) => id) })),
    );
    const isAny = (found: readonly LaneClip[][]) => found.some(({ length }) => length > 0);
    finding = clips.then(
      (found) => {
        if (!isAny(found) || last?.plain !== plain) return;
        const among = copied.map(({ at, notes }, row) => ({ part: at.partId, notes, clips: found[row] }));
        last = { plain, whole: notesToText(copied[0].notes, timeline, found[0], among) };
      },
      () => undefined,
    );
    const found = await clips;
    await finding;
    if (isAny(found) && last?.plain === plain)
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
