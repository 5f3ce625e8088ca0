import { activePart, sentenceOf } from '@ordle/core';
import { toast } from 'sonner';
import { store } from '@/state/store';
import { otherViewsStore } from '@/music/otherViews';
import { partViewStore } from '@/music/partViewStore';
import { selectionStore } from '@/state/selection';
import { stopAt } from '@/music/stops';

/**
 * Actions that wait at most: a key held down on a part that takes long to work out must not go on for long after it
 * is let go.
 */
const MOST_WAITING = 12;

interface Turn {
  action(): Promise<void> | void;
  /** It was done, and is shown. */
  shown(): void;
}

const waiting: Turn[] = [];
let running = false;

/** Whether the view shows the active part as it is in the document now, or there is nothing to wait for. */
function isFresh(): boolean {
  const { session: opened, view: bench } = store.getState();
  if (!otherViewsStore.areFresh(selectionStore.get().others.keys())) return false;
  const part = opened.work ? activePart(opened.work.document, bench.partId) : undefined;
  if (part === undefined) return true;
  const { asOf, view } = partViewStore.get();
  return asOf === part && (view === null || view.stop === stopAt(part, bench.stops[part.id]).index);
}

function whenFresh(): Promise<void> {
  return new Promise((resolve) => {
    const check = () => {
      if (!isFresh()) return;
      stopView();
      stopOthers();
      stopStore();
      resolve();
    };
    const stopView = partViewStore.subscribe(check);
    const stopOthers = otherViewsStore.subscribe(check);
    const stopStore = store.subscribe(check);
  });
}

async function tellOnceFresh({ shown }: Turn) {
  if (!isFresh()) await whenFresh();
  shown();
}

async function runAll() {
  running = true;
  try {
    while (waiting.length > 0) {
      if (!isFresh()) await whenFresh();
      const turn = waiting.shift();
      try {
        await turn?.action();
      } catch (error) {
        // It must not strand those behind it.
        toast(sentenceOf(error));
      }
      if (turn) void tellOnceFresh(turn);
    }
  } finally {
    running = false;
  }
}

/**
 * Does something to the notes that are shown, at once when they are as the document has them, else as soon as they
 * are: two presses of a key, however quick, are two moves. What is done reads the view when its turn comes. The
 * promise is kept once the outcome is shown, or there is none.
 */
export function inTurn(action: () => Promise<void> | void): Promise<void> {
  if (waiting.length >= MOST_WAITING) return Promise.resolve();
  return new Promise((shown) => {
    waiting.push({ action, shown });
    if (!running) void runAll();
  });
}
