import { createEvaluator } from '../evaluate';
import { readMidi, writeMidi } from '../midi';
import type { Take } from '../model';
import { orderedOf, sessionOfFile, type Part, type Session } from '../session';
import type { EditTable, Step } from '../steps';
import type { Division } from '../time';
import { trackOf, type RawEvent } from './files';

export const METRICAL: Division = { kind: 'metrical', ticksPerQuarter: 480 };

/**
 * Tracks of raw events opened as a session, with the way to its takes (to which more can be added) and an evaluator
 * over them.
 */
export function opened(
  tracks: RawEvent[][],
  {
    division = METRICAL,
    tables,
  }: { division?: Division; tables?: (key: string) => EditTable | undefined } = {},
) {
  let next = 0;
  const format = tracks.length === 1 ? 0 : 1;
  const { file } = readMidi(writeMidi({ format, division, tracks: tracks.map((track) => trackOf(track)) }));
  const { session, takes } = sessionOfFile(file, 'Quay', () => `id${next++}`, 0);
  const byKey = new Map(takes.map((take): [string, Take] => [take.key, take]));
  const takeOf = (key: string) => byKey.get(key) as Take;
  return { file, session, takes, byKey, takeOf, evaluator: createEvaluator(takeOf, tables) };
}

/** The two events of a note on the first channel. */
export const note = (start: number, end: number, pitch: number, velocity = 90): RawEvent[] => [
  [start, 0x90, pitch, velocity],
  [end, 0x80, pitch, 64],
];

/** The name of a track. */
export const named = (name: string): RawEvent => [0, 0xff, 3, 0, [...Buffer.from(name)]];

export const tempo = (microseconds: number, tick = 0): RawEvent => [
  tick,
  0xff,
  0x51,
  0,
  [microseconds >> 16, (microseconds >> 8) & 255, microseconds & 255],
];

export const withSteps = (part: Part, steps: readonly Step[]): Part => ({
  ...part,
  steps: orderedOf(steps.map((step, index) => ({ id: `s${index}`, step }))),
});

/** A session with a part in place of the one of its id. */
export const put = (session: Session, part: Part): Session => ({
  ...session,
  parts: { ...session.parts, byId: { ...session.parts.byId, [part.id]: part } },
});
