import type { Evaluator } from '../evaluate';
import { scoreFindings, type Finding } from '../findings';
import type { Part, Session } from '../session';
import type { Timeline } from '../time';
import { tablesAt } from './scorePage';

/**
 * What the score beside a part says is wrong with it as it is cleaned, or was played; undefined where no score is laid
 * beside it.
 */
export function findingsByScore(
  part: Part,
  session: Session,
  evaluator: Pick<Evaluator, 'evaluate' | 'followed'>,
  timeline: Timeline,
  version: 'cleaned' | 'played' = 'cleaned',
): Finding[] | undefined {
  const followed = evaluator.followed(part, session, timeline);
  if (!followed) return undefined;
  const tables = tablesAt(followed, version, session, evaluator, timeline);
  const index = followed.parts.findIndex((each) => each.part.id === part.id);
  return scoreFindings(followed, tables, timeline).at(index);
}
