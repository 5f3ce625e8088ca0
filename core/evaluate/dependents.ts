import { listOf, namedBy, type Part, type Session } from '../session';
import { kindOf } from '../steps';
import { partNamed, partsBeside } from './evaluatePart';

/** A part that needs another, and what for. */
export interface Dependent {
  part: Part;
  why: 'made of' | 'aligned to' | 'held by';
}

/**
 * The parts that would be without something if a part were gone: those that are made of it, those with a step that is
 * aligned to it, and those whose notes are held by the pedals of its channel.
 */
export function dependentsOf(part: Part, session: Session): Dependent[] {
  const beside = new Set(partsBeside(part, session));
  return listOf(session.parts).flatMap((other): Dependent[] => {
    if (other.id === part.id) return [];
    const steps = listOf(other.steps).flatMap(({ step }) => (step.on ? [step] : []));
    const named = steps.map((step) => kindOf(step.kind).reference?.(step));
    const isAligned = named.some((name) => name !== undefined && partNamed(session, name)?.id === part.id);
    const isHeld =
      beside.has(other) && steps.some((step) => kindOf(step.kind).readsChannel?.(step).includes('presses'));
    return [
      ...(namedBy(other).parts.has(part.id) ? [{ part: other, why: 'made of' } as const] : []),
      ...(isAligned ? [{ part: other, why: 'aligned to' } as const] : []),
      ...(isHeld ? [{ part: other, why: 'held by' } as const] : []),
    ];
  });
}
