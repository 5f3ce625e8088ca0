import { suggestionFor, type LieWithSteps } from '../analysis';
import type { Evaluator } from '../evaluate';
import { type NoteTable } from '../model';
import {
  listOf,
  mapItems,
  orderedOf,
  timelineOf,
  type Part,
  type PulseHints,
  type Session,
} from '../session';
import { isScore, type Step } from '../steps';
import { gridToPlaying, playersOf, pulseKeeper, settledBeats, toTheClick, type FoundBeats } from '../tempo';
import { bpmOf, ticksToSeconds } from '../time';
import { beatsByScore, playedBeatsOf, type PlayedBeats } from '../readings';
import { suggestedByScore } from './suggestByScore';

/** What is suggested for one part. Lateness in ms against the lines it is played to. */
export interface SuggestedPart extends LieWithSteps {
  partId: string;
  name: string;
  channel: number;
  notes: number;
  steps: Step[];
  /** Why, one for each step; without steps, why there are none. */
  reasons: string[];
  /** It keeps to no bars of the session: its beats are to be found first. */
  isFree: boolean;
  /** A step of its line puts it in time already. */
  isInTime: boolean;
  /** Where its last note ends, in seconds. */
  endSecond: number;
}

/** Parts that were recorded together, as they bear on each other. */
export interface SuggestedRecording {
  partIds: string[];
  recorded: 'to the click' | 'freely';
  /** How sure that is, 0 to 1. */
  confidence: number;
  /** The tempo at the start, or the one that was found; null without either. */
  bpm: number | null;
  /**
   * The beats of a free one that is all there is in the session: agreed to, the tempo map is theirs. Null of others.
   */
  beats: PlayedBeats | null;
}

/** What would clean a session up. */
export interface SessionSuggestion {
  recordings: SuggestedRecording[];
  /** Every part with notes that is not set aside, in the session's order. */
  parts: SuggestedPart[];
}

/** Fewer beats say nothing about a click. */
const LEAST_BEATS = 8;

/** What a recording's beats are said to be, by the part that keeps it. */
export type SaidOfBeats = Record<string, PulseHints>;

/**
 * Says what would clean up a session as it stands, part by part, after the steps it has. What was recorded freely, by
 * itself in the session, is put under its found tempo first, where it stays in real time, and is cleaned against
 * that; recorded beside other things it is left, and says so. `said` stands in for what the parts know of their beats.
 */
export function suggestSession(
  session: Session,
  evaluator: Evaluator,
  said: SaidOfBeats = {},
  progress?: (share: number) => void,
): SessionSuggestion {
  const parts = listOf(session.parts).filter(({ setAside }) => !setAside);
  const asRecorded = suggestionsFor(session, parts, evaluator);
  const groups = new Map<string, SuggestedPart[]>();
  for (const own of asRecorded) {
    // Parts that name no recording came together.
    const key = session.parts.byId[own.partId].recording ?? '';
    groups.set(key, [...(groups.get(key) ?? []), own]);
  }
  const recordings = [...groups.values()].map((own) =>
    recordingOf(session, own, evaluator, said, progress, groups.size === 1),
  );
  const [only] = recordings;
  if (recordings.length === 1 && only.beats) {
    const under = underBeats(session, only.beats.found);
    return { recordings, parts: suggestionsFor(under, parts, evaluator) };
  }
  const free = new Set(recordings.flatMap(({ recorded, partIds }) => (recorded === 'freely' ? partIds : [])));
  return {
    recordings,
    // A score knows the bars, whatever else there is.
    parts: asRecorded.map((own) =>
      free.has(own.partId) && own.steps.length > 0 && !own.steps.some(isScore) ? besideOthers(own) : own,
    ),
  };
}

/** What a part of a free recording is told where the session has others, whose tempo is not its own. */
const besideOthers = (own: SuggestedPart): SuggestedPart => ({
  ...own,
  steps: [],
  reasons: ['it was recorded with parts that do not follow the bars of this session: find their beats first'],
  after: own.before,
  picture: own.picture && { before: own.picture.before, after: own.picture.before },
  isFree: true,
});

/** The session under the beats of a recording, as they are settled: its parts stay where they are in real time. */
function underBeats(session: Session, found: FoundBeats): Session {
  const settled = settledBeats(found, 'beats').settled;
  return gridToPlaying(session, session.parts.order, settled, timelineOf(session));
}

/**
 * The session with what was suggested done: under the beats of a free recording where they were agreed to (`found`),
 * and with the chosen steps at the end of the lines of their parts, each under an id of its own.
 */
export function withSuggested(
  session: Session,
  found: FoundBeats | null,
  chosen: ReadonlyMap<string, readonly Step[]>,
  newId: () => string,
): Session {
  const under = found ? underBeats(session, found) : session;
  return {
    ...under,
    parts: mapItems(under.parts, (part) => lengthened(part, chosen.get(part.id) ?? [], newId)),
  };
}

/** The session with some steps at the end of the line of every part in use, each under an id of its own. */
export const withSteps = (session: Session, steps: readonly Step[], newId: () => string): Session => ({
  ...session,
  parts: mapItems(session.parts, (part) => (part.setAside ? part : lengthened(part, steps, newId))),
});

function lengthened(part: Part, steps: readonly Step[], newId: () => string): Part {
  if (steps.length === 0) return part;
  const added = steps.map((step) => ({ id: newId(), step }));
  return { ...part, steps: orderedOf([...listOf(part.steps), ...added]) };
}

function suggestionsFor(session: Session, parts: readonly Part[], evaluator: Evaluator): SuggestedPart[] {
  const timeline = timelineOf(session);
  return parts.flatMap(({ id }): SuggestedPart[] => {
    const part = session.parts.byId[id];
    const { stages } = evaluator.evaluate(part, session, timeline);
    const material = stages[stages.length - 1];
    if (material.notes.length === 0) return [];
    const standing = listOf(part.steps).map(({ step }) => step);
    const advised =
      suggestedByScore(part, session, evaluator, timeline) ??
      suggestionFor(material, standing, { timeline, isDrums: part.sound.drums });
    const { name, channel } = part;
    const { length, end } = material.notes;
    const endSecond = ticksToSeconds(
      timeline.tempo,
      end.reduce((most, at) => Math.max(most, at), 0),
    );
    const own = { partId: id, name, channel, notes: length, endSecond };
    return [advised ? { ...own, ...advised, isInTime: false } : { ...own, ...IN_TIME }];
  });
}

const NOTHING = { offMs: 0, biasMs: 0, spreadMs: 0 };
const IN_TIME = {
  steps: [],
  reasons: ['a step of its line puts it in time already'],
  before: NOTHING,
  after: NOTHING,
  picture: null,
  isFree: false,
  isInTime: true,
} satisfies Partial<SuggestedPart>;

/** The beats as the score beside one of some parts tells them; undefined without one. */
function beatsOfScore(
  own: readonly SuggestedPart[],
  session: Session,
  evaluator: Evaluator,
): PulseHints | undefined {
  const part = own.map(({ partId }) => session.parts.byId[partId]).find(({ reference }) => reference);
  const followed = part && evaluator.followed(part, session, timelineOf(session));
  try {
    return followed ? beatsByScore(followed) : undefined;
  } catch {
    // Too little of it was found: the beats are looked for in the playing alone.
    return undefined;
  }
}

function recordingOf(
  session: Session,
  own: readonly SuggestedPart[],
  evaluator: Evaluator,
  said: SaidOfBeats,
  progress: ((share: number) => void) | undefined,
  isAlone: boolean,
): SuggestedRecording {
  const timeline = timelineOf(session);
  const [tempo] = session.tempos;
  const written = session.tempos.length > 0 ? bpmOf(tempo.microsecondsPerQuarter) : 120;
  const sum = (of: readonly SuggestedPart[]) => of.reduce((total, { notes }) => total + notes, 0);
  const [free, all] = [sum(own.filter((part) => part.isFree)), sum(own)];
  const partIds = own.map(({ partId }) => partId);
  // Where every part keeps to the bars there are no beats to look for, which is long work.
  if (free === 0) return { partIds, recorded: 'to the click', confidence: 1, bpm: written, beats: null };
  const [first] = own.map(({ partId }) => session.parts.byId[partId]);
  const keeper = pulseKeeper(first, session);
  const beats = playedBeatsOf(
    first,
    said[keeper.id] ?? keeper.pulse ?? beatsOfScore(own, session, evaluator),
    playersOf(first, session)
      .map((part): NoteTable => evaluator.evaluate(part, session, timeline).stages[0].notes)
      .filter(({ length }) => length > 0),
    timeline,
    progress,
  );
  const { found } = beats;
  const click = toTheClick(found, timeline);
  // The parts themselves know best: those that keep to the bars were recorded to them.
  const isFree = !click.is && found.beats.length >= LEAST_BEATS && 2 * free > all;
  return {
    partIds,
    recorded: isFree ? 'freely' : 'to the click',
    confidence: isFree ? 1 - click.sure : Math.max(click.sure, 1 - free / all),
    bpm: isFree ? found.bpm : written,
    beats: isFree && isAlone ? beats : null,
  };
}
