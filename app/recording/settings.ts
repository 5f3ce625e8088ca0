import { RECORD_MODES } from '@ordle/core';
import { z } from 'zod';
import { createSmallStore } from '@/ui/smallStore';

/** When the click is heard. */
export const CLICK_WHEN = ['never', 'counting', 'recording', 'both'] as const;

const settingsSchema = z.object({
  mode: z.enum(RECORD_MODES).catch('take'),
  /** For controllers alone: the lanes that count; null for all that move. */
  lanes: z.array(z.string()).nullable().catch(null),
  /** Bars. */
  countIn: z.int().min(0).max(4).catch(1),
  preRoll: z.int().min(0).max(4).catch(1),
  /** It begins when the first note is played. */
  atFirstNote: z.boolean().catch(false),
  clickWhen: z.enum(CLICK_WHEN).catch('both'),
  clickLevel: z.number().min(0.1).max(2).catch(1),
  accent: z.boolean().catch(true),
  /** Clicks a beat. */
  perBeat: z.int().min(1).max(4).catch(1),
  /** Percent of the session's tempo. */
  speed: z.int().min(25).max(100).catch(100),
  /** The grid what is played is seen and heard on; null for as it is played. */
  grid: z.string().nullable().catch(null),
  /** Ms each input is late, by its id. */
  latency: z.record(z.string(), z.number().min(-1000).max(1000)).catch({}),
  /** Id of the device it sounds on; null for the built-in sound. */
  output: z.string().nullable().catch(null),
  /** Octave and velocity of the computer's keys. */
  octave: z.int().min(0).max(8).catch(4),
  velocity: z.int().min(1).max(127).catch(90),
});

export type RecordSettings = z.infer<typeof settingsSchema>;

const KEY = 'ordle-record';

function kept(): RecordSettings {
  let found: unknown = {};
  try {
    found = JSON.parse(localStorage.getItem(KEY) ?? '{}');
  } catch {
    // Storage refused, or nothing that can be read: as it is at first.
  }
  return settingsSchema.parse(typeof found === 'object' && found !== null ? found : {});
}

const store = createSmallStore<RecordSettings>(kept());
export const useRecordSettings = store.useValue;
export const recordSettings = store.get;

/** Changes how is recorded, kept in this browser. */
export function setRecordSettings(change: Partial<RecordSettings>): void {
  store.set({ ...store.get(), ...change });
  try {
    localStorage.setItem(KEY, JSON.stringify(store.get()));
  } catch {
    // Storage refused: it lasts as long as the page.
  }
}

/**
 * What is recorded of two places of a session, beside the document: a stretch to punch in, and other parts that are
 * armed.
 */
export interface RecordingPlace {
  punch: { on: boolean; from: number; to: number };
  also: readonly string[];
}

const place = createSmallStore<RecordingPlace>({ punch: { on: false, from: 0, to: 0 }, also: [] });
export const useRecordingPlace = place.useValue;
export const recordingPlace = place.get;
export const setRecordingPlace = (change: Partial<RecordingPlace>): void =>
  place.set({ ...place.get(), ...change });
