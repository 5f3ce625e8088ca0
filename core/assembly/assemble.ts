import { createEventBuilder, payloadOf } from '../midi';
import {
  drawnBy,
  indexIds,
  pickRows,
  pieceAndRow,
  joinTables,
  withColumns,
  type IdIndex,
  type Material,
  type NoteTable,
} from '../model';
import { listOf, type Part, type Piece } from '../session';
import { secondsToTicks, ticksToSeconds, type Timeline } from '../time';
import { withBroughtLanes, type BroughtLane } from './broughtLanes';
import { doublesIn } from './doubles';
import { layMusically, layToTheTick, type WaitingPiece } from './layer';
import { mergeLanes, type ContestedLane, type LaneGivenWay } from './layerLanes';
import { rememberedStrands, type Sources } from './sources';
import { joinStrands, pickStrand, type Strand } from './strand';

/**
 * A part before any step: its material, and for every note and event its place in what was played, so that an unchanged
 * part is written in its old order. Orders can be compared within the part.
 */
export interface Assembly {
  material: Material;
  eventOrder: Float64Array;
  origins: NoteOrigins;
  /** Where the material ends, in ticks. */
  endTick: number;
  /** All orders lie below this; Infinity where pieces were joined. */
  places: number;
  /** Notes left out because another layer has them too. */
  dropped: NoteTable;
  /** Lanes of layers that an earlier layer has too. */
  givenWay: readonly LaneGivenWay[];
  /** Lanes that layers do not agree about, and whose counts. */
  contested: readonly ContestedLane[];
  /** What chance is drawn by for a note of this part. */
  drawnBy(id: number): number;
}

/** Ranks of one take: room for 2,048 pieces. */
export const ORDERS_PER_TAKE = 2 ** 37;

/** Where the notes of an assembly came from: columns with a row a note, found by id. */
export interface NoteOrigins extends Pick<Strand, 'onOrder' | 'offOrder' | 'offKind'> {
  index: IdIndex;
  start: Float64Array;
  end: Float64Array;
}

/** What a part is made of, laid into the session's time: its layers of pieces, without the doubles among them. */
export function assemble(part: Part, timeline: Timeline, sources: Sources): Assembly {
  let index = 0;
  const strands = rememberedStrands(part, timeline, sources);
  const brought: BroughtLane[] = [];
  const layers = listOf(part.layers).map(({ pieces }, layer) => {
    const waiting = listOf(pieces).map((piece) =>
      waitingPiece(piece, part, timeline, strands(piece), index++),
    );
    brought.push(...lanesBrought(listOf(pieces), waiting, layer));
    return part.seams.by === 'tick'
      ? waiting.map(layToTheTick)
      : layMusically(waiting, part.seams.held, timeline);
  });
  const laid = layers.map((strands) => joinStrands(strands));
  const joined = brought.length > 0 ? withBroughtLanes(laid, brought, part.rechannel) : laid;
  const chosen = new Map(
    Object.entries(part.lanes ?? {}).map(([lane, id]) => [lane, part.layers.order.indexOf(id)] as const),
  );
  const {
    layers: whole,
    givenWay,
    contested,
  } = part.seams.by === 'tick'
    ? { layers: joined, givenWay: [], contested: [] }
    : mergeLanes(joined, part.rechannel, chosen);
  const dropped = doublesIn(
    whole.map(({ notes }) => notes),
    part.doubles,
    timeline,
    part.rechannel,
  );
  const kept = whole.map((strand, layer) => withoutRows(strand, dropped[layer]));
  const gone = whole.map(({ notes }, layer) =>
    pickRows(
      notes,
      [...dropped[layer]].sort((a, b) => a - b),
    ),
  );
  const former = new Map(
    listOf(part.layers)
      .flatMap(({ pieces }) => listOf(pieces))
      .flatMap(({ number, formerFirst }) =>
        formerFirst === undefined ? [] : [[number, formerFirst] as const],
      ),
  );
  return soundAs(part, {
    ...originsOf(kept.length > 1 ? inOrderOfEnds(joinStrands(kept)) : joinStrands(kept)),
    givenWay,
    contested,
    dropped: joinTables(gone),
    drawnBy(id) {
      const place = former.size === 0 ? null : pieceAndRow(id);
      const first = place ? former.get(place.piece) : undefined;
      return place && first !== undefined ? first + place.row : drawnBy(id);
    },
  });
}

/** The lanes that pieces of a layer bring alone, each from its piece's start up to its end or the next piece. */
function lanesBrought(
  pieces: readonly Piece[],
  waiting: readonly WaitingPiece[],
  layer: number,
): BroughtLane[] {
  const starts = waiting.map(({ place, from }) => place(from));
  return pieces.flatMap(({ brings }, index) => {
    if (!Array.isArray(brings)) return [];
    const { place, to } = waiting[index];
    const next = starts.filter((start) => start > starts[index]);
    const end = Math.min(to === Infinity ? Infinity : place(to), ...next);
    return brings.map((lane) => ({ layer, lane, from: Math.max(0, starts[index]), to: end }));
  });
}

function originsOf(strand: Strand): Omit<Assembly, 'drawnBy' | 'dropped' | 'givenWay' | 'contested'> {
  const { notes, events, eventOrder, onOrder, offOrder, offKind, endTick, places } = strand;
  return {
    material: { notes, events },
    eventOrder,
    endTick,
    places,
    origins: { index: indexIds(notes.id), start: notes.start, end: notes.end, onOrder, offOrder, offKind },
  };
}

/**
 * Strokes of one pitch at one tick in the order of their ends, whichever layer they come from: a reader that pairs
 * first-in first-out gives each its own end.
 */
function inOrderOfEnds(strand: Strand): Strand {
  const { notes } = strand;
  const onOrder = Float64Array.from(strand.onOrder);
  for (let first = 0, end: number; first < notes.length; first = end) {
    const alike = new Map<number, number[]>();
    for (end = first; end < notes.length && notes.start[end] === notes.start[first]; end++) {
      const key = (notes.channel[end] << 7) | notes.pitch[end];
      const rows = alike.get(key);
      if (rows) rows.push(end);
      else alike.set(key, [end]);
    }
    for (const rows of alike.values()) {
      if (rows.length < 2) continue;
      const orders = rows.map((row) => onOrder[row]).sort((a, b) => a - b);
      rows.sort((a, b) => notes.end[a] - notes.end[b] || onOrder[a] - onOrder[b]);
      rows.forEach((row, place) => (onOrder[row] = orders[place]));
    }
  }
  return { ...strand, onOrder };
}

function withoutRows(strand: Strand, rows: ReadonlySet<number>): Strand {
  if (rows.size === 0) return strand;
  const kept = Array.from(strand.notes.id.keys()).filter((row) => !rows.has(row));
  return pickStrand(strand, kept, Array.from(strand.events.tick.keys()));
}

/** A piece with its source found and laid in the source's own time, and the way from there into the part. */
function waitingPiece(
  piece: Piece,
  part: Part,
  timeline: Timeline,
  source: Strand,
  index: number,
): WaitingPiece {
  const { from, at, held } = piece;
  const to = piece.to ?? Infinity;
  if (part.lockedTo === 'beats') {
    return {
      source,
      from,
      to,
      place: (tick) => tick - from + at,
      back: (tick) => tick - at + from,
      stays: at === from,
      held,
      index,
    };
  }
  // Seconds stay what they were whatever the tempo map makes of them.
  const { tempo } = timeline;
  const moved = (tick: number, seconds: number) =>
    secondsToTicks(tempo, ticksToSeconds(tempo, tick) + seconds);
  return {
    source,
    from: from === 0 ? 0 : secondsToTicks(tempo, from),
    to: to === Infinity ? Infinity : secondsToTicks(tempo, to),
    place: (tick) => (at === from ? tick : moved(tick, at - from)),
    back: (tick) => (at === from ? tick : moved(tick, from - at)),
    stays: at === from,
    held,
    index,
  };
}

/** Where a person chose the sound or the channel, the part's events say so instead of the takes'. */
function soundAs(part: Part, assembly: Assembly): Assembly {
  const { sound, rechannel } = part;
  if (!sound.chosen && !rechannel) return assembly;
  const { notes, events } = assembly.material;
  const channel = part.channel - 1;
  const builder = createEventBuilder(events.length + 1);
  const order: number[] = [];
  const moved = (status: number) => (rechannel && status < 0xf0 ? (status & 0xf0) | channel : status);
  if (sound.chosen && !sound.drums) {
    builder.add(0, 0xc0 | channel, sound.program, 0);
    order.push(-1);
  }
  for (let row = 0; row < events.length; row++) {
    const kind = events.status[row] & 0xf0;
    const isBank = kind === 0xb0 && (events.data1[row] === 0 || events.data1[row] === 32);
    if (sound.chosen && (kind === 0xc0 || isBank)) continue;
    const payload = events.payload[row] === 0 ? undefined : payloadOf(events, row);
    builder.add(events.tick[row], moved(events.status[row]), events.data1[row], events.data2[row], payload);
    order.push(assembly.eventOrder[row]);
  }
  return {
    ...assembly,
    eventOrder: Float64Array.from(order),
    material: {
      events: builder.build(),
      notes: rechannel ? withColumns(notes, { channel: new Uint8Array(notes.length).fill(channel) }) : notes,
    },
  };
}
