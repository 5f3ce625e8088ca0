import { createEventBuilder, nextPart, orderedOf, writeMidi } from '@ordle/core';
import { engine } from '@/engine/engineClient';
import { storage } from '@/saving/workspace';

/** Ticks a quarter of a session that begins with nothing. */
const DIVISION = 480;

/** Makes a session of one part with nothing in it, at 120 bpm in 4/4; gives its id. */
export async function newSession(): Promise<string> {
  const empty = { events: createEventBuilder().build(), endTick: 0 };
  const division = { kind: 'metrical' as const, ticksPerQuarter: DIVISION };
  const bytes = writeMidi({ format: 1, division, tracks: [empty] });
  const { session } = await engine.importFile('New session', bytes);
  await storage.add({ ...session, parts: orderedOf([nextPart(session, crypto.randomUUID())]) });
  return session.id;
}
