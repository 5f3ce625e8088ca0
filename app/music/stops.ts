import { listOf } from '@ordle/core';
import type { Part } from '@ordle/core';

/** A stop of the line: as played, one of the steps, or cleaned. */
export interface Stop {
  /** 'played', 'cleaned' or the step's id. */
  id: string;
  /** How many steps have been applied there. */
  index: number;
}

export function stopsOf(part: Part): Stop[] {
  return [
    { id: 'played', index: 0 },
    ...listOf(part.steps).map(({ id }, index) => ({ id, index: index + 1 })),
    { id: 'cleaned', index: part.steps.order.length },
  ];
}

/** The current stop; "cleaned" when the one remembered is gone. */
export function stopAt(part: Part, id: string | undefined): Stop {
  const stops = stopsOf(part);
  return stops.find((stop) => stop.id === id) ?? stops[stops.length - 1];
}
