import { channelsOfLane, laneKind } from '../curves';
import { createEventBuilder, pickEvents } from '../midi';
import { joinEvents } from '../model';
import type { Piece } from '../session';
import { pickStrand, type Strand } from './strand';

/** A lane that a piece brings alone, of the layer it lies in, from one tick of the part up to another. */
export interface BroughtLane {
  layer: number;
  lane: string;
  from: number;
  to: number;
}

/** Of a source what a piece brings: all of it, its notes, or the points of some lanes. */
export function whatIsBrought(strand: Strand, brings: Piece['brings']): Strand {
  if (brings === undefined || brings === 'all') return strand;
  const notes = Array.from(strand.notes.id.keys());
  if (brings === 'notes') return pickStrand(strand, notes, []);
  const rows = brings.flatMap((lane) =>
    channelsOfLane(strand.events, lane).flatMap((channel) => rowsOfLane(strand, lane, channel)),
  );
  return pickStrand(
    strand,
    [],
    rows.sort((a, b) => a - b),
  );
}

/**
 * Layers in which a lane that a piece brings counts over all others where the piece lies: theirs is left out there, and
 * at both ends the value is written that holds. Of pieces over one another the one of the later layer counts.
 */
export function withBroughtLanes(
  layers: readonly Strand[],
  brought: readonly BroughtLane[],
  oneChannel: boolean,
): Strand[] {
  const made = [...layers];
  const isLater = (other: number, lane: string, layer: number) =>
    other > layer && brought.some((each) => each.layer === other && each.lane === lane);
  for (const { layer, lane, from, to } of brought) {
    const channels = oneChannel ? [null] : channelsOfLane(made[layer].events, lane);
    for (const channel of channels) {
      const isInside = (strand: Strand) => (row: number) =>
        strand.events.tick[row] >= from && strand.events.tick[row] < to;
      const own = rowsOfLane(made[layer], lane, channel).filter(isInside(made[layer]));
      const others = [...made.keys()].filter(
        (other) =>
          other !== layer &&
          !isLater(other, lane, layer) &&
          rowsOfLane(made[other], lane, channel).length > 0,
      );
      if (own.length === 0 || others.length === 0) continue;
      const moved = pickStrand(made[layer], [], own);
      made[layer] = without(made[layer], own);
      others.forEach((other, place) => {
        const rows = rowsOfLane(made[other], lane, channel);
        const strand = without(made[other], rows.filter(isInside(made[other])));
        const { tick } = made[other].events;
        const held = rows.findLast((row) => tick[row] < to);
        const isSetAtEnd = rows.some((row) => tick[row] === to);
        const back = held !== undefined && to !== Infinity && !isSetAtEnd ? [at(made[other], held, to)] : [];
        if (place > 0) {
          made[other] = joined(strand, back);
          return;
        }
        const before = rows.findLast((row) => tick[row] < from);
        const begins =
          before !== undefined && moved.events.tick[0] > from ? [at(made[other], before, from)] : [];
        made[other] = joined(strand, [...begins, moved, ...back]);
      });
    }
  }
  return made;
}

/** The rows of a lane on a channel (0-15), or on any. */
function rowsOfLane({ events }: Strand, lane: string, channel: number | null): number[] {
  const { status, controller } = laneKind(lane);
  return Array.from(events.tick.keys()).filter(
    (row) =>
      events.status[row] < 0xf0 &&
      (events.status[row] & 0xf0) === status &&
      (controller < 0 || events.data1[row] === controller) &&
      (channel === null || (events.status[row] & 15) === channel),
  );
}

function without(strand: Strand, rows: readonly number[]): Strand {
  const gone = new Set(rows);
  const kept = Array.from(strand.events.tick.keys()).filter((row) => !gone.has(row));
  return {
    ...strand,
    events: pickEvents(strand.events, kept),
    eventOrder: Float64Array.from(kept, (row) => strand.eventOrder[row]),
  };
}

type Placed = Pick<Strand, 'events' | 'eventOrder'>;

/** What a row says, said at another tick. */
function at({ events, eventOrder }: Strand, row: number, tick: number): Placed {
  const builder = createEventBuilder(1);
  builder.add(tick, events.status[row], events.data1[row], events.data2[row]);
  return { events: builder.build(), eventOrder: Float64Array.of(eventOrder[row]) };
}

function joined(strand: Strand, more: readonly Placed[]): Strand {
  if (more.length === 0) return strand;
  const { events, order } = joinEvents(
    [strand, ...more].map((each) => ({ events: each.events, order: each.eventOrder })),
  );
  return { ...strand, events, eventOrder: order };
}
