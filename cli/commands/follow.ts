import { existsSync } from 'node:fs';
import path from 'node:path';
import {
  OrdleError,
  createStep,
  exportSession,
  itemOf,
  listOf,
  mapItems,
  orderedOf,
  partsInUse,
  readWritten,
  scoreOfWritten,
  scoreTake,
  secondsAt,
  sentenceOf,
  timelineOf,
  writeMidi,
  createEvaluator,
  type Followed,
  type Reference,
  type Score,
  type Session,
} from '@ordle/core';
import { numberOf, readArguments } from '../arguments';
import { writeWhole } from '../cleaning/partialFiles';
import { sessionOfBytes } from '../cleaning/sessionSource';
import { readInput, readInputWhole, withName, type Surroundings } from '../surroundings';

/** What is printed as JSON. Notes are counted from 0 in order of start, then pitch; bars as the score counts them. */
interface FollowReport {
  pairs: { played: number; written: number; right: boolean }[];
  missing: number[];
  extra: number[];
  jumps: { from: number; to: number; seconds: number }[];
  /** When each written quarter was played, of the music as it was played, in seconds. */
  beats: number[];
}

/**
 * `ordle follow PLAYED.mid --score SCORE [--json] [--apply OUT.mid] [--strength 100] [--pitches]`: a performance laid
 * beside what is written, note by note. Returns 0; what cannot be used is thrown.
 */
export function followFile(args: readonly string[], surroundings: Surroundings): number {
  const { values, positionals } = readArguments(args, {
    score: { type: 'string' },
    apply: { type: 'string' },
    strength: { type: 'string', default: '100' },
    pitches: { type: 'boolean', default: false },
    overwrite: { type: 'boolean', default: false },
    json: { type: 'boolean', default: false },
  });
  const [name, ...others] = positionals;
  if (name === undefined || others.length > 0 || values.score === undefined)
    throw new OrdleError(
      'usage',
      'Name one performance and its score: ordle follow PLAYED.mid --score SCORE.musicxml [--json]',
    );
  const strength = numberOf('strength', values.strength, 0, 100);
  const target = values.apply === undefined ? null : path.resolve(surroundings.directory, values.apply);
  if (target !== null && existsSync(target) && !values.overwrite)
    throw new OrdleError(
      'out-file',
      `${values.apply ?? ''} is already there; give --overwrite to replace it.`,
    );
  const { session: opened, takeOf: takeOfFile } = readAs(name, () =>
    sessionOfBytes(readInputWhole(name, surroundings), path.parse(name).name),
  );
  const scoreName = values.score;
  const score = readAs(scoreName, () => scoreOfWritten(readWritten(readInput(scoreName, surroundings))));
  const take = scoreTake(score, scoreName, () => 'score');
  const takeOf = (key: string) => (key === take.key ? take : takeOfFile(key));
  const evaluator = createEvaluator(takeOf);
  const ids = partsInUse(opened);
  const beside: Session = {
    ...opened,
    parts: mapItems(opened.parts, (part) =>
      ids.includes(part.id) ? { ...part, reference: referenceOf(score) } : part,
    ),
  };
  const [first] = ids.map((id) => itemOf(beside.parts, id));
  const followed = first && evaluator.followed(first, beside, timelineOf(beside));
  if (!followed || followed.seconds.length === 0)
    throw new OrdleError('no-notes', withName(name, 'It holds no notes, so there is nothing to follow.'));
  const report = reportOf(followed);
  if (target !== null) {
    const step = createStep('score', { strength, pitches: values.pitches, chords: 'together' });
    const cleaned: Session = {
      ...beside,
      parts: mapItems(beside.parts, (part) => ({
        ...part,
        steps: orderedOf([...listOf(part.steps), { id: 'score', step }]),
      })),
    };
    const options = { format: opened.sourceFormat === 0 ? 0 : 1, version: 'cleaned', parts: ids } as const;
    writeWhole(target, writeMidi(exportSession(cleaned, options, evaluator, takeOf)));
  }
  if (values.json) surroundings.print(JSON.stringify(report));
  else tell(name, report, followed, values.apply, surroundings);
  return 0;
}

function readAs<T>(name: string, read: () => T): T {
  try {
    return read();
  } catch (error) {
    const code = error instanceof OrdleError ? error.code : 'follow';
    throw new OrdleError(code, withName(name, sentenceOf(error)));
  }
}

const referenceOf = ({ bars, firstBar, order }: Score): Reference => ({
  score: 'score',
  name: '',
  bars: [...bars],
  firstBar,
  ...(order && { order: [...order] }),
});

function reportOf({ score, following, seconds }: Followed): FollowReport {
  const { occurrences, playedOf, occurrenceOf, isRight, passages, clock } = following;
  const rows = [...seconds.keys()];
  const last = occurrences.reduce((most, { place }) => Math.max(most, place), 0);
  const first = passages.at(0)?.from ?? 0;
  return {
    pairs: rows.flatMap((played) => {
      const occurrence = occurrenceOf[played];
      if (occurrence < 0) return [];
      return [{ played, written: occurrences[occurrence].row, right: isRight[played] === 1 }];
    }),
    missing: [...new Set(occurrences.flatMap(({ row }, index) => (playedOf[index] < 0 ? [row] : [])))],
    extra: rows.filter((played) => occurrenceOf[played] < 0),
    jumps: passages.slice(1).map(({ firstBar, seconds: at }, index) => ({
      from: passages[index].lastBar + score.firstBar,
      to: firstBar + score.firstBar,
      seconds: Math.round(at * 1e6) / 1e6,
    })),
    beats:
      passages.length === 0
        ? []
        : Array.from(
            { length: Math.floor(last - first + 1e-6) + 1 },
            (_, quarter) => Math.round(secondsAt(clock, first + quarter) * 1e6) / 1e6,
          ),
  };
}

function tell(
  name: string,
  { pairs, missing, extra, jumps }: FollowReport,
  { score, following }: Followed,
  written: string | undefined,
  { print }: Surroundings,
) {
  const wrong = pairs.filter(({ right }) => !right).length;
  const count = following.occurrences.length;
  print(
    `${name}: ${pairs.length - wrong} of ${count} written notes played, ${wrong} wrong, ${missing.length} missing, ${extra.length} extra${written === undefined ? '' : `, written to ${written}`}`,
  );
  const [first] = following.passages;
  if (first && first.firstBar > 0) print(`  begins in bar ${first.firstBar + score.firstBar}`);
  for (const { from, to, seconds } of jumps)
    print(`  at ${seconds.toFixed(1)} s from bar ${from} to bar ${to}`);
}
