import { harmonyOf, type Harmony } from '../analysis';
import { type Evaluation } from '../evaluate';
import { listOf, type Part } from '../session';
import { type Timeline } from '../time';

/**
 * The chords and keys of one part as it is cleaned, or of all pitched parts together, and where the last note ends,
 * in ticks.
 */
export function harmonyOfParts(
  parts: readonly { part: Part; evaluation: Evaluation }[],
  timeline: Timeline,
): Harmony & { endTick: number } {
  const tables = parts
    .filter(({ part }) => !part.sound.drums)
    .map(({ evaluation: { stages } }) => stages[stages.length - 1].notes);
  const endTick = tables.reduce(
    (last, { end }) => end.reduce((latest, each) => Math.max(latest, each), last),
    0,
  );
  return { ...harmonyOf(tables, timeline), endTick };
}

/** The parts whose harmony is meant: one by its id, else all that are not set aside. */
export const partsOfHarmony = (parts: Parameters<typeof listOf<Part>>[0], partId: string | null): Part[] =>
  listOf(parts).filter(({ id, setAside }) => (partId === null ? !setAside : id === partId));
