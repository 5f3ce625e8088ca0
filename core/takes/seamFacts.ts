import type { Assembly } from '../assembly';
import { createStateReader, soundIn, type SoundState } from '../curves';
import type { EventColumns } from '../midi';
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
  /** What becomes another under the notes that ring over it, since their channel changes there; null where nothing. */
  jump: { from: SoundState; to: SoundState } | null;
}

/**
 * The seams of a part with what happens at each. `ends` tells where a note would end by itself, in ticks; NaN where
 * that is not known.
 */
export function seamFacts(
  part: Part,
  { material: { notes, events } }: Pick<Assembly, 'material'>,
  endOfNote: (id: number) => number,
  timeline: Timeline,
  tickOf: (place: number) => number,
): (Seam & { facts: SeamFacts })[] {
  // The longest notes decide how far back one has to look from a seam.
  let longest = 0;
  for (let row = 0; row < notes.length; row++) longest = Math.max(longest, notes.end[row] - notes.start[row]);
  const jumpAt = createJumps(events);
  return seamsIn(part).map((seam) => {
    const at = tickOf(seam.at);
    const isAhead = belongsFrom(at, timeline);
    const facts: SeamFacts = { at, ringing: 0, cut: 0, early: 0, jump: null };
    const ringing = new Set<number>();
    for (
      let row = firstAtOrAfter(notes.start, at - Math.max(longest, timeline.ticksPerQuarter * 16));
      row < notes.length;
      row++
    ) {
      const start = notes.start[row];
      if (start >= at) break;
      if (pieceAndRow(notes.id[row])?.piece === seam.piece.number && isAhead(start)) facts.early++;
      else if (notes.end[row] > at + 0.5) {
        facts.ringing++;
        ringing.add(notes.channel[row]);
      } else if (endOfNote(notes.id[row]) > Math.max(at, notes.end[row]) + 0.5) facts.cut++;
    }
    for (const channel of ringing) facts.jump ??= jumpAt(at, channel);
    return { ...seam, facts };
  });
}

/**
 * How a channel sounds just before a tick and after what stands there, where that differs; ticks are asked in order.
 */
function createJumps(events: EventColumns) {
  const { state, read } = createStateReader();
  let row = 0;
  let [looked, before] = [-1, new Map(state)];
  return (at: number, channel: number): SeamFacts['jump'] => {
    if (at !== looked) {
      for (; row < events.length && events.tick[row] < at - 1e-6; row++) read(events, row);
      [looked, before] = [at, new Map(state)];
      for (; row < events.length && events.tick[row] <= at + 1e-6; row++) read(events, row);
    }
    const [from, to] = [soundIn(before, channel), soundIn(state, channel)];
    const isSame =
      from.program === to.program &&
      from.bendRange === to.bendRange &&
      Math.abs(from.bendCents - to.bendCents) < 0.5;
    return isSame ? null : { from, to };
  };
}
