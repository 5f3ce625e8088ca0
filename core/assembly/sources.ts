import { firstIdOfPiece, mixIds, withColumns, type Material, type Take } from '../model';
import type { Part, Piece } from '../session';
import { createTempoMap, secondsToTicks, ticksPerQuarter, ticksToSeconds, type Timeline } from '../time';
import { whatIsBrought } from './broughtLanes';
import { labelsOf, sharesInOrder } from './shares';
import { pickStrand, strandOfTake, type Strand } from './strand';

/** Where pieces find what they lay: takes by their key, and other parts, by id, as they are cleaned. */
export interface Sources {
  take(key: string): Take;
  part(id: string): Material;
}

/** Takes as they were laid for pieces of them, and for how many pieces of different numbers that is kept. */
const strandsOfTakes = new WeakMap<Take, Map<string, Strand>>();
const MOST_STRANDS = 4;

/** The sources of pieces as strands: pieces of one number lay stretches of the same one, which is made once. */
export function rememberedStrands(
  part: Part,
  timeline: Timeline,
  sources: Sources,
): (piece: Piece) => Strand {
  const known = new Map<string, Strand>();
  return (piece) => {
    const { number, source, split, rest, brings } = piece;
    const key = JSON.stringify([number, source, split, rest, brings]);
    const whole = () => shareOf(sourceStrand(piece, part, timeline, sources), piece, timeline);
    const strand = known.get(key) ?? whatIsBrought(whole(), brings);
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
