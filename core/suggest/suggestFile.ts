import type { LieOfStrokes } from '../analysis';
import { createEvaluator, exportSession, optionsAsItCame } from '../evaluate';
import { fileFindings } from '../findings';
import type { Recipe } from '../formats';
import type { MidiFile } from '../midi';
import type { Take } from '../model';
import { sessionOfFile } from '../session';
import type { Step } from '../steps';
import { bpmOf } from '../time';
import { suggestSession, withSteps, withSuggested, type SuggestedPart } from './suggestSession';

/** What is suggested for one part of a file, as a report has it. */
export interface SuggestedInFile extends Pick<
  SuggestedPart,
  'name' | 'channel' | 'notes' | 'steps' | 'reasons'
> {
  before: LieOfStrokes;
  after: LieOfStrokes;
}

/**
 * What would clean up a file: how it was recorded, what is suggested for each part, with reasons and figures before and
 * after (ms off the lines it is played to), and the ways to have it done.
 *
 * @public
 */
export interface FileSuggestion {
  recorded: 'to the click' | 'freely';
  /** How sure that is, 0 to 1. */
  confidence: number;
  /** The tempo at the start, or the one that was found; null without either. */
  bpm: number | null;
  parts: SuggestedInFile[];
  /** How many things are probably wrong beside the timing. */
  findings: number;
  /** The file with all of it done, and some steps more on every part after that. */
  applied(more?: readonly Step[]): MidiFile;
  /** The steps as a recipe: those of each part for its channel where there are several. */
  recipe(name: string): Recipe;
}

/**
 * Looks at a file as it is opened and says what would clean it up. One that was recorded freely is put under its found
 * tempo first, where it stays in real time, and is cleaned against that.
 *
 * @public
 */
export function suggestFile(file: MidiFile): FileSuggestion {
  let next = 0;
  const newId = () => `id${next++}`;
  const { session, takes } = sessionOfFile(file, '', newId, 0);
  const byKey = new Map(takes.map((take): [string, Take] => [take.key, take]));
  const takeOf = (key: string) => byKey.get(key) ?? takes[0];
  const evaluator = createEvaluator(takeOf);
  const suggestion = suggestSession(session, evaluator);
  // All parts of a file are one recording; a file without notes is none.
  const recording = suggestion.recordings.at(0);
  const parts = suggestion.parts.map(
    ({ name, channel, notes, steps, reasons, before, after }): SuggestedInFile => ({
      name,
      channel,
      notes,
      steps,
      reasons,
      before,
      after,
    }),
  );
  return {
    recorded: recording?.recorded ?? 'to the click',
    confidence: recording?.confidence ?? 0,
    bpm: recording
      ? recording.bpm
      : session.tempos.length > 0
        ? bpmOf(session.tempos[0].microsecondsPerQuarter)
        : null,
    parts,
    findings: fileFindings(file).findings.length,
    applied(more = []) {
      const chosen = new Map(suggestion.parts.map(({ partId, steps }) => [partId, steps]));
      const suggested = withSuggested(session, recording?.beats?.found ?? null, chosen, newId);
      const cleaned = withSteps(suggested, more, newId);
      return exportSession(cleaned, optionsAsItCame(file.format, cleaned), evaluator, takeOf);
    },
    recipe: (name) => ({ ordle: 'recipe', version: 1, name, steps: recipeSteps(parts) }),
  };
}

function recipeSteps(parts: readonly SuggestedInFile[]): Step[] {
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
