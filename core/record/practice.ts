import { z } from 'zod';
import { normalOf, chanceOf } from '../steps';
import type { ChannelMessage } from './message';

/** How a practice player plays: what a human player might do wrong, dialled in. */
export const practiceSettingsSchema = z.strictObject({
  seed: z.int().min(0).max(1_000_000),
  /** Ms late on the whole (negative: early), and the deviation about that. */
  bias: z.number().min(-200).max(200),
  spread: z.number().min(0).max(100),
  /** Ms it falls behind more and more in a minute of music. */
  drift: z.number().min(-500).max(500),
  /** Of a hundred notes. */
  wrong: z.number().min(0).max(100),
  missed: z.number().min(0).max(100),
  doubled: z.number().min(0).max(100),
  /** Deviation of velocities. */
  unevenness: z.number().min(0).max(40),
  /** Ms the pedal goes down later than it is written. */
  latePedal: z.number().min(0).max(500),
  /** Percent of the written tempo. */
  tempo: z.number().min(25).max(200),
});

export type PracticeSettings = z.infer<typeof practiceSettingsSchema>;

export const PLAIN_PRACTICE: PracticeSettings = {
  seed: 1,
  bias: 12,
  spread: 15,
  drift: 0,
  wrong: 2,
  missed: 2,
  doubled: 1,
  unevenness: 8,
  latePedal: 0,
  tempo: 100,
};

/** What is written: notes, and other channel messages, in seconds. */
export interface WrittenPhrase {
  notes: readonly { start: number; end: number; pitch: number; velocity: number }[];
  messages: readonly (ChannelMessage & { at: number })[];
}

/** A message of the schedule, at a second of the music. */
export interface ScheduledMessage extends ChannelMessage {
  at: number;
}

const DEVIATIONS = 3;
const DOUBLED_AFTER = 0.045;
const LATE_STREAM = 0;
const VELOCITY_STREAM = 1;
const [WRONG, MISSED, DOUBLED] = [11, 12, 13];

/**
 * What a practice player will play of a phrase, in order: every stroke where it is written but for its faults, which
 * depend on the seed and the note alone. Nothing comes before second 0.
 */
export function practiceSchedule(phrase: WrittenPhrase, settings: PracticeSettings): ScheduledMessage[] {
  const { seed, bias, spread, drift, unevenness, latePedal } = settings;
  const stretch = 100 / settings.tempo;
  const late = (at: number) => (bias + (drift * at) / 60) / 1000;
  const falls = (row: number, stream: number, share: number) => chanceOf(seed, row, stream) * 100 < share;
  const made: ScheduledMessage[] = [];
  phrase.notes.forEach(({ start, end, pitch, velocity }, row) => {
    if (falls(row, MISSED, settings.missed)) return;
    const moved = late(start) + (normalOf(seed, row, LATE_STREAM, DEVIATIONS) * spread) / 1000;
    const [from, to] = [Math.max(0, start * stretch + moved), Math.max(0, end * stretch + moved)];
    const side = chanceOf(seed, row, WRONG + 20) < 0.5 ? -1 : 1;
    const data1 = Math.min(127, Math.max(0, falls(row, WRONG, settings.wrong) ? pitch + side : pitch));
    const struck = velocity + normalOf(seed, row, VELOCITY_STREAM, DEVIATIONS) * unevenness;
    const data2 = Math.min(127, Math.max(1, Math.round(struck)));
    const stroke = (at: number, until: number) =>
      made.push({ at, status: 0x90, data1, data2 }, { at: until, status: 0x80, data1, data2: 64 });
    if (falls(row, DOUBLED, settings.doubled) && to - from > 2 * DOUBLED_AFTER) {
      stroke(from, from + DOUBLED_AFTER / 2);
      stroke(from + DOUBLED_AFTER, to);
    } else stroke(from, Math.max(to, from + 0.01));
  });
  for (const { at, status, data1, data2 } of phrase.messages) {
    const isDown = status >> 4 === 0xb && data1 === 64 && data2 >= 64;
    made.push({
      at: Math.max(0, at * stretch + late(at) + (isDown ? latePedal / 1000 : 0)),
      status,
      data1,
      data2,
    });
  }
  // Of what falls together releases come first.
  const rank = ({ status }: ScheduledMessage) => (status === 0x80 ? 0 : status === 0x90 ? 2 : 1);
  return made.sort((a, b) => a.at - b.at || rank(a) - rank(b));
}
