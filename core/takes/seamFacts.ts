import type { Assembly } from '../assembly';
import { pieceAndRow } from '../model';
import type { Part } from '../session';
import { belongsFrom, firstAtOrAfter, type Timeline } from '../time';
import { seamsIn, type Seam } from './partTakes';

/** What happens at a seam, in notes. */
export interface SeamFacts {
  /** In ticks. */
  at: number;
  /** Notes from before the seam that sound over it to their own end. */
  ringing: number;
  /** Notes from before it that end earlier than they were played. */
  cut: number;
  /** Notes of what begins here that start ahead of it. */
  early: number;
}

/**
 * The seams of a part with what happens at each. `ends` tells where a note would end by itself, in ticks; NaN where
 * that is not known.
 */
export function seamFacts(
  part: Part,
  { material: { notes } }: Pick<Assembly, 'material'>,
  endOfNote: (id: number) => number,
  timeline: Timeline,
  tickOf: (place: number) => number,
): (Seam & { facts: SeamFacts })[] {
  // The longest notes decide how far back one has to look from a seam.
  let longest = 0;
  for (let row = 0; row < notes.length; row++) longest = Math.max(longest, notes.end[row] - notes.start[row]);
  return seamsIn(part).map((seam) => {
    const at = tickOf(seam.at);
    const isAhead = belongsFrom(at, timeline);
    const facts: SeamFacts = { at, ringing: 0, cut: 0, early: 0 };
    for (
      let row = firstAtOrAfter(notes.start, at - Math.max(longest, timeline.ticksPerQuarter * 16));
      row < notes.length;
      row++
    ) {
      const start = notes.start[row];
      if (start >= at) break;
      if (pieceAndRow(notes.id[row])?.piece === seam.piece.number && isAhead(start)) facts.early++;
      else if (notes.end[row] > at + 0.5) facts.ringing++;
      else if (endOfNote(notes.id[row]) > Math.max(at, notes.end[row]) + 0.5) facts.cut++;
    }
    return { ...seam, facts };
  });
}
