import type { CurveEdit } from '@ordle/core';

/** Milliseconds between two states of a gesture that are worked out to be heard. */
const REST_MS = 90;

/**
 * Lets a gesture be heard while it goes on. Each state takes the place of the one before, under one name; without
 * music nothing is written before the gesture ends.
 */
export function createLive(events: {
  onEdit(label: string, edits: CurveEdit[], gesture: string | null): void;
  onAbandon(gesture: string): void;
}) {
  let name: string | null = null;
  let written = false;
  let last = -Infinity;
  return {
    begin() {
      name = crypto.randomUUID();
      written = false;
    },
    show(playing: boolean, label: string, make: () => CurveEdit[]) {
      const now = performance.now();
      if (!playing || name === null || now - last < REST_MS) return;
      last = now;
      written = true;
      events.onEdit(label, make(), name);
    },
    end(label: string, edits: CurveEdit[]) {
      events.onEdit(label, edits, written ? name : null);
      name = null;
    },
    abandon() {
      if (written && name !== null) events.onAbandon(name);
      name = null;
    },
  };
}
