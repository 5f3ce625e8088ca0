import type { PartView } from '@ordle/core';
import type { EditorWindow } from '@/state/viewSlice';
import type { EditorContent } from './editorTypes';
import { harmonyTop, pitchAt, rollTop, tickAt, type Layout } from './geometry';
import { otherNoteAt, type OtherNote } from './otherParts';
import { rowsAt } from './pitchIndex';

/** What lies at a place of the canvas: where, and of the notes which. */
export interface PlaceOnRoll {
  where: 'keys' | 'notes' | 'bars' | 'velocities';
  tick: number;
  pitch: number;
  /** The note of the part that is worked on. */
  id: number | null;
  /** The note of another shown part, where none of the part lies over it. */
  other: OtherNote | null;
}

/** Reads a place, in CSS pixels from the canvas's corner. */
export function placeOnRoll(
  { x, y }: { x: number; y: number },
  view: PartView | null,
  others: EditorContent['others'],
  window: EditorWindow,
  layout: Layout,
): PlaceOnRoll {
  const tick = Math.max(0, tickAt(x, window, layout));
  const pitch = pitchAt(y, window, layout);
  const place = { tick, pitch, id: null, other: null };
  if (y < rollTop(layout)) return { ...place, where: 'bars' };
  if (y >= harmonyTop(layout)) return { ...place, where: 'velocities' };
  const slack = 2 * window.ticksPerPixel;
  const [row] = view ? rowsAt(view.notes, tick, pitch, slack) : [];
  const id = view && row !== undefined ? view.notes.id[row] : null;
  return {
    ...place,
    where: x < layout.gutter ? 'keys' : 'notes',
    id,
    other: id === null ? otherNoteAt(others, tick, pitch, slack) : null,
  };
}
