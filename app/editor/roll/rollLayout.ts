import type { PartView } from '@ordle/core';
import { USUAL_LETTERS, sizeOfLetters } from '../colours';
import type { EditorContent } from './editorTypes';
import { DRUM_GUTTER, OVERVIEW_HEIGHT, PIANO_GUTTER, RULER_HEIGHT, type Layout } from './geometry';
import { HARMONY_HEIGHT } from './harmonyBars';
import { areSameRows, pitchRowsFor, type PitchRows } from './pitchRows';
import { stripHeight } from './whereSpans';

/** How the roll divides its room, by what it shows. */

/** Less height than this is little, in pixels. */
const LITTLE = 260;

/** Before anything is shown. */
export const FIRST_LAYOUT: Layout = {
  width: 1,
  height: 1,
  gutter: PIANO_GUTTER,
  overview: OVERVIEW_HEIGHT,
  ruler: RULER_HEIGHT,
  spans: 0,
  harmony: 0,
  velocities: 0,
  rows: null,
};

/**
 * The rows: on drums the pieces in use get the room, in this part and those shown behind it; to draw in, all are there.
 * `known` is given back where nothing is different.
 */
export function rowsInUse(
  content: EditorContent | null,
  view: PartView | null,
  known: PitchRows | null,
): PitchRows | null {
  if (!content || !view) return null;
  const { drums, hidesPieces, hidesOctaves, tool } = content;
  if (!drums && !hidesOctaves) return null;
  const found = pitchRowsFor(
    [view, ...content.others.map((other) => other.view)].map(({ notes }) => notes.usedPitches),
    drums ? (hidesPieces && tool !== 'draw' ? 'none' : 'low') : 'octaves',
  );
  return areSameRows(found, known) ? known : found;
}

/** The layout of a canvas of `width` and `height` CSS pixels. */
export function layoutFor(
  content: EditorContent | null,
  view: PartView | null,
  { width, height }: { width: number; height: number },
  known: Layout,
): Layout {
  return {
    ...known,
    width,
    height,
    // The names in it grow with the letters of the page.
    gutter: Math.round(((content?.drums ? DRUM_GUTTER : PIANO_GUTTER) * sizeOfLetters()) / USUAL_LETTERS),
    spans: stripHeight(content?.spans ?? []),
    harmony: content?.sections ? HARMONY_HEIGHT : 0,
    // In little height the notes have all of it.
    overview: height < LITTLE ? OVERVIEW_HEIGHT / 2 : OVERVIEW_HEIGHT,
    velocities: content?.velocities && height >= LITTLE ? Math.min(content.velocitiesHeight, height / 2) : 0,
    rows: rowsInUse(content, view, known.rows),
  };
}

/** Whether the room has to be divided otherwise for what is shown next. */
export const isLaidOutOtherwise = (
  content: EditorContent | null,
  next: EditorContent,
  { spans }: Layout,
): boolean =>
  content?.drums !== next.drums ||
  content.hidesPieces !== next.hidesPieces ||
  content.hidesOctaves !== next.hidesOctaves ||
  (content.tool === 'draw') !== (next.tool === 'draw') ||
  content.velocities !== next.velocities ||
  content.velocitiesHeight !== next.velocitiesHeight ||
  (content.sections == null) !== (next.sections == null) ||
  content.others !== next.others ||
  stripHeight(next.spans) !== spans;
