import {
  compareTakes,
  layerOf,
  orderedOf,
  pieceAndRow,
  readBars,
  seamFacts,
  secondsToTicks,
  sentenceOf,
  takesOfPart,
  timelineOf,
  type ContestedLane,
  type Evaluator,
  type NoteTable,
  type NoteValue,
  type Part,
  type PartTake,
  type Seam,
  type SeamFacts,
  type Session,
  type SourceReading,
  type Timeline,
} from '@ordle/core';

/** Notes as the Takes place paints them: where they lie in the session, in ticks. */
export interface LaidNotes {
  start: Float64Array;
  end: Float64Array;
  pitch: Uint8Array;
  velocity: Float64Array;
}

/** A take of a part, read bar by bar. */
export interface TakeRow {
  take: PartTake;
  notes: LaidNotes;
  reading: SourceReading;
  /** Least and most velocity; null without notes. */
  velocity: [number, number] | null;
  /** A count a bar, bar 1 first. */
  missing: Uint16Array;
  extra: Uint16Array;
  /** Why it cannot be shown, such as a performance that is no longer in this browser; null where it can. */
  fault: string | null;
}

/** What a part's layers come to: its notes, the doubles that were left out, and its seams. */
export interface AssembledView {
  notes: LaidNotes;
  dropped: LaidNotes;
  reading: SourceReading;
  seams: (Seam & { facts: SeamFacts })[];
  /** Lanes the layers do not agree about, and whose counts. */
  contested: ContestedLane[];
}

const NOTHING: LaidNotes = {
  start: new Float64Array(0),
  end: new Float64Array(0),
  pitch: new Uint8Array(0),
  velocity: new Float64Array(0),
};

const laidNotes = ({ start, end, pitch, velocity }: NoteTable): LaidNotes => ({
  start,
  end,
  pitch,
  velocity,
});

/** A part that lays one take as far as it goes and nothing else. */
function partOfTake(part: Part, take: PartTake): Part {
  const piece = {
    id: `alone${take.number}`,
    number: take.number,
    source: take.source,
    ...(take.split && { split: take.split }),
    from: Math.max(take.from, -take.slide, 0),
    to: take.to,
    at: Math.max(take.from, -take.slide, 0) + take.slide,
    rest: 'none' as const,
  };
  return { ...part, layers: orderedOf([layerOf([piece])]), steps: orderedOf([]) };
}

/** Parts of single takes, kept so that their evaluation is: as many as a person may go through in a sitting. */
const known = new Map<string, Part>();
const MOST_KNOWN = 200;

/** The part with that take alone, and no step. */
export function aloneOf(part: Part, take: PartTake): Part {
  const { number, source, split, from, to, slide } = take;
  const key = JSON.stringify([part.id, part.lockedTo, part.sound, number, source, split, from, to, slide]);
  const found = known.get(key) ?? partOfTake(part, take);
  // What was asked for last goes last.
  known.delete(key);
  known.set(key, found);
  for (const oldest of known.keys()) {
    if (known.size <= MOST_KNOWN) break;
    known.delete(oldest);
  }
  return found;
}

export interface Studio {
  evaluator: Evaluator;
  summon(parts: readonly Part[], session: Session): Promise<void>;
}

/**
 * Every take of a part by itself, read against a grid and compared with the others. One that cannot be read says why;
 * the others are shown.
 */
export async function takeRows(
  part: Part,
  session: Session,
  grid: NoteValue,
  { evaluator, summon }: Studio,
): Promise<TakeRow[]> {
  const timeline = timelineOf(session);
  const laid = await Promise.all(
    takesOfPart(part, session).map(async (take) => {
      try {
        const alone = aloneOf(part, take);
        await summon([alone], session);
        return {
          take,
          notes: evaluator.evaluate(alone, session, timeline).assembly.material.notes,
          fault: null,
        };
      } catch (error) {
        return { take, notes: null, fault: sentenceOf(error) };
      }
    }),
  );
  const readings = laid.map(({ notes }) => readBars(notes ?? NOTHING, grid, timeline));
  const bars = Math.max(1, ...readings.map((reading) => reading.bars.length));
  const compared = compareTakes(
    laid.map(({ notes }) => notes ?? NOTHING),
    grid,
    bars,
    timeline,
  );
  return laid.map(({ take, notes, fault }, index) => ({
    take,
    notes: notes ? laidNotes(notes) : NOTHING,
    reading: readings[index],
    velocity: notes && notes.length > 0 ? rangeOf(notes.velocity) : null,
    ...compared[index],
    fault,
  }));
}

function rangeOf(values: Float64Array): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (const value of values) {
    if (value < low) low = value;
    if (value > high) high = value;
  }
  return [low, high];
}

/** A part before any step, with what happens at its seams. */
export async function assembledView(
  part: Part,
  session: Session,
  grid: NoteValue,
  { evaluator, summon }: Studio,
): Promise<AssembledView> {
  await summon([part], session);
  const timeline = timelineOf(session);
  const { assembly } = evaluator.evaluate(part, session, timeline);
  return {
    notes: laidNotes(assembly.material.notes),
    dropped: laidNotes(assembly.dropped),
    reading: readBars(assembly.material.notes, grid, timeline),
    seams: seamFacts(part, assembly, endsOfTakes(part, session, timeline, evaluator), timeline, (place) =>
      part.lockedTo === 'beats' ? place : secondsToTicks(timeline.tempo, place),
    ),
    contested: [...assembly.contested],
  };
}

/** Where the notes of a take end, by id; made once for each way it lies. */
const endsById = new WeakMap<NoteTable, Map<number, number>>();

/** Where a note of a take ends by itself. */
function endsOfTakes(
  part: Part,
  session: Session,
  timeline: Timeline,
  evaluator: Evaluator,
): (id: number) => number {
  const byNumber = new Map(takesOfPart(part, session).map((take) => [take.number, take]));
  const known = new Map<number, Map<number, number> | null>();
  const endsOf = (number: number) => {
    const take = byNumber.get(number);
    if (!take) return null;
    const { notes } = evaluator.evaluate(aloneOf(part, take), session, timeline).assembly.material;
    const ends = endsById.get(notes) ?? new Map(Array.from(notes.id, (id, row) => [id, notes.end[row]]));
    endsById.set(notes, ends);
    return ends;
  };
  return (id) => {
    const number = pieceAndRow(id)?.piece ?? -1;
    let ends = known.get(number);
    if (ends === undefined) known.set(number, (ends = endsOf(number)));
    return ends?.get(id) ?? NaN;
  };
}

/** Lanes that the layers of a part would not agree about, which need not be in the session yet. */
export async function contestedLanes(
  part: Part,
  session: Session,
  { evaluator, summon }: Studio,
): Promise<ContestedLane[]> {
  await summon([part], session);
  return [...evaluator.evaluate(part, session, timelineOf(session)).assembly.contested];
}
