import { createEvaluator } from '../evaluate';
import { readHeldBars } from '../merging';
import type { MidiFile } from '../midi';
import type { Take } from '../model';
import { takeAlone } from '../readings';
import {
  addParts,
  insertItems,
  joinFile,
  listOf,
  sessionOfFile,
  timelineOf,
  type OtherTempo,
  type Part,
  type PartTake,
  type Session,
  type TakeReference,
} from '../session';
import { bestMatch, numbersOf, slideTake, takesForPart, takesOfPart, withTakes } from '../takes';
import { secondsToTicks, type Timeline } from '../time';

/** A file that was read, under its name. */
export interface NamedFile {
  name: string;
  file: MidiFile;
}

/** A part with the performances of some files among its takes, and what the session gets for them. */
export interface TakesOfFiles {
  part: Part;
  references: TakeReference[];
  takes: Take[];
  nextPiece: number;
  /** Names of the takes that were added, and of the files that hold no notes. */
  brought: string[];
  silent: string[];
  /** The first file that is of another tempo, and is laid by its beats. */
  otherTempo: { name: string; tempo: OtherTempo } | null;
}

/** The share of the work that is done before takes are lined up. */
const READING = 0.4;
/** What takes are read against. */
const GRID = '1/16';
/** A take that meets another at less of its strokes than this is not lined up with it. */
const LEAST_SHARE = 0.3;
/** Playing that is looser than this about the grid has no lateness of its own, in ms. */
const LOOSE_MS = 35;

/**
 * A part with the performances of files as takes. Lined up, each is slid to where its strokes meet those of the first
 * take of the part, so that what it is later on the whole is taken off as well. `progress` is told shares of the work.
 */
export function withTakesOfFiles(
  part: Part,
  session: Session,
  files: readonly NamedFile[],
  { isLinedUp }: { isLinedUp: boolean },
  takeOf: (key: string) => Take,
  newId: () => string,
  progress: (share: number) => void = () => undefined,
): TakesOfFiles {
  const numbers = numbersOf(session);
  const before = takesOfPart(part, session);
  const names = new Set(before.map(({ name }) => name));
  const result: Omit<TakesOfFiles, 'part' | 'nextPiece'> = {
    references: [],
    takes: [],
    brought: [],
    silent: [],
    otherTempo: null,
  };
  const added: PartTake[] = [];
  for (const [at, { name, file }] of files.entries()) {
    progress((READING * at) / files.length);
    const { takes, references, found, otherTempo } = takesForPart(part, session, name, file, newId);
    if (found.length === 0) result.silent.push(name);
    result.takes.push(...takes);
    result.references.push(...references);
    if (otherTempo && found.length > 0) result.otherTempo ??= { name, tempo: otherTempo };
    for (const { name: called, take, channel } of found) {
      let own = called;
      for (let count = 2; names.has(own); count++) own = `${called} ${count}`;
      names.add(own);
      const number = numbers.next++;
      added.push({
        id: `take${number}`,
        name: own,
        number,
        source: { take },
        ...(channel !== null && { split: { by: 'channel', label: `ch${channel}` } }),
        from: 0,
        to: null,
        slide: 0,
      });
      result.brought.push(own);
    }
  }
  const named = withTakes(part, [...before, ...added]);
  const made = new Map(result.takes.map((take) => [take.key, take]));
  const find = (key: string) => made.get(key) ?? takeOf(key);
  const lined =
    isLinedUp && added.length > 0 ? linedUp(named, session, before, added, find, progress) : named;
  return { ...result, part: lined, nextPiece: numbers.next };
}

/** The part with some of its takes slid to where the first of the others lies. */
function linedUp(
  part: Part,
  session: Session,
  before: readonly PartTake[],
  added: readonly PartTake[],
  takeOf: (key: string) => Take,
  progress: (share: number) => void,
): Part {
  const timeline = timelineOf(session);
  const evaluator = createEvaluator(takeOf);
  const notesOf = (take: PartTake) =>
    evaluator.evaluate(takeAlone(part, take), session, timeline).assembly.material.notes;
  const [lead] = [...before, ...added];
  const led = notesOf(lead);
  let lined = part;
  for (const [at, take] of added.entries()) {
    progress(READING + ((1 - READING) * at) / added.length);
    if (take === lead) continue;
    const notes = notesOf(take);
    const match = bestMatch(notes, led, timeline);
    // One that has nothing in common with it stays where it was played.
    const away = match && match.share >= LEAST_SHARE ? match.seconds : 0;
    lined = slideTake(lined, take, slideOf(part, away, timeline));
  }
  return lined;
}

const ticksOf = (seconds: number, { tempo }: Timeline): number =>
  Math.sign(seconds) * secondsToTicks(tempo, Math.abs(seconds));

/** Seconds as a slide in the unit of the part. */
const slideOf = ({ lockedTo }: Part, seconds: number, timeline: Timeline): number =>
  lockedTo === 'seconds' ? seconds : ticksOf(seconds, timeline);

/** How late playing is on the whole, in ms; null where it is too loose to tell. */
function latenessOf(start: Float64Array, timeline: Timeline): number | null {
  if (start.length === 0) return null;
  const { biasMs, spreadMs } = readHeldBars({ start }, GRID, timeline);
  return spreadMs > LOOSE_MS ? null : biasMs;
}

/** A session made of several files, its takes, and how much of the files came in. */
export interface GatheredFiles {
  session: Session;
  takes: Take[];
  /** Files that hold no notes and brought nothing. */
  silent: string[];
}

/**
 * One session of several files. As parts they are one recording, under the tempo and meter of the first. As takes
 * each part of the first file gets the performances of the others; with `isLinedUp` they are slid to each other, and
 * what they are late on the whole is taken off all of them.
 */
export function gatherFiles(
  files: readonly NamedFile[],
  as: 'takes' | 'parts',
  { name, isLinedUp }: { name: string; isLinedUp: boolean },
  newId: () => string,
  now: number,
  progress: (share: number) => void = () => undefined,
): GatheredFiles {
  const [first, ...others] = files;
  const opened = sessionOfFile(first.file, name, newId, now);
  if (as === 'parts') return { ...withPartsOfFiles(opened, others, newId), silent: [] };
  const byKey = new Map(opened.takes.map((take) => [take.key, take]));
  const takeOf = (key: string) => byKey.get(key) ?? opened.takes[0];
  const { session } = opened;
  const takes = [...opened.takes];
  const silent = new Set<string>();
  for (const [at, id] of session.parts.order.entries()) {
    const count = session.parts.order.length;
    const part = session.parts.byId[id];
    const isPlayed = listOf(part.layers).some(({ pieces }) =>
      listOf(pieces).some(({ source }) => 'take' in source && takeOf(source.take).notes.length > 0),
    );
    if (!isPlayed) continue;
    const own = takesOfPart(part, session);
    const named = withTakes(
      part,
      own.length === 1 ? [{ ...own[0], name: first.name.replace(/\.\w+$/, '') }] : own,
    );
    const led = isLinedUp ? withoutLateness(named, session, takeOf) : named;
    const brought = withTakesOfFiles(led, session, others, { isLinedUp }, takeOf, newId, (share) =>
      progress((at + share) / count),
    );
    session.parts.byId[id] = brought.part;
    session.nextPiece = brought.nextPiece;
    insertItems(session.takes, brought.references);
    takes.push(...brought.takes);
    brought.silent.forEach((each) => silent.add(each));
  }
  return { session, takes, silent: [...silent] };
}

/** The part with what its own takes are late on the whole taken off. */
function withoutLateness(part: Part, session: Session, takeOf: (key: string) => Take): Part {
  const timeline = timelineOf(session);
  const evaluator = createEvaluator(takeOf);
  return takesOfPart(part, session).reduce((made, take) => {
    const { notes } = evaluator.evaluate(takeAlone(part, take), session, timeline).assembly.material;
    const late = latenessOf(notes.start, timeline) ?? 0;
    return late === 0 ? made : slideTake(made, take, slideOf(part, -late / 1000, timeline));
  }, part);
}

function withPartsOfFiles(
  opened: { session: Session; takes: Take[] },
  others: readonly NamedFile[],
  newId: () => string,
): { session: Session; takes: Take[] } {
  const { session } = opened;
  const takes = [...opened.takes];
  for (const { file } of others) {
    const joined = joinFile(session, file, newId);
    insertItems(session.takes, joined.references);
    // What is put together as one piece was played together: its beats are found over all of it.
    addParts(
      session,
      joined.parts.map((part): Part => {
        const own = { ...part };
        delete own.recording;
        return own;
      }),
    );
    takes.push(...joined.takes);
  }
  return { session, takes };
}
