import { latenessStrip, type LatenessStrip } from '../analysis';
import type { Timeline } from '../time';
import type { Read } from './partReadings';
import { lateAt } from './rulers';

/** Stretches of the picture. */
const BINS = 40;

/**
 * How late and early a whole session is along its length as it is cleaned, in ms, over all parts that are not set
 * aside.
 */
export function timingPictureOf(read: readonly Read[], timeline: Timeline): LatenessStrip {
  const parts = read
    .filter(({ part }) => !part.setAside)
    .map(({ part, evaluation }) => {
      const last = evaluation.stages.length - 1;
      const { start } = evaluation.stages[last].notes;
      return { start, late: lateAt({ part, evaluation, stop: last, shown: '1/16', timeline }) };
    });
  const end = Math.max(
    1,
    ...parts.map(({ start }) => (start.length === 0 ? 0 : start[start.length - 1] + 1)),
  );
  const strips = parts.map(({ start, late }) => latenessStrip(start, late, end, BINS));
  const most = (side: keyof LatenessStrip) =>
    Float32Array.from({ length: BINS }, (_, bin) => Math.max(0, ...strips.map((strip) => strip[side][bin])));
  return { late: most('late'), early: most('early') };
}
