import {
  createTimeline,
  noteTableOf,
  notate,
  writeMusicXml,
  microsecondsOf,
  type NotationSettings,
} from '@ordle/core';
import type { WrittenNote } from './human';

const TICKS_PER_QUARTER = 480;

/** Written-out music as a score, in MusicXML. */
export function scoreOfMusic(
  name: string,
  music: readonly WrittenNote[],
  bpm: number,
  [numerator, denominator]: readonly [number, number],
  settings: NotationSettings = {},
): string {
  const timeline = createTimeline(
    { kind: 'metrical', ticksPerQuarter: TICKS_PER_QUARTER },
    [{ tick: 0, microsecondsPerQuarter: microsecondsOf(bpm) }],
    [{ tick: 0, numerator, denominator }],
  );
  const notes = noteTableOf(
    music.map(({ at, length, pitch, velocity }, id) => ({
      id,
      start: at * TICKS_PER_QUARTER,
      end: (at + length) * TICKS_PER_QUARTER,
      pitch,
      velocity,
    })),
  );
  const written = notate({ name, notes, isDrums: false, timeline }, settings);
  return writeMusicXml([written], { title: name });
}
