import { OrdleError, sessionPlanSchema } from '@ordle/core';
import { z } from 'zod';
import { engine } from '@/engine/engineClient';
import { readPreference, writePreference } from '@/storage/preferences';
import { storage } from '@/saving/workspace';

const FOLDER = '/demo';

async function fetchOrFail(path: string): Promise<Response> {
  const answer = await fetch(`${FOLDER}/${path}`).catch(() => null);
  if (!answer?.ok)
    throw new OrdleError(
      'demo-missing',
      `The demo file ${path} could not be loaded. Reload the page; if that does not help, build the app again.`,
    );
  return answer;
}

/** Makes the demo sessions anew from their files; returns the first one's id. */
export async function openDemo(): Promise<string> {
  const plans = z.array(sessionPlanSchema).parse(await (await fetchOrFail('sessions.json')).json());
  let first: string | null = null;
  for (const plan of [...plans].reverse()) {
    const names = [
      ...new Set([plan.lead, ...plan.parts.flatMap((part) => part.layers.flat().map(({ file }) => file))]),
    ];
    const files = await Promise.all(
      names.map(async (name): Promise<[string, Uint8Array]> => [
        name,
        new Uint8Array(await (await fetchOrFail(name)).arrayBuffer()),
      ]),
    );
    const { session } = await engine.buildPlan(plan, files);
    await storage.add(session);
    first = session.id;
  }
  if (first === null) throw new OrdleError('demo-missing', 'The demo holds no session.');
  return first;
}

/**
 * Where the server was started for the demo, the demo is on the shelf from the first visit on; deleting it there is
 * final.
 */
export async function offerDemoOnce(): Promise<boolean> {
  const wanted = document.querySelector('meta[name="ordle-demo"]') !== null;
  if (!wanted || (await readPreference('demo-offered')) === true) return false;
  await writePreference('demo-offered', true);
  if ((await storage.list()).length > 0) return false;
  await openDemo();
  return true;
}
