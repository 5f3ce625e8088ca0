import { latenessByScore, standingOf, type Evaluator, type Followed, type Standing } from '../evaluate';
import { SCORE_QUARTER, barsPlayed, meterAt, secondsAt, type PlayedBar } from '../following';
import { pitchName } from '../midi';
import { noteTableOf, type NoteTable } from '../model';
import { notate, type WrittenPart } from '../notation';
import { itemOf, type Part, type Session } from '../session';
import { createTimeline, lastAtOrBefore, secondsToTicks, ticksToSeconds, type Timeline } from '../time';

/** A written note as it was played. Ids of what is written are counts over all that was to be played, from 0. */
export interface PlayedMark {
  id: number;
  is: 'right' | 'wrong' | 'missing';
  /** Late above 0, early below; 0 for what is missing. */
  lateMs: number;
  /** The note that stands for it; null where it is missing. */
  note: { partId: string; id: number } | null;
  /** Of a wrong one what was played: how many staff places above the written note, and its name. */
  played: { above: number; name: string } | null;
  tick: number;
  /** The tick it was played at, before any step; null for what was not played. */
  playedAt: number | null;
}

/** A note that is written nowhere: so far on the way from one written note to the next, and above the first. */
export interface ExtraMark {
  note: { partId: string; id: number };
  after: number;
  before: number | null;
  share: number;
  above: number;
  name: string;
  tick: number;
  playedAt: number | null;
}

/** The written page of a part with its playing on it. */
export interface ScorePage {
  name: string;
  partIds: string[];
  written: WrittenPart;
  marks: PlayedMark[];
  extras: ExtraMark[];
  /** Where the playing goes on elsewhere in the score: bars of the page, of the score, and when. */
  passages: { pageBar: number; from: string; to: string; seconds: number; tick: number }[];
  /** What each bar of the page is called in the score, and the tick of the session at which it is heard. */
  barNames: string[];
  barTicks: number[];
  /** How far notes are early or late, in the middle, in ms. */
  typicalMs: number;
  /** Whether early and late are told by the bars of the session; else by the tempo that was played. */
  isByBars: boolean;
}

/** Semitones of an octave to letters, as they are mostly written. */
const LETTERS = [0, 0, 1, 2, 2, 3, 3, 4, 4, 5, 6, 6];
const letterOf = (pitch: number): number => 7 * Math.floor(pitch / 12) + LETTERS[pitch % 12];

/**
 * What is written of a part and those with its score, in the order it was played, with the playing at its first stop or
 * as it is cleaned; null where no score is laid beside it.
 */
export function scorePageOf(
  part: Part,
  session: Session,
  version: 'cleaned' | 'played',
  evaluator: Pick<Evaluator, 'evaluate' | 'followed'>,
  timeline: Timeline,
): ScorePage | null {
  const followed = evaluator.followed(part, session, timeline);
  if (!followed) return null;
  const tables = tablesAt(followed, version, session, evaluator, timeline);
  const standing = standingOf(followed, tables, timeline);
  const { late, isByBars } = latenessByScore(followed, standing, tables, timeline);
  const { following, score, reference, parts, beginsAt } = followed;
  const { occurrences, passages } = following;
  const origin = passages.at(0)?.from ?? 0;
  const tickOf = (place: number) => (beginsAt + place - origin) * timeline.ticksPerQuarter;
  const noteOf = (occurrence: number) => {
    const of = standing.partOf[occurrence];
    return of < 0 ? null : { partId: parts[of].part.id, id: tables[of].id[standing.rowOf[occurrence]] };
  };
  const heardAt = (place: number) =>
    isByBars ? tickOf(place) : secondsToTicks(timeline.tempo, secondsAt(following.clock, place));
  const marks = occurrences.map(({ row: written, place }, id): PlayedMark => {
    const note = noteOf(id);
    const row = following.playedOf[id];
    const playedAt = row < 0 ? null : playedTick(followed, row);
    if (!note) return { id, is: 'missing', lateMs: 0, note, played: null, tick: heardAt(place), playedAt };
    const pitch = tables[standing.partOf[id]].pitch[standing.rowOf[id]];
    const isRight = standing.isRight[id] === 1;
    return {
      id,
      is: isRight ? 'right' : 'wrong',
      lateMs: late[id],
      note,
      played: isRight
        ? null
        : { above: letterOf(pitch) - letterOf(score.pitch[written]), name: pitchName(pitch, 4) },
      playedAt,
      tick: tables[standing.partOf[id]].start[standing.rowOf[id]],
    };
  });
  const sizes = marks
    .flatMap(({ is, lateMs }) => (is === 'missing' ? [] : [Math.abs(lateMs)]))
    .sort((a, b) => a - b);
  const page = barsPlayed(passages, score);
  const nameOfBar = (bar: number) => String(bar + score.firstBar);
  return {
    name: reference.name,
    partIds: parts.map((each) => each.part.id),
    written: writtenPage(part, followed, page),
    marks,
    extras: extrasOf(standing, followed, tables, timeline),
    passages: passages.slice(1).map(({ firstBar, seconds, at }, index) => ({
      pageBar: page.findIndex((bar) => bar.at >= at - 1e-6) + 1,
      from: nameOfBar(passages[index].lastBar),
      to: nameOfBar(firstBar),
      seconds,
      tick: heardAt(at),
    })),
    barNames: page.map(({ name }) => name),
    barTicks: page.map(({ at }) => heardAt(at)),
    typicalMs: sizes[sizes.length >> 1] ?? 0,
    isByBars,
  };
}

/** What is wrong in each bar of a page, in words, for those who do not see it; bars with nothing are not named. */
export function faultsInWords({ marks, extras, written, barTicks }: ScorePage): Map<number, string> {
  const told = new Map<number, string[]>();
  const tell = (bar: number | undefined, words: string) => {
    if (bar !== undefined) told.set(bar, [...(told.get(bar) ?? []), words]);
  };
  const pitches = new Map<number, number>();
  for (const { staves } of written.bars)
    for (const { notes } of staves.flat().flatMap(({ items }) => items))
      for (const { id, pitch } of notes) pitches.set(id, pitch);
  for (const { id, is, played } of marks) {
    if (is === 'right') continue;
    const pitch = pitches.get(id);
    const name = pitch === undefined ? 'a note' : pitchName(pitch, 4);
    const words = is === 'missing' ? `${name} is missing` : `${name} is played as ${played?.name ?? ''}`;
    tell(written.placeOf.get(id)?.bar, words);
  }
  for (const { name, tick } of extras)
    tell(Math.max(1, barTicks.findLastIndex((at) => at <= tick) + 1), `${name} is extra`);
  return new Map([...told].map(([bar, words]) => [bar, `${words.join(', ')}.`]));
}

/** The notes of the followed parts at their first stop, or as they are cleaned. */
export function tablesAt(
  { parts }: Followed,
  version: 'cleaned' | 'played',
  session: Session,
  evaluator: Pick<Evaluator, 'evaluate'>,
  timeline: Timeline,
): NoteTable[] {
  if (version === 'played') return parts.map(({ notes }) => notes);
  return parts.map(({ part }) => {
    // What is followed is remembered with the parts as they were when it was found.
    const now = itemOf(session.parts, part.id) ?? part;
    const { stages } = evaluator.evaluate(now, session, timeline);
    return stages[stages.length - 1].notes;
  });
}

function writtenPage(
  part: Part,
  { following, score, reference }: Followed,
  page: readonly PlayedBar[],
): WrittenPart {
  const origin = page.at(0)?.at ?? 0;
  const tickOf = (quarters: number) => Math.round((quarters - origin) * SCORE_QUARTER);
  const timeline = createTimeline(
    { kind: 'metrical', ticksPerQuarter: SCORE_QUARTER },
    [],
    page.map(({ at, bar }) => {
      const { numerator, denominator } = meterAt(score, score.bars[bar]);
      return { tick: tickOf(at), numerator, denominator };
    }),
  );
  const notes = noteTableOf(
    following.occurrences.map(({ row, place }, id) => ({
      id,
      start: tickOf(place),
      end: Math.max(tickOf(place) + 1, tickOf(place + score.lengths[row])),
      pitch: score.pitch[row],
      velocity: score.velocity[row],
    })),
  );
  const written = notate(
    { name: reference.name || part.name, notes, isDrums: part.sound.drums, timeline },
    { ...part.notation, finest: 32, straightSwing: false },
  );
  // How fast it goes is what was played.
  const bars = written.bars.map((bar) => ({
    ...bar,
    directions: bar.directions.filter(({ what }) => what !== 'tempo'),
  }));
  return { ...written, bars };
}

/** Where a played row starts, in ticks. */
const playedTick = ({ parts, partOf, rowOf }: Followed, row: number): number =>
  parts[partOf[row]].notes.start[rowOf[row]];

function extrasOf(
  { extra }: Standing,
  followed: Followed,
  tables: readonly NoteTable[],
  timeline: Timeline,
): ExtraMark[] {
  const {
    following: { occurrences, clock },
    score,
    parts,
    beside,
  } = followed;
  if (occurrences.length === 0) return [];
  const seconds = Float64Array.from(occurrences, ({ place }) => secondsAt(clock, place));
  return extra.map(({ part, row }) => {
    const { id, start, pitch } = tables[part];
    const heard = beside(parts[part].part.id).playedRowOf(id[row]);
    const at = ticksToSeconds(timeline.tempo, start[row]);
    const after = Math.max(0, lastAtOrBefore(seconds, at));
    let next = after + 1;
    while (next < seconds.length && occurrences[next].place <= occurrences[after].place + 1e-6) next++;
    const span = next < seconds.length ? seconds[next] - seconds[after] : 1;
    return {
      note: { partId: parts[part].part.id, id: id[row] },
      after,
      before: next < seconds.length ? next : null,
      share: Math.min(1, Math.max(0, span > 0 ? (at - seconds[after]) / span : 0)),
      above: letterOf(pitch[row]) - letterOf(score.pitch[occurrences[after].row]),
      name: pitchName(pitch[row], 4),
      tick: start[row],
      playedAt: heard === undefined ? null : playedTick(followed, heard),
    };
  });
}
