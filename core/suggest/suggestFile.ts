import { suggestionFor, type LieOfStrokes } from '../analysis';
import { createEvaluator, exportSession, optionsAsItCame } from '../evaluate';
import { fileFindings } from '../findings';
import type { Recipe } from '../formats';
import type { MidiFile } from '../midi';
import { joinTables, type Take } from '../model';
import { listOf, mapItems, orderedOf, sessionOfFile, timelineOf, type Session } from '../session';
import type { Step } from '../steps';
import { findBeats, gridToPlaying, settledBeats, toTheClick } from '../tempo';
import { bpmOf } from '../time';

/** What is suggested for one part of a file. Lateness in ms against the lines it is played to. */
export interface SuggestedPart {
  name: string;
  channel: number;
  notes: number;
  steps: Step[];
  /** Why, one for each step; without steps, why there are none. */
  reasons: string[];
  before: LieOfStrokes;
  after: LieOfStrokes;
}

export interface FileSuggestion {
  recorded: 'to the click' | 'freely';
  /** How sure that is, 0 to 1. */
  confidence: number;
  /** The tempo at the start, or the one that was found; null without either. */
  bpm: number | null;
  parts: SuggestedPart[];
  /** How many things are probably wrong beside the timing. */
  findings: number;
  /** The file with all of it done. */
  applied(): MidiFile;
  /** The steps as a recipe: those of each part for its channel where there are several. */
  recipe(name: string): Recipe;
}

/** Fewer beats say nothing about a click. */
const LEAST_BEATS = 8;

/**
 * Looks at a file as it is opened and says what would clean it up. One that was recorded freely is put under its found
 * tempo first, where it stays in real time, and is cleaned against that.
 */
export function suggestFile(file: MidiFile): FileSuggestion {
  let next = 0;
  const { session, takes } = sessionOfFile(file, '', () => `id${next++}`, 0);
  const byKey = new Map(takes.map((take): [string, Take] => [take.key, take]));
  const takeOf = (key: string) => byKey.get(key) ?? takes[0];
  const evaluator = createEvaluator(takeOf);
  const notesOf = (of: Session) => {
    const timeline = timelineOf(of);
    return listOf(of.parts).map((part) => ({
      part,
      material: evaluator.evaluate(part, of, timeline).stages[0],
    }));
  };
  const opened = notesOf(session).filter(({ material }) => material.notes.length > 0);
  const timeline = timelineOf(session);
  const found = findBeats(joinTables(opened.map(({ material }) => material.notes)), timeline.tempo);
  const click = toTheClick(found, timeline);
  const suggest = (of: Session) =>
    notesOf(of)
      .filter(({ material }) => material.notes.length > 0)
      .map(({ part, material }) => {
        const context = { timeline: timelineOf(of), isDrums: part.sound.drums };
        return { part, notes: material.notes.length, suggestion: suggestionFor(material, [], context) };
      });
  const asRecorded = suggest(session);
  const free = asRecorded.reduce((sum, { notes, suggestion }) => sum + (suggestion?.isFree ? notes : 0), 0);
  const all = asRecorded.reduce((sum, { notes }) => sum + notes, 0);
  // The parts themselves know best: those that keep to the bars were recorded to them.
  const isFree = !click.is && found.beats.length >= LEAST_BEATS && 2 * free > all;
  const settled = isFree ? settledBeats(found, 'beats').settled : null;
  const under = settled ? gridToPlaying(session, session.parts.order, settled, timeline) : session;
  const suggested = settled ? suggest(under) : asRecorded;
  const parts = suggested.flatMap(({ part, notes, suggestion }): SuggestedPart[] =>
    suggestion
      ? [
          {
            name: part.name,
            channel: part.channel,
            notes,
            steps: suggestion.steps,
            reasons: suggestion.reasons,
            before: suggestion.before,
            after: suggestion.after,
          },
        ]
      : [],
  );
  return {
    recorded: isFree ? 'freely' : 'to the click',
    confidence: all === 0 ? 0 : isFree ? 1 - click.sure : Math.max(click.sure, 1 - free / all),
    bpm: isFree
      ? found.bpm
      : session.tempos.length > 0
        ? bpmOf(session.tempos[0].microsecondsPerQuarter)
        : all > 0
          ? 120
          : null,
    parts,
    findings: fileFindings(file).findings.length,
    applied() {
      const stepsOf = new Map(suggested.map(({ part, suggestion }) => [part.id, suggestion?.steps ?? []]));
      const cleaned: Session = {
        ...under,
        parts: mapItems(under.parts, (part) => ({
          ...part,
          steps: orderedOf((stepsOf.get(part.id) ?? []).map((step, at) => ({ id: `step${at}`, step }))),
        })),
      };
      return exportSession(cleaned, optionsAsItCame(file.format, cleaned), evaluator, takeOf);
    },
    recipe: (name) => ({ ordle: 'recipe', version: 1, name, steps: recipeSteps(parts) }),
  };
}

function recipeSteps(parts: readonly SuggestedPart[]): Step[] {
  const withSteps = parts.filter(({ steps }) => steps.length > 0);
  if (parts.length < 2) return withSteps.flatMap(({ steps }) => steps);
  const taken = new Set<number>();
  return withSteps.flatMap(({ channel, steps }) => {
    // Of parts that share a channel the first one's steps are taken: a recipe tells parts by channel.
    if (taken.has(channel)) return [];
    taken.add(channel);
    return steps.map((step): Step => ({ ...step, where: { ...step.where, channel } }));
  });
}
