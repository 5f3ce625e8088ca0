import { listOf, withSteps, withSuggested, type Cleaning } from '@ordle/core';
import { engine } from '@/engine/engineClient';
import { change, type Work } from '@/history/history';
import { counted } from '@/words/counts';
import { putTime } from './timeActions';

/**
 * A session cleaned as one action of its history: what is suggested for it, under the beats that were found where it
 * was played freely, then some steps on every part that is not set aside. The very work where there is nothing to do.
 */
export async function cleanedWork(work: Work, cleaning: Cleaning, recipe: string | null): Promise<Work> {
  const { document: session } = work;
  const newId = () => crypto.randomUUID();
  let next = session;
  const labels: string[] = [];
  if (cleaning.suggested) {
    const { recordings, parts } = await engine.suggestion({ session, said: {} });
    const found = recordings.length === 1 ? (recordings[0].beats?.found ?? null) : null;
    const chosen = new Map(parts.map(({ partId, steps }) => [partId, steps]));
    next = withSuggested(session, found, chosen, newId);
    const count = parts.filter(({ steps }) => steps.length > 0).length;
    if (found) labels.push('Clean up, under the found tempo');
    else if (count > 0) labels.push(`Clean up ${counted(count, 'part')}`);
  }
  if (cleaning.steps.length > 0) {
    next = withSteps(next, cleaning.steps, newId);
    const parts = listOf(session.parts).filter(({ setAside }) => !setAside).length;
    labels.push(`Apply ${recipe || 'recipe'} to ${counted(parts, 'part')}`);
  }
  if (labels.length === 0) return work;
  const label = labels.map((each, at) => (at === 0 ? each : each.toLowerCase())).join(', ');
  return change(work, label, (draft) => putTime(draft, session, next));
}
