import { median } from '../analysis';
import type { NoteTable } from '../model';
import { firstAtOrAfter, type TempoMap } from '../time';
import { createBeatModel, periodsBetween, type Division } from './beatModel';
import { likeliestPath, type BeatHints } from './beatPath';
import { findDownbeats } from './downbeats';
import { onsetEventsOf, type OnsetEvents } from './onsetEvents';
import { inPhase, soundingOf } from './phase';
import { refinedBeats, steadyLine } from './refine';

export type OtherReading = 'shift' | 'halve' | 'double';

/**
 * The pulse of a performance. Times in seconds from the start.
 *
 * @public
 */
export interface FoundBeats {
  beats: Float64Array;
  /** Numbers of the beats that begin a bar. */
  downbeats: number[];
  beatsPerBar: number;
  /** The number of the bar that begins with the first downbeat, where a person said it. */
  firstBar?: number;
  division: Division;
  /** Median of the beats, in beats a minute; of beats divided in three a beat is a dotted quarter. */
  bpm: number;
  /** 0 to 1: how many of the beats are played, and how evenly they go. */
  confidence: number;
  /** Other ways in which the beats may be meant: half a beat on, every second, twice as many. */
  unsure: OtherReading[];
  /** How sure each beat is, 0 to 1: whether it is played, and goes on evenly. */
  sure: Float32Array;
}

const models = new Map<Division, ReturnType<typeof createBeatModel>>();

/** The usual model of a division is kept; one for periods that a person named is made for the occasion. */
function modelOf(division: Division, period: BeatHints['period']) {
  if (period) return createBeatModel(division, periodsBetween(...period));
  const known = models.get(division) ?? createBeatModel(division);
  models.set(division, known);
  return known;
}

/** What a person said of the beats, and of how they are divided and counted. */
export type FindingHints = BeatHints & {
  /** All beats: none is found. */
  laid?: readonly number[];
  division?: Division;
  beatsPerBar?: number;
};

/**
 * Finds the beats of a performance from its note starts alone. What `hints` say of beats holds to the letter;
 * `progress` is told shares of the work. Without notes there are no beats but those.
 */
export function findBeats(
  notes: NoteTable,
  tempo: TempoMap,
  hints: FindingHints = {},
  progress: (share: number) => void = () => undefined,
): FoundBeats {
  const events = onsetEventsOf(notes, tempo);
  const { beats, division, unsure } = hints.laid
    ? { beats: withLaid(hints.laid, hints.beats), division: hints.division ?? 'binary', unsure: [] }
    : beatsSearched({ notes, tempo, events }, hints, progress);
  const meters = hints.beatsPerBar ? [hints.beatsPerBar] : division === 'ternary' ? [2, 4] : [4, 3];
  const bars = findDownbeats(beats, events, notes, tempo, meters);
  progress(1);
  return {
    beats,
    downbeats: bars.downbeats,
    beatsPerBar: bars.beatsPerBar,
    division,
    bpm: bpmOfBeats(beats),
    confidence: confidenceOf(beats, events),
    unsure,
    sure: surenessOf(beats, events),
  };
}

/** Beats as they were laid, with all that a person set among them. */
const withLaid = (laid: readonly number[], set: readonly number[] = []): Float64Array =>
  Float64Array.from([...laid, ...set])
    .sort()
    .filter((at, row, all) => row === 0 || at - all[row - 1] > 1e-4);

/** The likeliest beats, divided in two or in three, and among them those that a person set. */
function beatsSearched(
  { notes, tempo, events }: { notes: NoteTable; tempo: TempoMap; events: OnsetEvents },
  hints: FindingHints,
  progress: (share: number) => void,
): { beats: Float64Array; division: Division; unsure: OtherReading[] } {
  const period = hints.period ?? periodOfSet(hints);
  const divisions: readonly Division[] = hints.division ? [hints.division] : ['binary', 'ternary'];
  const { beats: path, models } = likeliestPath(
    events,
    divisions.map((each) => modelOf(each, period)),
    hints,
    progress,
  );
  const ternary = divisions.indexOf('ternary');
  const inThree = models.reduce((sum, each) => sum + Number(each === ternary), 0);
  const isTernary = 2 * inThree > models.length;
  const division: Division = isTernary ? 'ternary' : 'binary';
  const last = events.length > 0 ? events.time[events.length - 1] : 0;
  const inMusic = (beats: Float64Array) => beats.filter((at) => at <= last + 0.03 && at >= 0);
  const refined = inMusic(refinedBeats(path, events, hints.beats));
  const isSwung = isTernary && areSwung(refined, events);
  if ((hints.beats?.length ?? 0) > 0) {
    const own = withSet(refined, hints);
    // What was found beyond them goes on in their phase, unless the music speaks against it.
    const beats =
      division === 'binary' ? withSet(inPhase(own, soundingOf(notes, tempo), hints.beats).beats, hints) : own;
    return { beats, division: isSwung ? 'binary' : division, unsure: [] };
  }
  if (isSwung) return { beats: refined, division: 'binary', unsure: otherLevels(refined) };
  if (division === 'ternary') return { beats: refined, division, unsure: [] };
  const { beats: turned, odds } = inPhase(refined, soundingOf(notes, tempo));
  const beats = inMusic(refinedBeats(turned, events));
  const unsure: OtherReading[] = Math.abs(odds) < UNSURE ? ['shift'] : [];
  return { beats, division, unsure: [...unsure, ...otherLevels(beats)] };
}

/** Odds of the places half way nearer to even than this, as a logit, are told. */
const UNSURE = 1;
/** At tempos outside these, in beats a minute, as many people tap twice as slowly, or twice as fast. */
const [SLOW, FAST] = [72, 140];

function otherLevels(beats: Float64Array): OtherReading[] {
  if (beats.length < 4) return [];
  const bpm = bpmOfBeats(beats);
  return bpm > FAST ? ['halve'] : bpm < SLOW ? ['double'] : [];
}

/** Strokes of a beat in three at its last third, as a share of the beats, and how few at its second make it swung. */
const [SWUNG, FEW_SECONDS] = [0.35, 0.22];

/**
 * Whether beats that seem divided in three are swung ones: the off-beat comes late, and the second third is hardly
 * ever struck.
 */
function areSwung(beats: Float64Array, { time, length }: OnsetEvents): boolean {
  let [second, last] = [0, 0];
  for (let beat = 0; beat + 1 < beats.length; beat++) {
    const gap = beats[beat + 1] - beats[beat];
    const isStruck = (share: number) => {
      const at = beats[beat] + share * gap;
      const reach = 0.015 + 0.06 * gap;
      const row = firstAtOrAfter(time, at - reach, length);
      return row < length && time[row] <= at + reach;
    };
    if (isStruck(1 / 3)) second++;
    if (isStruck(2 / 3)) last++;
  }
  return last > SWUNG * beats.length && second < FEW_SECONDS * last;
}

/**
 * Beats that follow each other by hand are at the level that is meant elsewhere too: their usual length, give or take.
 */
function periodOfSet({ beats = [], only = [] }: BeatHints): BeatHints['period'] {
  const gaps = only.flatMap(([from, to]) => {
    const own = beats.filter((at) => at >= from && at <= to);
    return own.slice(1).map((at, beat) => at - own[beat]);
  });
  if (gaps.length < 2) return undefined;
  const usual = median(gaps);
  return [0.75 * usual, 1.35 * usual];
}

/** The found beats and those that were set, which hold to the letter: what was found beside them gives way. */
function withSet(found: Float64Array, { beats = [], only = [] }: BeatHints): Float64Array {
  if (beats.length === 0) return found;
  const set = [...beats].sort((one, other) => one - other);
  const usual = medianGap(found);
  const isFree = (at: number) => {
    const next = firstAtOrAfter(set, at, set.length);
    const off = Math.min(at - (set[next - 1] ?? -Infinity), (set[next] ?? Infinity) - at);
    return off > 0.4 * usual && !only.some(([from, to]) => at > from && at < to);
  };
  return Float64Array.from([...found.filter(isFree), ...set]).sort();
}

/** The same beats evenly apart, by a straight line through them (least squares); those before 0 are left out. */
export function steadyBeats(found: FoundBeats): FoundBeats {
  const { period, start } = steadyLine(found.beats);
  const line = found.beats.map((_, beat) => start + beat * period);
  const gone = line.findIndex((at) => at >= 0);
  const skipped = Math.max(0, gone);
  return {
    ...found,
    beats: line.subarray(skipped),
    sure: found.sure.subarray(skipped),
    downbeats: found.downbeats.map((beat) => beat - skipped).filter((beat) => beat >= 0),
    bpm: 60 / period,
  };
}

/** How long a beat is most of the time, in seconds: the median; half a second without two. */
export const medianGap = (beats: ArrayLike<number>): number =>
  beats.length < 2
    ? 0.5
    : median(Array.from({ length: beats.length - 1 }, (_, beat) => beats[beat + 1] - beats[beat]));

/** 60 over the median of the distances between beats; 120 without two. */
export const bpmOfBeats = (beats: ArrayLike<number>): number => 60 / medianGap(beats);

/**
 * The share of beats with a stroke within 50 ms, times how even they are: 1 where each is as long as the one before,
 * half where they differ by a tenth.
 */
function confidenceOf(beats: Float64Array, { time, length }: OnsetEvents): number {
  if (beats.length < 3) return 0;
  let [event, played, uneven] = [0, 0, 0];
  for (const at of beats) {
    while (event < length && time[event] < at - 0.05) event++;
    if (event < length && time[event] <= at + 0.05) played++;
  }
  for (let beat = 2; beat < beats.length; beat++)
    uneven += Math.abs(Math.log((beats[beat] - beats[beat - 1]) / (beats[beat - 1] - beats[beat - 2])));
  return (played / beats.length) * 2 ** (-uneven / (beats.length - 2) / 0.1);
}

/**
 * Half of it for a stroke beside the beat (none from 70 ms on), half for a beat as long as the one before (none from
 * a ratio of 1.3 on).
 */
function surenessOf(beats: Float64Array, { time, length }: OnsetEvents): Float32Array {
  let event = 0;
  return Float32Array.from(beats, (at, beat) => {
    while (event + 1 < length && Math.abs(time[event + 1] - at) <= Math.abs(time[event] - at)) event++;
    const played = length === 0 ? 0 : Math.max(0, 1 - Math.abs(time[event] - at) / 0.07);
    if (beat < 2) return 0.5 * played + 0.5;
    const ratio = Math.log((at - beats[beat - 1]) / (beats[beat - 1] - beats[beat - 2]));
    return 0.5 * played + 0.5 * Math.max(0, 1 - Math.abs(ratio) / Math.log(1.3));
  });
}
