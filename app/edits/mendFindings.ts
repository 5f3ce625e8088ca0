import {
  MOST_INLINE,
  insertItems,
  isByHand,
  itemOf,
  listOf,
  mendsOf,
  mergeEdits,
  type Part,
  type ReadingsOfParts,
  type Step,
  FINDING_NAMES,
} from '@ordle/core';
import { edit, selectDocument } from '@/state/sessionSlice';
import { store, type AppDispatch } from '@/state/store';
import { counted } from '@/words/counts';

export type PartFinding = ReadingsOfParts['findings'][number];

/** Mends gathered in one step at most, so that a step of hand edits stays small. */
const MOST_TOGETHER = 400;

/**
 * Mends findings, each as it says, as one action: hand edits join those that end the line, other steps come after
 * them.
 */
export function mend(dispatch: AppDispatch, findings: readonly PartFinding[]) {
  const session = selectDocument(store.getState());
  const mended = findings.filter(({ mend: step }) => step !== null);
  if (!session || mended.length === 0) return;
  const label =
    mended.length === 1
      ? `Mend a finding: ${FINDING_NAMES[mended[0].kind]}`
      : `Mend ${counted(mended.length, 'finding')}`;
  // Notes that are put in are drawn ones, each with an id of its own.
  let nextId = session.nextNoteId;
  const withIds = (finding: PartFinding): PartFinding =>
    finding.mend && isByHand(finding.mend) && finding.mend.add.length > 0
      ? {
          ...finding,
          mend: { ...finding.mend, add: finding.mend.add.map((note) => ({ ...note, id: nextId++ })) },
        }
      : finding;
  const lines = listOf(session.parts).flatMap((part) => {
    const own = mended.filter(({ partId }) => partId === part.id).map(withIds);
    return own.length === 0 ? [] : [{ part, steps: withMends(part, own) }];
  });
  dispatch(
    edit(label, (draft) => {
      draft.nextNoteId = Math.max(draft.nextNoteId, nextId);
      for (const { part, steps } of lines) {
        const line = itemOf(draft.parts, part.id)?.steps;
        if (!line) continue;
        if (steps.joined) line.byId[steps.joined.id].step = structuredClone(steps.joined.step);
        insertItems(
          line,
          steps.added.map((step) => ({ id: crypto.randomUUID() as string, step: structuredClone(step) })),
          line.order.length,
        );
      }
    }),
  );
}

/** What mending changes of a part's line: the hand edits at its end, and what is put after them. */
function withMends({ steps }: Part, own: readonly PartFinding[]) {
  const mends: Step[] = [];
  for (let at = 0; at < own.length; at += MOST_TOGETHER)
    mends.push(...mendsOf(own.slice(at, at + MOST_TOGETHER)));
  const last = listOf(steps).at(-1);
  const [first] = mends;
  const standing = last?.step;
  const joins =
    standing !== undefined &&
    isByHand(standing) &&
    standing.on &&
    isByHand(first) &&
    standing.table === undefined &&
    Object.keys(standing.where).length === 0 &&
    Object.keys(standing.change).length + standing.delete.length + standing.add.length + MOST_TOGETHER <=
      MOST_INLINE;
  if (!joins) return { joined: null, added: mends };
  return {
    joined: { id: last?.id ?? '', step: { ...standing, ...mergeEdits(standing, first) } },
    added: mends.slice(1),
  };
}
