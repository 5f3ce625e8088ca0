import { latenessStrip, lieOfLateness, type LieWithSteps } from '../analysis';
import { latenessByScore, standingOf, type Evaluator } from '../evaluate';
import { itemOf, listOf, orderedOf, type Part, type Session } from '../session';
import { createStep, isScore, type Step } from '../steps';
import type { Timeline } from '../time';
import { tablesAt } from '../readings';

/** Less of what is written than this share that was found is no ground to clean by. */
const LEAST_FOUND = 0.5;
/** Stretches of the picture of a part. */
const PICTURE_BINS = 40;

/**
 * What the score beside a part advises: every note to its written place. Null where no score is laid beside it, too
 * little of it is found, or a step goes by it already.
 */
export function suggestedByScore(
  part: Part,
  session: Session,
  evaluator: Pick<Evaluator, 'evaluate' | 'followed'>,
  timeline: Timeline,
): (LieWithSteps & { steps: Step[]; reasons: string[]; isFree: boolean }) | null {
  if (listOf(part.steps).some(({ step }) => isScore(step) && step.on)) return null;
  const followed = evaluator.followed(part, session, timeline);
  if (!followed) return null;
  const { occurrences, isRight } = followed.following;
  const right = isRight.reduce((sum, each) => sum + each, 0);
  if (right < LEAST_FOUND * occurrences.length) return null;
  const step = createStep('score');
  const line = [...listOf(part.steps), { id: 'suggested by the score', step }];
  const own = { ...part, steps: orderedOf(line) };
  const cleaned = {
    ...session,
    parts: { ...session.parts, byId: { ...session.parts.byId, [part.id]: own } },
  };
  const index = followed.parts.findIndex((each) => each.part.id === part.id);
  const [before, after] = [session, cleaned].map((at) => {
    const tables = tablesAt(followed, 'cleaned', at, evaluator, timeline);
    const standing = standingOf(followed, tables, timeline);
    const { late, isByBars } = latenessByScore(followed, standing, tables, timeline);
    // A chord is where its first note is: rolls are kept, and are no fault.
    const first = new Map<number, number>();
    for (const row of late.keys()) {
      if (standing.partOf[row] !== index) continue;
      const { place } = occurrences[row];
      const other = first.get(place);
      if (other === undefined || late[row] < late[other]) first.set(place, row);
    }
    const rows = [...first.values()];
    const starts = Float64Array.from(rows, (row) => tables[index].start[standing.rowOf[row]]);
    const own = Float64Array.from(rows, (row) => late[row]);
    const end = tables[index].end.reduce((most, each) => Math.max(most, each), 1);
    return { lie: lieOfLateness(own), strip: latenessStrip(starts, own, end, PICTURE_BINS), isByBars };
  });
  const name = itemOf(session.parts, part.id)?.reference?.name ?? '';
  return {
    steps: [step],
    reasons: [
      `${right} of ${occurrences.length} notes of “${name}” are found in it, so each goes to where it is written`,
    ],
    before: before.lie,
    after: after.lie,
    picture: { before: before.strip, after: after.strip },
    isFree: !before.isByBars,
  };
}
