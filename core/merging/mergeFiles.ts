import { OrdleError } from '../errors';
import { createEvaluator, exportSession } from '../evaluate';
import type { MidiFile } from '../midi';
import type { Take } from '../model';
import {
  PLAIN_SEAMS,
  joinFile,
  layerOf,
  listOf,
  orderedOf,
  otherTempoOfFile,
  sessionOfFile,
  timelineOf,
  type Doubles,
  type Layer,
  type Part,
  type Piece,
  type Session,
} from '../session';
import { barAt, barNumbered, type NoteValue, type Timeline } from '../time';
import { costsOfBar, readHeldBars } from './barCosts';
import { inFinestDivision } from './division';
import { lineAfter } from './lineAfter';
import { matchParts, type KnownPart } from './matchParts';
import { cheapest } from './tightest';

/**
 * How files are merged: laid over each other with a choice of which of two equal notes stays, one after the other, or
 * bar by bar from the file that is tightest against a grid, a change of file costing `penaltyMs` and a missing note
 * `missingMs`.
 *
 * @public
 */
export type MergeOptions =
  | { mode: 'layer'; doubles: Doubles }
  | { mode: 'join' }
  | { mode: 'tightest'; grid: NoteValue; penaltyMs: number; missingMs: number };

/**
 * What came of it. `told` are sentences on what was decided along the way.
 *
 * @public
 */
export interface Merged {
  file: MidiFile;
  told: string[];
  /** Notes left out since another file has them too. */
  dropped: number;
  /** Where each file begins, in bars (1 is the first) and ticks of the result. */
  begins: { bar: number; tick: number }[];
  /** By the tightest: which file supplies each bar, and what that costs. */
  chosen: { bars: { bar: number; file: number; costMs: number }[]; totalMs: number; switches: number } | null;
}

/** A file laid into the session: its parts, and the place of its tick 0. */
interface LaidFile {
  parts: readonly Part[];
  at: number;
}

/**
 * Files as one of format 1: a conductor track with tempo and meter of the first, then a track a part. Parts are
 * matched by name and channel, then by order of appearance. Throws OrdleError `nothing-to-merge` without files.
 *
 * @public
 */
export function mergeFiles(
  files: readonly { name: string; file: MidiFile }[],
  options: MergeOptions,
): Merged {
  if (files.length === 0) throw new OrdleError('nothing-to-merge', 'There is no file to merge.');
  let next = 0;
  const newId = () => `id${next++}`;
  const lead = inFinestDivision(
    files[0].file,
    files.map(({ file }) => file),
  );
  const { session: first, takes: leadTakes } = sessionOfFile(lead, files[0].name, newId, 0);
  const takes = new Map<string, Take>(leadTakes.map((take) => [take.key, take]));
  let session: Session = first;
  const told: string[] = [];
  const laid: LaidFile[] = [{ parts: listOf(first.parts), at: 0 }];
  for (const { name, file } of files.slice(1)) {
    const joined = joinFile({ ...session, nextPiece: session.nextPiece }, file, newId);
    for (const take of joined.takes) takes.set(take.key, take);
    session = { ...session, nextPiece: session.nextPiece + joined.pieces };
    // Each file stands for itself: a part is called as its own file calls it.
    laid.push({ parts: withOwnNames(joined.parts, file, newId), at: 0 });
    if (otherTempoOfFile(file.division, joined.takes, first))
      told.push(
        `${name} has another tempo than ${files[0].name}; it is laid by its beats into that of ${files[0].name}.`,
      );
  }
  const takeOf = (key: string): Take => {
    const take = takes.get(key);
    if (!take) throw new OrdleError('take-missing', 'A performance of this session is not loaded.');
    return take;
  };
  const timeline = timelineOf(session);
  const evaluator = createEvaluator(takeOf);
  const notesOf = (part: Part) => evaluator.evaluate(part, session, timeline).assembly.material.notes;
  if (options.mode === 'join') {
    let [end, start] = [0, -1];
    for (const file of laid) {
      file.at = file === laid[0] ? 0 : lineAfter(end, start, timeline);
      for (const part of file.parts) {
        const notes = notesOf(part);
        for (const own of notes.end) end = Math.max(end, file.at + own);
        for (const own of notes.start) start = Math.max(start, file.at + own);
      }
    }
  }
  const chosen = options.mode === 'tightest' ? choose(laid, notesOf, options, timeline) : null;
  if (chosen?.isShortened)
    told.push(
      'Bars in which nobody plays are not listed: there are very many. Each stays with the file before it.',
    );
  const groups = matchParts(laid.map(({ parts }) => parts.map((part) => knownPart(part, takes))));
  let number = session.nextPiece;
  const parts = groups.map((members): Part => {
    const own = members.map((index, file) => (index === null ? null : laid[file].parts[index]));
    const lead = own.find((part) => part !== null);
    if (!lead) throw new OrdleError('nothing-to-merge', 'There is no part to merge.');
    const layers = layersFor(options, own, laid, chosen?.runs ?? [], timeline, () => number++);
    return {
      ...lead,
      id: newId(),
      layers,
      doubles: options.mode === 'layer' ? options.doubles : lead.doubles,
      seams: PLAIN_SEAMS,
    };
  });
  const merged: Session = { ...session, parts: orderedOf(parts), nextPiece: number };
  let dropped = 0;
  for (const part of parts) {
    const { assembly } = evaluator.evaluate(part, merged, timeline);
    dropped += assembly.dropped.length;
    const names = new Set(
      assembly.givenWay.map(({ layer }) => files[layersOfFiles(groups, parts, part)[layer]].name),
    );
    for (const name of names)
      told.push(
        `${part.name}: controllers, bend or program of ${name} differ from those before it; the first file that has them counts.`,
      );
  }
  const file = exportSession(
    merged,
    { format: 1, version: 'played', parts: parts.map(({ id }) => id) },
    evaluator,
    takeOf,
  );
  return {
    file,
    told,
    dropped,
    begins: laid.map(({ at }) => ({ bar: barAt(timeline.meter, at).number, tick: Math.round(at) })),
    chosen: chosen && { bars: chosen.bars, totalMs: chosen.total, switches: chosen.switches },
  };
}

/**
 * A part by the name of its track, whatever it is called since it shares the track or its name, and its channel; a
 * part of text or system messages alone has none.
 */
function knownPart({ name, channel, layers }: Part, takes: ReadonlyMap<string, Take>): KnownPart {
  const pieces = listOf(layers).flatMap((layer) => listOf(layer.pieces));
  const source = pieces.at(0)?.source;
  const take = source && 'take' in source ? takes.get(source.take) : undefined;
  const isOfChannel = pieces.some(({ split }) => split !== undefined);
  return { name: take?.name.trim() ?? name, channel: isOfChannel ? channel : 0 };
}

/** The file each layer of a part stands for. */
function layersOfFiles(groups: readonly (number | null)[][], parts: readonly Part[], part: Part): number[] {
  return groups[parts.indexOf(part)].flatMap((index, file) => (index === null ? [] : [file]));
}

function withOwnNames(parts: readonly Part[], file: MidiFile, newId: () => string): Part[] {
  const names = listOf(sessionOfFile(file, '', newId, 0).session.parts).map(({ name }) => name);
  // A conductor track makes no part in either; where the counts differ the names of joining stay.
  return parts.map((part, index) => (names.length === parts.length ? { ...part, name: names[index] } : part));
}

type PlainNotes = ReturnType<ReturnType<typeof createEvaluator>['evaluate']>['assembly']['material']['notes'];

/** Bars that nobody plays in are listed as long as there are no more in all. */
const MOST_LISTED = 100_000;

function choose(
  laid: readonly LaidFile[],
  notesOf: (part: Part) => PlainNotes,
  { grid, penaltyMs, missingMs }: MergeOptions & { mode: 'tightest' },
  timeline: Timeline,
) {
  const readings = laid.map(({ parts }) => {
    const starts = parts.flatMap((part) => Array.from(notesOf(part).start)).sort((a, b) => a - b);
    return readHeldBars({ start: Float64Array.from(starts) }, grid, timeline);
  });
  // Only bars in which somebody plays are chosen for; the others stay with the file before, and cost nothing.
  const held = [...new Set(readings.flatMap(({ bars }) => [...bars.keys()]))].sort((a, b) => a - b);
  const costs = held.map((bar) =>
    costsOfBar(
      readings.map(({ bars }) => bars.get(bar)),
      missingMs,
    ),
  );
  const { sources, total, switches } = cheapest(costs, penaltyMs);
  const listed = held.map((bar, at) => {
    const costMs = costs[at][sources[at]];
    return { bar: bar + 1, file: sources[at], costMs: Number.isNaN(costMs) ? 0 : costMs };
  });
  const last = held.at(-1) ?? -1;
  return {
    runs: runsOf(held, sources),
    total,
    switches,
    isShortened: last >= MOST_LISTED,
    bars: last < MOST_LISTED ? withSilent(listed) : listed,
  };
}

type ListedBar = NonNullable<Merged['chosen']>['bars'][number];

/** The bars between those listed, and before them. */
function withSilent(listed: readonly ListedBar[]): ListedBar[] {
  const bars: ListedBar[] = [];
  for (const next of listed) {
    const file = bars.at(-1)?.file ?? next.file;
    while (bars.length + 1 < next.bar) bars.push({ bar: bars.length + 1, file, costMs: 0 });
    bars.push(next);
  }
  return bars;
}

function layersFor(
  options: MergeOptions,
  own: readonly (Part | null)[],
  laid: readonly LaidFile[],
  runs: readonly Run[],
  timeline: Timeline,
  newNumber: () => number,
): Part['layers'] {
  const pieceOf = (part: Part): Piece => {
    const [piece] = listOf(part.layers).flatMap(({ pieces }) => listOf(pieces));
    const number = newNumber();
    return { ...piece, id: `piece${number}`, number };
  };
  const layers: Layer[] = [];
  if (options.mode === 'layer') {
    for (const part of own) if (part) layers.push(layerOf([pieceOf(part)], layers.length));
    return orderedOf(layers);
  }
  if (options.mode === 'join') {
    const pieces = own.flatMap((part, file) => (part ? [{ ...pieceOf(part), at: laid[file].at }] : []));
    return orderedOf([layerOf(pieces)]);
  }
  const pieces = runs.flatMap(({ source, from, to }) => {
    const part = own[source];
    if (!part) return [];
    const start = from === 0 ? 0 : barNumbered(timeline.meter, from + 1).start;
    const end = to === null ? null : barNumbered(timeline.meter, to + 1).start;
    return [{ ...pieceOf(part), from: start, to: end, at: start }];
  });
  return orderedOf([layerOf(pieces)]);
}

/** A stretch that one source supplies, from one bar (0 is the first) up to another; the last has no end. */
export interface Run {
  source: number;
  from: number;
  to: number | null;
}

/** Stretches of the sources of some bars, in their order; what lies between two bars stays with the first of them. */
export function runsOf(bars: readonly number[], sources: readonly number[]): Run[] {
  const runs: Run[] = [];
  sources.forEach((source, at) => {
    const last = runs.at(-1);
    if (last?.source === source) return;
    if (last) last.to = bars[at];
    runs.push({ source, from: last ? bars[at] : 0, to: null });
  });
  return runs;
}
