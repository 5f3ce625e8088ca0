import type { InputMapper, Recording, Session, Timeline } from '@ordle/core';
import type { RecordingPlan } from './recordingPlan';
import type { RecordSettings } from './settings';

/** One part that is recorded into. */
export interface Target {
  partId: string;
  name: string;
  recording: Recording;
  /** Names of the inputs it was played on, and how late the first of them is. */
  input: Set<string>;
  latencyMs: number;
  mapper: InputMapper;
  /** What came since it was last stored: second of the music, and the message. */
  fresh: number[][];
}

/** What is being recorded. */
export interface Take {
  id: string;
  session: Session;
  timeline: Timeline;
  plan: RecordingPlan;
  settings: RecordSettings;
  targets: readonly Target[];
  /** When the first note was played that it begins with, and the keys that went down before the music was heard. */
  firstNote: { stamp: number; down: Set<number> } | null;
  /** Passes a person threw back meanwhile. */
  thrown: Set<number>;
  slips: number;
}
