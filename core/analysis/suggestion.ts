import type { Material } from '../model';
import { applyStep, createStep, type Step, type StepContext } from '../steps';
import { nameOfNoteValue } from '../time';
import { momentsOf } from './deviations';
import { measureNotes, type Measured } from './measured';
import { partFacts } from './partFacts';
import { gridReadingsOf } from './gridReadings';
import { startingStep } from './startingStep';

/** What is advised for a part: steps to put at the end of its line, why, and what they would make of it. */
export interface Suggestion {
  /** None where something else has to be done first, which the reason says. */
  steps: Step[];
  /** Why, one for each step; without steps, what has to be done first. */
  reasons: string[];
  /** Spread about the grid's lines before and after those steps, in ms. */
  spreadMs: { before: number; after: number };
}

/** Fewer notes tell nothing about a habit. */
const LEAST_NOTES = 8;
/**
 * A habit of being late or early below this, in ms, is part of a groove rather than a fault (common practice: some 5
 * to 10).
 */
const LEAST_HABIT_MS = 8;
/**
 * Tighter than this nobody plays, and nobody hears the rest, in ms (from memory: about 10 ms between skilled players'
 * strokes).
 */
const TIGHT_MS = 8;
/** A grid that explains less of a part than this is not what it was played to. */
const LEAST_FIT = 0.12;
/** Steps that put notes in time: where a line has one, a second is nothing to advise unasked. */
const PUTS_IN_TIME = new Set<Step['kind']>(['quantize', 'groove', 'align', 'pulse', 'humanize', 'layout']);

/**
 * What would clean a part up, by what is measured of it as it is after its steps; null where there is nothing to
 * advise. It changes nothing by itself.
 */
export function suggestionFor(
  material: Material,
  standing: readonly Step[],
  { timeline, isDrums }: Pick<StepContext, 'timeline' | 'isDrums'>,
): Suggestion | null {
  const { notes } = material;
  const hasOwn = standing.some(({ kind, on }) => on && PUTS_IN_TIME.has(kind));
  if (notes.length < LEAST_NOTES || hasOwn) return null;
  const facts = partFacts(notes, timeline);
  const ruler = { grids: [facts.grid], swing: facts.swing };
  const before = lieOf(measureNotes(material, ruler, timeline));
  const fit = gridReadingsOf(notes, timeline).find(({ grid }) => grid === facts.grid)?.fit ?? 0;
  // A swung grid fits its straight lines badly, and is told by its own.
  if (facts.swing === 50 && fit < LEAST_FIT)
    return {
      steps: [],
      reasons: ['It does not follow the bars of this session: find its beats first, on Tempo.'],
      spreadMs: { before: before.spreadMs, after: before.spreadMs },
    };
  const steps: Step[] = [];
  const reasons: string[] = [];
  if (Math.abs(before.biasMs) >= LEAST_HABIT_MS) {
    steps.push(createStep('nudge', { ms: -Math.round(before.biasMs) }));
    reasons.push(
      `it is ${Math.round(Math.abs(before.biasMs))} ms ${before.biasMs > 0 ? 'late' : 'early'} on average`,
    );
  }
  if (before.spreadMs > TIGHT_MS) {
    const step = startingStep('quantize', { facts, isDrums, alignTo: '', isOneOfSeveral: false });
    steps.push(step);
    const kept = isDrums
      ? '; flams are kept'
      : facts.chordShare > 0.2
        ? '; chords stay as they are spread'
        : '';
    reasons.push(`it spreads ${Math.round(before.spreadMs)} ms about ${nameOfNoteValue(facts.grid)}${kept}`);
  }
  if (steps.length === 0) return null;
  const context: StepContext = { timeline, isDrums };
  const cleaned = steps.reduce((input, step) => applyStep(input, step, context), material);
  const after = lieOf(measureNotes(cleaned, ruler, timeline));
  return { steps, reasons, spreadMs: { before: before.spreadMs, after: after.spreadMs } };
}

/** Mean lateness and standard deviation about it, in ms and in ticks. */
export function lieOf({ lateMs, lateTicks }: Pick<Measured, 'lateMs' | 'lateTicks'>) {
  const [ms, ticks] = [momentsOf(lateMs), momentsOf(lateTicks)];
  return {
    biasMs: ms.mean,
    spreadMs: ms.deviation,
    biasTicks: ticks.mean,
    spreadTicks: ticks.deviation,
  };
}
