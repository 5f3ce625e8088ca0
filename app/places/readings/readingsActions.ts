import {
  isByHand,
  MOST_INLINE,
  createStep,
  insertItems,
  itemOf,
  listOf,
  mendsOf,
  mergeEdits,
  nameOfFinding,
  sentenceOf,
  type Part,
  type PlacedStep,
  type Step,
  type ReadingsOfParts,
} from '@ordle/core';
import { deletePart } from '@/edits/deletePart';
import { toast } from 'sonner';
import { beginAtBarOne } from '@/edits/timeActions';
import { edit, selectDocument } from '@/state/sessionSlice';
import { store, type AppDispatch } from '@/state/store';
import { counted } from '@/words/counts';
import { KIND_NAMES } from '@/words/findings';

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
      ? `Mend a finding: ${KIND_NAMES[mended[0].kind]}`
      : `Mend ${counted(mended.length, 'finding')}`;
  const lines = listOf(session.parts).flatMap((part) => {
    const own = mended.filter(({ partId }) => partId === part.id);
    return own.length === 0 ? [] : [{ part, steps: withMends(part, own) }];
  });
  dispatch(
    edit(label, (draft) => {
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

/** How far the notes of a flattened chord are let apart, in ms: as chords are played (from memory: some 5 to 15). */
const LOOSE_MS = 7;

/** Puts right what no step does: the silence before all parts is left out, an empty part is taken out. */
export function putRight(dispatch: AppDispatch, { kind, partId, tick, notes }: PartFinding) {
  if (kind === 'late-lead-in')
    beginAtBarOne(dispatch, tick, null).catch((reason: unknown) => toast.error(sentenceOf(reason)));
  else if (kind === 'flattened-chord')
    dispatch(
      edit('Loosen chords', (draft) => {
        const line = itemOf(draft.parts, partId)?.steps;
        const step = createStep('humanize', { timingMs: LOOSE_MS, where: { notes: [...notes] } });
        const placed: PlacedStep = { id: crypto.randomUUID(), step };
        if (line) insertItems(line, [placed], line.order.length);
      }),
    );
  else if (kind === 'empty-track') {
    const session = selectDocument(store.getState());
    const part = session && itemOf(session.parts, partId);
    if (part) deletePart(dispatch, part);
  }
}

/** Lets a finding be; it is not listed any more. */
export function dismiss(dispatch: AppDispatch, finding: PartFinding) {
  dispatch(
    edit(`Dismiss a finding: ${KIND_NAMES[finding.kind]}`, (draft) => {
      const part = itemOf(draft.parts, finding.partId);
      if (part) part.dismissed = [...(part.dismissed ?? []), nameOfFinding(finding)];
    }),
  );
}

/** Lists again what was dismissed. */
export function recall(dispatch: AppDispatch) {
  dispatch(
    edit('List dismissed findings again', (draft) => {
      for (const part of listOf(draft.parts)) delete part.dismissed;
    }),
  );
}
