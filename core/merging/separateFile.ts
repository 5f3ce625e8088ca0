import { labelsOf, sharesInOrder } from '../assembly';
import { createEvaluator, exportSession, type Evaluation } from '../evaluate';
import { OrdleError } from '../errors';
import type { MidiFile } from '../midi';
import { joinTables, pickRows } from '../model';
import { listOf, sessionOfFile, timelineOf, type Split } from '../session';

/**
 * One share of a file.
 *
 * @public
 */
export interface Share {
  label: string;
  file: MidiFile;
  notes: number;
}

/**
 * A file divided into several, each note in exactly one: by channel, pitch, drum piece, voice or hand
 * (0 to 127 after `pitch:`). Each has the conductor track, and everything but notes of the channels it has notes on; a
 * track a part. Shares come in the order of their labels.
 *
 * @public
 */
export function separateFile(file: MidiFile, by: Split['by']): Share[] {
  let next = 0;
  const { session, takes } = sessionOfFile(file, '', () => `id${next++}`, 0);
  const takeOf = (key: string) => {
    const take = takes.find((each) => each.key === key);
    if (!take) throw new OrdleError('take-missing', 'A performance of this session is not loaded.');
    return take;
  };
  const timeline = timelineOf(session);
  const evaluator = createEvaluator(takeOf);
  const parts = listOf(session.parts).map((part) => ({
    part,
    evaluation: evaluator.evaluate(part, session, timeline),
  }));
  // Labels go by the channel, whatever tracks its notes stand in.
  const all = joinTables(parts.map(({ evaluation }) => evaluation.stages[0].notes));
  const labels = labelsOf(by, all, timeline);
  const labelOf = new Map<number, string>();
  all.id.forEach((id, row) => labelOf.set(id, labels[row]));
  return sharesInOrder(by, labels).map((label) => {
    const channels = new Set<number>();
    let notes = 0;
    labels.forEach((own, row) => {
      if (own !== label) return;
      channels.add(all.channel[row] + 1);
      notes++;
    });
    const mine = parts.filter(({ part }) => channels.has(part.channel));
    const evaluations = new Map(
      mine.map(({ part, evaluation }) => [part.id, shareOf(evaluation, (id) => labelOf.get(id) === label)]),
    );
    const written = exportSession(
      session,
      { format: 1, version: 'played', parts: [...evaluations.keys()] },
      {
        evaluate: (part) => {
          const share = evaluations.get(part.id);
          if (!share) throw new OrdleError('no-part', 'The part is no longer in the session.');
          return share;
        },
      },
      takeOf,
    );
    return { label, file: written, notes };
  });
}

/** What was played of a part with only some of its notes. */
function shareOf(evaluation: Evaluation, isOf: (id: number) => boolean): Evaluation {
  const [played] = evaluation.stages;
  const rows = Array.from(played.notes.id.keys()).filter((row) => isOf(played.notes.id[row]));
  return { ...evaluation, stages: [{ ...played, notes: pickRows(played.notes, rows) }] };
}
