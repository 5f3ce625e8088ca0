import type { NoteTable } from '../model';
import { barNumbered, createGrid, nearestLines, quartersOf, ticksToSeconds, type Timeline } from '../time';
import { gridsByBars, type GridOfBars } from './gridByBars';
import { likelyGridOf, spreadAbout, type LikelyGrid } from './likelyGrid';
import { momentsOf } from './deviations';
import { median } from './readings';
import { playedStrokes, strokePlaces, type ChordHabit, type PlayedStrokes } from './strokes';

/** How a part is played: what is struck together, which note of it is on the beat, and on which grid. */
export interface Playing extends LikelyGrid {
  strokes: PlayedStrokes;
  habit: ChordHabit;
  /** Where the strokes are by that habit, in ticks. */
  places: Float64Array;
  /** Median lateness of the strokes, and their spread about it, in ms. */
  biasMs: number;
  spreadMs: number;
  /** 1 where every stroke lies equally off its line, 0 where they lie anywhere. */
  fit: number;
  /** Grids that change from bar to bar; none where one holds for all. */
  byBars: GridOfBars[];
}

/** How far players usually are from the beat, in ms: of habits that are as tight, the one that is nearer to it. */
const USUAL_BIAS_MS = 20;
/** How much of the variance of widths the mean of two notes scatters less. */
const AVERAGED = 0.2;
/** By this, in nats a stroke, two readings of chords of one width differ by chance. */
const BY_CHANCE = 0.08;
/** What an end of a chord on the beat is believed before its middle; in nats. */
const AT_AN_END = 1;
/** So many strokes must be chords for a habit to be told. */
const CHORD_SHARE = 0.1;
const HABITS: readonly ChordHabit[] = ['last', 'middle'];

/** Reads how a part is played. Null with fewer than two notes. */
export function playingOf(notes: NoteTable, isDrums: boolean, timeline: Timeline): Playing | null {
  if (notes.length < 2) return null;
  const roughly = likelyGridOf(notes.start, timeline);
  const strokes = playedStrokes(notes, isDrums, timeline, stepMsOf(roughly.grid, notes, timeline));
  let best = readBy('first', strokes, timeline);
  if (strokes.chords > CHORD_SHARE * strokes.length)
    for (const habit of HABITS) {
      const other = readBy(habit, strokes, timeline);
      if (speaksFor(other, best, timeline) > 0) best = other;
    }
  const { places, grid, swing } = best;
  const byBars = swing === 50 ? gridsByBars(places, grid, biasOf(places, best, timeline), timeline) : [];
  const lateness = latenessOfPlaces({ ...best, byBars }, timeline);
  const biasMs = median(lateness);
  const spreadMs = Math.sqrt(lateness.reduce((sum, late) => sum + (late - biasMs) ** 2, 0) / lateness.length);
  return {
    ...best,
    strokes,
    byBars,
    biasMs,
    spreadMs,
    fit: Math.min(1, Math.max(0, 1 - spreadMs / byChance(places, grid, byBars, notes, timeline))),
  };
}

/**
 * The spread of places that lie anywhere between the lines of their grids, in ms: a step's length over the root of 12
 * (deviation of an even distribution), those of bars of a finer grid by its own step.
 */
function byChance(
  places: Float64Array,
  grid: string,
  byBars: readonly GridOfBars[],
  notes: NoteTable,
  timeline: Timeline,
): number {
  const stepMs = new Map(
    [grid, ...byBars.map((bars) => bars.grid)].map((name) => [name, stepMsOf(name, notes, timeline)]),
  );
  const sum = places.reduce((total, tick) => {
    const own = byBars.length === 0 ? grid : gridAt(byBars, tick, timeline);
    return total + (stepMs.get(own) ?? 0) ** 2 / 12;
  }, 0);
  return Math.sqrt(sum / places.length);
}

/** The grid of the bars a place lies in; before and behind all that of the nearest. */
const gridAt = (byBars: readonly GridOfBars[], tick: number, { meter }: Timeline): string =>
  byBars.find(({ bars: [, to] }) => tick < barNumbered(meter, to).end)?.grid ??
  byBars[byBars.length - 1].grid;

function readBy(habit: ChordHabit, strokes: PlayedStrokes, timeline: Timeline) {
  const places = strokePlaces(strokes, habit).slice().sort();
  const likely = likelyGridOf(places, timeline);
  const about = spreadAbout(places, likely.grid, likely.swing, timeline);
  // The middle of two notes scatters less than either, which says nothing about what is meant.
  return {
    habit,
    places,
    ...likely,
    about: habit === 'middle' ? Math.hypot(about, scatterOf(strokes, timeline)) : about,
  };
}

/**
 * What the mean of the first and the last note of chords scatters less than one of them, by how their width varies;
 * ms.
 */
function scatterOf({ from, to }: PlayedStrokes, { tempo }: Timeline): number {
  const widths: number[] = [];
  for (let stroke = 0; stroke < from.length; stroke++)
    if (to[stroke] > from[stroke])
      widths.push(1000 * (ticksToSeconds(tempo, to[stroke]) - ticksToSeconds(tempo, from[stroke])));
  return momentsOf(Float64Array.from(widths)).deviation * Math.sqrt((AVERAGED * widths.length) / from.length);
}

/**
 * How much speaks for one reading of the chords and against another, in nats: that its strokes are described in fewer
 * words (which line is meant, and how far from it), if clearly so, and that the player is nearer to the beat by it.
 */
function speaksFor(
  one: ReturnType<typeof readBy>,
  other: ReturnType<typeof readBy>,
  timeline: Timeline,
): number {
  const words = ({ grid, about }: typeof one) =>
    Math.log(1 / quartersOf(grid)) + Math.log(Math.max(1, about));
  const shorter = words(other) - words(one);
  const clearly = Math.sign(shorter) * Math.max(0, Math.abs(shorter) - BY_CHANCE);
  const prior = (of: typeof one) =>
    (of.habit === 'middle' ? 0 : AT_AN_END) - 0.5 * (biasOf(of.places, of, timeline) / USUAL_BIAS_MS) ** 2;
  return one.places.length * clearly + prior(one) - prior(other);
}

const biasOf = (places: Float64Array, by: LikelyGrid, timeline: Timeline) =>
  median(latenessOfPlaces({ places, ...by, byBars: [] }, timeline));

/** How late each place is against its line, in ms: by the grid of its bars where they have one of their own. */
export function latenessOfPlaces(
  { places, grid, swing, byBars }: Pick<Playing, 'places' | 'grid' | 'swing' | 'byBars'>,
  timeline: Timeline,
): number[] {
  const { meter, tempo } = timeline;
  const lines = new Float64Array(places.length);
  nearestLines(createGrid(meter, [grid], swing), places, lines);
  const late = (tick: number, line: number) =>
    1000 * (ticksToSeconds(tempo, tick) - ticksToSeconds(tempo, line));
  if (byBars.length === 0) return Array.from(places, (tick, row) => late(tick, lines[row]));
  const own = new Map(byBars.map(({ grid: name }) => [name, new Float64Array(places.length)]));
  for (const [name, column] of own) nearestLines(createGrid(meter, [name]), places, column);
  // A place near a bar line belongs to whichever of the two grids; the line is the same in both.
  return Array.from(places, (tick, row) => {
    return late(tick, own.get(gridAt(byBars, tick, timeline))?.[row] ?? lines[row]);
  });
}

/** The mean length of a step of a grid over a part, in ms, whatever the tempo does. */
export function stepMsOf(grid: string, notes: NoteTable, { tempo, ticksPerQuarter }: Timeline): number {
  const step = quartersOf(grid) * ticksPerQuarter;
  const [first, last] = [notes.start[0], notes.start[notes.length - 1]];
  return (
    (1000 * (ticksToSeconds(tempo, last + step) - ticksToSeconds(tempo, first)) * step) /
    (last + step - first)
  );
}
