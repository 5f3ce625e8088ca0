import { createTimeline, type Part, type Session, type Timeline } from '@ordle/core';

/**
 * Documents arrive as fresh copies with every message, while the evaluator remembers by identity. Here equal pieces become the
 * same object again: layers, steps and timelines, found by their content.
 */
export interface Interner {
  part(part: Part): Part;
  timeline(session: Session): Timeline;
}

/** Past this many remembered pieces all are forgotten; only speed is lost. */
const MOST_PIECES = 4000;

export function createInterner(): Interner {
  const pieces = new Map<string, unknown>();
  const timelines = new Map<string, Timeline>();

  function same<T>(value: T): T {
    const key = JSON.stringify(value);
    const known = pieces.get(key);
    if (known !== undefined) return known as T;
    if (pieces.size > MOST_PIECES) pieces.clear();
    pieces.set(key, value);
    return value;
  }

  return {
    part: (part) => ({
      ...part,
      layers: same(part.layers),
      steps: part.steps.map(({ id, step }) => ({ id, step: same(step) })),
    }),
    timeline(session) {
      const key = JSON.stringify([session.division, session.tempos, session.meters]);
      let timeline = timelines.get(key);
      if (!timeline) {
        if (timelines.size > 50) timelines.clear();
        timeline = createTimeline(session.division, session.tempos, session.meters);
        timelines.set(key, timeline);
      }
      return timeline;
    },
  };
}
