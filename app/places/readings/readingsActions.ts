import {
  createStep,
  insertItems,
  itemOf,
  listOf,
  nameOfFinding,
  sentenceOf,
  type PlacedStep,
  FINDING_NAMES,
} from '@ordle/core';
import { deletePart } from '@/edits/deletePart';
import type { PartFinding } from '@/edits/mendFindings';
import { toast } from 'sonner';
import { beginAtBarOne } from '@/edits/timeActions';
import { edit, selectDocument } from '@/state/sessionSlice';
import { store, type AppDispatch } from '@/state/store';

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
    edit(`Dismiss a finding: ${FINDING_NAMES[finding.kind]}`, (draft) => {
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
