import { readPreference, writePreference } from './preferences';
import type { Storage } from './createStorage';

/** Looking through everything stored for what nothing needs any more takes a while; once a day is enough. */
const TIDY_EVERY_MS = 24 * 60 * 60 * 1000;

/** Lets go of what nothing can bring back, at most once a day. Failing costs nothing but room. */
export async function tidyNowAndThen(storage: Storage, now = Date.now()): Promise<void> {
  const last = await readPreference('tidied-at');
  if (typeof last === 'number' && now - last < TIDY_EVERY_MS) return;
  const dropped = await storage.tidy().catch(() => null);
  // Something was open: the next visit tries again.
  if (dropped !== null) await writePreference('tidied-at', now);
}

/** Bytes in use and at hand, where the browser tells. */
export async function storageUse(): Promise<{ used: number; quota: number } | null> {
  const estimate = await navigator.storage?.estimate?.().catch(() => null);
  return estimate ? { used: estimate.usage ?? 0, quota: estimate.quota ?? 0 } : null;
}

let hasAsked = false;

/**
 * Asks the browser, once, to keep what is stored here even where it runs short of room. Nothing waits for the answer:
 * not every browser gives one.
 */
export async function askToKeep(): Promise<void> {
  if (hasAsked) return;
  hasAsked = true;
  if ((await readPreference('asked-to-keep')) === true) return;
  await writePreference('asked-to-keep', true);
  void navigator.storage?.persist?.().catch(() => undefined);
}
