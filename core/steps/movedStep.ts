import { barsAt, onTheGrid, type Placing } from './placing';
import { kindOf, type Step } from './registry';
import type { NewIds } from './stepKind';
import type { Where } from './where';

/**
 * A step with everything it says of places in time said of where they lie now: what its where names, and what its
 * kind says of itself. One that spoke of bars of which none is left is off.
 */
export function placedStep(step: Step, placing: Placing): Step {
  const moved = kindOf(step.kind).mapTicks(step, placing);
  const where = placedWhere(step.where, placing);
  return where ? { ...moved, where } : { ...moved, on: false };
}

function placedWhere(where: Where, placing: Placing): Where | null {
  const bars = where.bars && barsAt(placing, where.bars);
  if (bars === null) return null;
  const length = where.length?.map((ticks) => Math.round(placing.length(ticks))) as Where['length'];
  return { ...where, ...(bars && { bars }), ...(length && { length }) };
}

/**
 * Steps of one line in their order, each where it lies now: after one that brings the playing to the bars everything
 * lies by them.
 */
export function placedLine<P extends { step: Step }>(line: readonly P[], placing: Placing): P[] {
  let current = placing;
  return line.map((placed) => {
    const { step } = placed;
    const moved = { ...placed, step: placedStep(step, current) };
    if (step.on && kindOf(step.kind).putsOnGrid) current = onTheGrid(placing);
    return moved;
  });
}

/** A step with all notes it speaks of named by the ids they have now. */
export function renamedStep(step: Step, ids: NewIds): Step {
  const renamed = kindOf(step.kind).mapIds(step, ids);
  const { notes } = step.where;
  return notes ? { ...renamed, where: { ...step.where, notes: notes.map((id) => ids.of(id)) } } : renamed;
}

/**
 * Steps of one line in their order with their notes named anew. Where a step makes identities out of others (a
 * layout, for copies), what was made of a former id is known by what is made of the one in its place; `known` are the
 * ids there are before the first step. Also the ids as they are after the last.
 */
export function renamedLine<P extends { step: Step }>(
  line: readonly P[],
  ids: NewIds,
  known: () => Iterable<number>,
): { line: P[]; ids: NewIds } {
  let current = ids;
  const renamed = line.map((placed) => {
    const { step } = placed;
    const now = { ...placed, step: renamedStep(step, current) };
    const { idsMade } = kindOf(step.kind);
    if (idsMade) current = withIdsMade(current, (id) => idsMade(step, id), known);
    return now;
  });
  return { line: renamed, ids: current };
}

/** What was made of ids, found when something is asked that is not one of them. */
function withIdsMade(ids: NewIds, made: (id: number) => number[], known: () => Iterable<number>): NewIds {
  let names: Map<number, number> | null = null;
  const find = () => {
    const found = new Map<number, number>();
    for (const id of known()) {
      const now = made(ids.of(id));
      made(id).forEach((former, at) => found.set(former, now[at]));
    }
    return found;
  };
  return {
    ...ids,
    of(id) {
      const now = ids.of(id);
      if (now !== id) return now;
      names ??= find();
      return names.get(id) ?? id;
    },
  };
}
