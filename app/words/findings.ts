import { isByHand, type Finding, type FindingKind } from '@ordle/core';

/** What puts a finding right that no step does: something done to the parts themselves. */
export const DEEDS: Partial<Record<FindingKind, string>> = {
  'late-lead-in': 'Begin at bar 1',
  'empty-track': 'Delete part',
  'flattened-chord': 'Loosen them',
};

/** What a mend does, as its button says it; null where a person has to decide. */
export function mendInWords({ kind, mend }: Pick<Finding, 'kind' | 'mend'>): string | null {
  if (!mend) return DEEDS[kind] ?? null;
  if (kind === 'seam-jump') return 'Even it out';
  if (kind === 'out-of-range') return 'Move into range';
  if (kind === 'controller-flood') return 'Thin';
  if (kind === 'missing-note') return 'Put it in';
  if (!isByHand(mend)) return 'Mend';
  if (Object.values(mend.change).some(({ pitch }) => pitch !== undefined)) return 'Write the right pitch';
  if (mend.delete.length > 0 || mend.messages) return 'Remove';
  return (mend.curves?.length ?? 0) > 0 ? 'Let go at the end' : 'Shorten';
}
