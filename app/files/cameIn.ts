import type { Repair } from '@ordle/core';
import { createSmallStore } from '@/ui/smallStore';

/** What was repaired in the files that sessions came from, by session, for as long as the page is open. */
const store = createSmallStore<Readonly<Record<string, readonly Repair[]>>>({});

/** Remembers what was repaired on the way in. */
export const rememberRepairs = (sessionId: string, repairs: readonly Repair[]) =>
  store.set({ ...store.get(), [sessionId]: repairs });

const NONE: readonly Repair[] = [];

/** What was repaired in the files of a session that was imported while the page was open. */
export const useRepairs = (sessionId: string): readonly Repair[] => store.useValue()[sessionId] ?? NONE;
