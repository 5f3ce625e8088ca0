import { META, META_TRACK_NAME, decodeText, payloadOf, type EventColumns } from '../midi';
import type { Material } from '../model';
import type { Part } from '../session';
import type { Timeline } from '../time';
import type { Finding } from './finding';
import { beyondTheEnd, lateLeadIn } from './beginningAndEnd';
import { findingsOf } from './partFindings';
import { seamJumps } from './seamJumps';

/** A part with its notes and controllers at the stage that is looked through. */
export interface PartOfSession {
  part: Part;
  material: Material;
  /** Where the part ends, in ticks. */
  endTick: number;
  /** What the score beside it says; then nothing is told of notes that are only likely to be wrong. */
  byScore?: readonly Finding[];
}

/** What is probably wrong with each part, and, in the part that begins, with the silence before all of them. */
export function lookThrough<P extends PartOfSession>(
  parts: readonly P[],
  timeline: Timeline,
): (P & { own: Finding[] })[] {
  const empty = parts.filter(({ material }) => isEmpty(material)).length;
  const found = parts.map((each) => {
    const { part, material, endTick, byScore } = each;
    const likely = findingsOf({
      material,
      timeline,
      isDrums: part.sound.drums,
      program: part.sound.program,
      name: part.name,
      endTick: Math.round(endTick),
    });
    const own = byScore ? [...likely.filter(({ kind }) => !SAID_BY_SCORE.has(kind)), ...byScore] : likely;
    own.push(...seamJumps(part, material.notes, timeline));
    const others = parts.filter((other) => other !== each).map((other) => other.material.notes);
    own.push(...beyondTheEnd(material.notes, others, timeline));
    if (isEmpty(material) && !saysSomething(material.events) && empty < CREDITS)
      own.push({
        kind: 'empty-track',
        tick: 0,
        notes: [],
        reason: 'This track holds no notes and no controllers.',
        sure: 0.8,
        mend: null,
      });
    return { ...each, own };
  });
  const first = found
    .filter(({ material }) => material.notes.length > 0)
    .reduce<(typeof found)[number] | null>(
      (least, each) =>
        least && least.material.notes.start[0] <= each.material.notes.start[0] ? least : each,
      null,
    );
  const lead = first ? lateLeadIn(first.material.notes, timeline) : null;
  if (first && lead) first.own.push(lead);
  return found;
}

/** What a score knows for certain need not be guessed. */
const SAID_BY_SCORE: ReadonlySet<Finding['kind']> = new Set(['wrong-note', 'double-strike', 'specks']);

/** So many tracks that hold no music are where a title and its makers are told, or how a program writes its files. */
const CREDITS = 3;

const isEmpty = ({ notes, events }: Material): boolean => notes.length === 0 && !hasMusic(events);

/** Text that is no name: words, lyrics, markers, rights. */
const saysSomething = (events: EventColumns): boolean =>
  events.status.some(
    (status, row) =>
      status === META &&
      events.data1[row] >= 1 &&
      events.data1[row] <= 15 &&
      events.data1[row] !== META_TRACK_NAME &&
      decodeText(payloadOf(events, row)).trim() !== '',
  );

const hasMusic = ({ status }: { status: Uint8Array }): boolean =>
  status.some((each) => each < 0xf0 || each === 0xf0 || each === 0xf7);

/**
 * Names a finding for as long as it is the same: by its notes, which steps leave their ids; where it is about none,
 * by its place. So one that a person dismissed stays dismissed while the part is cleaned.
 */
export const nameOfFinding = ({ kind, notes, tick }: Pick<Finding, 'kind' | 'notes' | 'tick'>): string =>
  notes.length === 0 ? `${kind} at ${Math.round(tick)}` : `${kind} of ${notes.slice(0, 4).join(' ')}`;
