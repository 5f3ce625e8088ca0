import type { NoteTable } from '../model';
import type { TempoMap } from '../time';
import { TUNED, createBeatModel, periodsBetween, type Division } from './beatModel';
import { likeliestPath, type BeatHints } from './beatPath';
import { findDownbeats } from './downbeats';
import { onsetEventsOf, type OnsetEvents } from './onsetEvents';
import { refinedBeats, steadyLine } from './refine';

/** The pulse of a performance. Times in seconds from the start. */
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

/**
 * Finds the beats of a performance from its note starts alone. `hints` are kept; `progress` is told shares of the
 * work. Without notes there are no beats.
 */
export function findBeats(
  notes: NoteTable,
  tempo: TempoMap,
  hints: BeatHints & { division?: Division; beatsPerBar?: number } = {},
  progress: (share: number) => void = () => undefined,
): FoundBeats {
  const events = onsetEventsOf(notes, tempo);
  const divisions: readonly Division[] = hints.division ? [hints.division] : ['binary', 'ternary'];
  const paths = divisions.map((division, run) => ({
    division,
    ...likeliestPath(events, modelOf(division, hints.period), hints, (share) =>
      progress((run + share) / divisions.length),
    ),
  }));
  const [best, other] = paths;
  const isTernary = other !== undefined && other.score > best.score + TUNED.ternaryCost * events.length;
  const { beats: path, division } = isTernary ? other : best;
  const last = events.length > 0 ? events.time[events.length - 1] : 0;
  const refined = refinedBeats(path, events, hints.beats).filter((at) => at <= last + 0.03 && at >= 0);
  const meters = hints.beatsPerBar ? [hints.beatsPerBar] : division === 'ternary' ? [2, 4] : [4, 3];
  const bars = findDownbeats(refined, events, notes, tempo, meters);
  const beatsPerBar =
    division === 'ternary' && !hints.beatsPerBar && bars.beatsPerBar === 4 ? 4 : bars.beatsPerBar;
  progress(1);
  return {
    beats: refined,
    downbeats: bars.downbeats,
    beatsPerBar,
    division,
    bpm: bpmOfBeats(refined),
    confidence: confidenceOf(refined, events),
    sure: surenessOf(refined, events),
  };
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

/** 60 over the median of the distances between beats; 120 without two. */
export function bpmOfBeats(beats: Float64Array): number {
  if (beats.length < 2) return 120;
  const gaps = Array.from(beats.subarray(1), (at, beat) => at - beats[beat]).sort((a, b) => a - b);
  const middle = gaps.length >> 1;
  return 60 / (gaps.length % 2 === 1 ? gaps[middle] : (gaps[middle - 1] + gaps[middle]) / 2);
}

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
