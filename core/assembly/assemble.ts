import { createEventBuilder, payloadOf } from '../midi';
import {
  drawnBy,
  firstIdOfPiece,
  indexIds,
  mixIds,
  pickRows,
  pieceAndRow,
  joinTables,
  withColumns,
  type IdIndex,
  type Material,
  type NoteTable,
  type Take,
} from '../model';
import { listOf, type Part, type Piece } from '../session';
import { createTempoMap, secondsToTicks, ticksPerQuarter, ticksToSeconds, type Timeline } from '../time';
import { doublesIn } from './doubles';
import { layMusically, layToTheTick, type WaitingPiece } from './layer';
import { mergeLanes, type ContestedLane, type LaneGivenWay } from './layerLanes';
import { labelsOf, sharesInOrder } from './shares';
import { joinStrands, pickStrand, strandOfTake, type Strand } from './strand';

/** Where pieces find what they lay: takes by their key, and other parts, by id, as they are cleaned. */
export interface Sources {
  take(key: string): Take;
  part(id: string): Material;
}

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
  const layers = listOf(part.layers).map(({ pieces }) => {
    const waiting = listOf(pieces).map((piece) =>
      waitingPiece(piece, part, timeline, strands(piece), index++),
    );
    return part.seams.by === 'tick'
      ? waiting.map(layToTheTick)
      : layMusically(waiting, part.seams.held, timeline);
  });
  const joined = layers.map((strands) => joinStrands(strands));
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

/** Takes as they were laid for pieces of them, and for how many pieces of different numbers that is kept. */
const strandsOfTakes = new WeakMap<Take, Map<string, Strand>>();
const MOST_STRANDS = 4;

/** The sources of pieces as strands: pieces of one number lay stretches of the same one, which is made once. */
function rememberedStrands(part: Part, timeline: Timeline, sources: Sources): (piece: Piece) => Strand {
  const known = new Map<string, Strand>();
  return (piece) => {
    const key = JSON.stringify([piece.number, piece.source, piece.split, piece.rest]);
    const strand = known.get(key) ?? shareOf(sourceStrand(piece, part, timeline, sources), piece, timeline);
    known.set(key, strand);
    return strand;
  };
}

function sourceStrand(piece: Piece, part: Part, timeline: Timeline, sources: Sources): Strand {
  if ('part' in piece.source) return strandOfPart(piece, sources.part(piece.source.part));
  const take = sources.take(piece.source.take);
  const lay = () =>
    strandOfTake(take, {
      place: placeOfTake(take, part.lockedTo, timeline),
      firstIds: new Array<number>(16).fill(firstIdOfPiece(piece.number)),
      channel: piece.split?.by === 'channel' ? Number(piece.split.label.slice('ch'.length)) - 1 : null,
      rest: piece.rest,
    });
  // By the beat a take lies the same under every tempo. Where it is cut into pieces, it is cut again at every choice
  // among takes.
  const isWhole = piece.from === 0 && piece.to === null;
  if (isWhole || part.lockedTo !== 'beats') return lay();
  const key = JSON.stringify([piece.number, piece.split, piece.rest, timeline.ticksPerQuarter]);
  const known = strandsOfTakes.get(take) ?? new Map<string, Strand>();
  const strand = known.get(key) ?? lay();
  if (known.size >= MOST_STRANDS) known.clear();
  strandsOfTakes.set(take, known.set(key, strand));
  return strand;
}

/** Take ticks as session ticks: by beats, or by the seconds they were played at. */
function placeOfTake(
  take: Take,
  lockedTo: Part['lockedTo'],
  timeline: Timeline,
): ((tick: number) => number) | null {
  if (lockedTo === 'seconds') {
    const played = createTempoMap(take.division, take.tempos);
    return (tick) => secondsToTicks(timeline.tempo, ticksToSeconds(played, tick));
  }
  const quarter = ticksPerQuarter(take.division, take.tempos[0]?.microsecondsPerQuarter ?? 500000);
  const scale = timeline.ticksPerQuarter / quarter;
  return scale === 1 ? null : (tick) => tick * scale;
}

/** Another part as it is cleaned; its notes get identities of their own here. */
function strandOfPart(piece: Piece, { notes, events }: Material): Strand {
  const taken = new Set<number>();
  const id = notes.id.map((own) => {
    const mixed = mixIds(piece.number, own, taken);
    taken.add(mixed);
    return mixed;
  });
  const rows = Array.from(events.tick.keys()).filter(
    (row) => events.status[row] < 0xf0 || piece.rest !== 'none',
  );
  const strand: Strand = {
    notes: withColumns(notes, { id }),
    events,
    eventOrder: Float64Array.from(events.tick.keys()),
    onOrder: Float64Array.from(notes.id.keys(), (row) => events.length + 2 * row),
    offOrder: Float64Array.from(notes.id.keys(), (row) => events.length + 2 * row + 1),
    offKind: new Uint8Array(notes.length).fill(0x80),
    endTick: notes.end.reduce((latest, end) => Math.max(latest, end), events.tick.at(-1) ?? 0),
    places: events.length + 2 * notes.length,
  };
  return rows.length === events.length ? strand : pickStrand(strand, Array.from(notes.id.keys()), rows);
}

/**
 * The share of a strand that a piece names. Of shares on one channel the first that has notes holds the controllers.
 */
function shareOf(strand: Strand, { split, source }: Piece, timeline: Timeline): Strand {
  if (!split || (split.by === 'channel' && 'take' in source)) return strand;
  const labels = labelsOf(split.by, strand.notes, timeline, split.line);
  const noteRows = Array.from(labels.keys()).filter((row) => labels[row] === split.label);
  const holds = split.by === 'channel' || sharesInOrder(split.by, labels)[0] === split.label;
  const channel = split.by === 'channel' ? Number(split.label.slice('ch'.length)) - 1 : null;
  const eventRows = Array.from(strand.events.tick.keys()).filter((row) => {
    const status = strand.events.status[row];
    return status >= 0xf0 ? holds : holds && (channel === null || (status & 15) === channel);
  });
  return pickStrand(strand, noteRows, eventRows);
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
