/**
 * What one tick of a file means. Metrical: so many ticks to a quarter note, whose duration the tempo map
 * gives. SMPTE: so many ticks to a film frame, so a tick has a fixed duration whatever the tempo.
 */
export type Division =
  | { kind: 'metrical'; ticksPerQuarter: number }
  | { kind: 'smpte'; framesPerSecond: number; ticksPerFrame: number };

/** 120 bpm: the tempo of a file that names none (Standard MIDI Files 1.0, RP-001). */
export const DEFAULT_MICROSECONDS_PER_QUARTER = 500000;

/**
 * Frames in one second. The file's code 29 stands for 30 drop-frame, which runs at 30000/1001 frames a second
 * (SMPTE 12M); the other codes are the rate itself.
 */
export function frameRate(framesPerSecond: number): number {
  return framesPerSecond === 29 ? 30000 / 1001 : framesPerSecond;
}

/**
 * Ticks in a quarter note. An SMPTE division has no quarter note of its own; it gets the one of the first
 * tempo in force, so that a grid can still be laid over film-timed material.
 */
export function ticksPerQuarter(division: Division, firstMicrosecondsPerQuarter: number): number {
  if (division.kind === 'metrical') return division.ticksPerQuarter;
  const ticksPerSecond = frameRate(division.framesPerSecond) * division.ticksPerFrame;
  return (ticksPerSecond * firstMicrosecondsPerQuarter) / 1e6;
}
