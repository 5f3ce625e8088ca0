import { normalSource, randomSource } from './random';

/** A note as written: beats (quarters) from the start, length in beats, pitch, velocity. */
export interface WrittenNote {
  at: number;
  length: number;
  pitch: number;
  velocity: number;
}

/** A note as played: seconds. */
export interface PlayedNote {
  start: number;
  end: number;
  pitch: number;
  velocity: number;
  /** Only there where it is true: it was not meant. */
  isDouble?: boolean;
}

/** What is human about a performance. Times in milliseconds, chances 0-1. */
export interface Faults {
  seed: number;
  /** Slow wandering of the timing: deviation of a first-order random walk that returns to the beat. */
  driftMs?: number;
  /** Scatter from note to note. */
  scatterMs?: number;
  /** Always late (above 0) or early by this. */
  dragMs?: number;
  /** Notes written together are spread upward over about this. */
  rollMs?: number;
  /** Scatter of velocities. */
  velocity?: number;
  /** Chance that a note is left out. */
  miss?: number;
  /** Chance that a note is struck twice, the second time softly. */
  doubleStrike?: number;
  /** How soon the second stroke comes, from and to, in ms. */
  doubleMs?: [number, number];
  /** The tempo itself breathes: seconds per beat vary slowly by this fraction (for playing with no click). */
  rubato?: number;
}

/** Plays written notes as a person might, at a tempo, the same way each time for the same seed. */
export function perform(written: readonly WrittenNote[], bpm: number, faults: Faults): PlayedNote[] {
  const random = randomSource(faults.seed);
  const normal = normalSource(random);
  const clock = beatClock(bpm, faults.rubato ?? 0, normal);
  const played: PlayedNote[] = [];
  let wander = 0;
  let previous = -1;
  let rolled = 0;
  const ordered = [...written].sort((a, b) => a.at - b.at || a.pitch - b.pitch);
  for (const note of ordered) {
    rolled = note.at === previous ? rolled + 1 : 0;
    if (note.at !== previous)
      wander = wander * 0.94 + normal() * (faults.driftMs ?? 0) * Math.sqrt(1 - 0.94 ** 2);
    previous = note.at;
    const late =
      wander +
      (faults.dragMs ?? 0) +
      normal() * (faults.scatterMs ?? 0) +
      rolled * (faults.rollMs ?? 0) * (0.7 + 0.6 * random());
    const start = Math.max(0, clock(note.at) + late / 1000);
    const length = (clock(note.at + note.length) - clock(note.at)) * (0.86 + 0.1 * random());
    const velocity = Math.round(
      Math.min(127, Math.max(1, note.velocity + normal() * (faults.velocity ?? 0))),
    );
    const missed = random() < (faults.miss ?? 0);
    const doubled = random() < (faults.doubleStrike ?? 0);
    if (missed) continue;
    const end = start + Math.max(0.03, length);
    if (doubled) {
      const [soon, late] = faults.doubleMs ?? [12, 30];
      const again = start + (soon + (late - soon) * random()) / 1000;
      played.push({ start, end: again - 0.005, pitch: note.pitch, velocity });
      played.push({
        start: again,
        end: Math.max(end, again + 0.03),
        pitch: note.pitch,
        velocity: Math.max(1, Math.round(velocity * 0.4)),
        isDouble: true,
      });
    } else played.push({ start, end, pitch: note.pitch, velocity });
  }
  return played.sort((a, b) => a.start - b.start || a.pitch - b.pitch);
}

/** Beats -> seconds; with rubato the length of a beat wanders between beats. */
function beatClock(bpm: number, rubato: number, normal: () => number): (beat: number) => number {
  const beat = 60 / bpm;
  if (rubato === 0) return (at) => at * beat;
  const seconds = [0];
  let stretch = 0;
  for (let index = 0; index < 400; index++) {
    stretch = stretch * 0.8 + normal() * rubato * 0.6;
    seconds.push(seconds[index] + beat * (1 + stretch));
  }
  return (at) => {
    const whole = Math.floor(at);
    return seconds[whole] + (seconds[whole + 1] - seconds[whole]) * (at - whole);
  };
}
