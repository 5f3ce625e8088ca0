import {
  PLAIN_PRACTICE,
  barNumbered,
  practiceSchedule,
  practiceSettingsSchema,
  type PlaybackPart,
  type PracticeSettings,
  type ScheduledMessage,
  type Session,
  type Timeline,
  ticksToSeconds,
} from '@ordle/core';
import { engine } from '@/engine/engineClient';
import { transport } from '@/sound/transport';
import { createSmallStore } from '@/ui/smallStore';
import { STAND_INS, arrive, letGoInputs } from './inputs';

export interface Practice {
  on: boolean;
  /** The part whose cleaned notes it plays; null for a phrase of its own. */
  partId: string | null;
  settings: PracticeSettings;
}

const KEY = 'ordle-practice';

function kept(): PracticeSettings {
  try {
    return practiceSettingsSchema.parse(JSON.parse(localStorage.getItem(KEY) ?? ''));
  } catch {
    return PLAIN_PRACTICE;
  }
}

const store = createSmallStore<Practice>({ on: false, partId: null, settings: kept() });
export const usePractice = store.useValue;
export const practice = store.get;

export function setPractice(change: Partial<Practice>): void {
  store.set({ ...store.get(), ...change });
  try {
    localStorage.setItem(KEY, JSON.stringify(store.get().settings));
  } catch {
    // Storage refused: it lasts as long as the page.
  }
}

/** How often it looks for what is due; the stamps do not depend on it. */
const TURN_MS = 8;

let schedule: ScheduledMessage[] = [];
let next = 0;
let pass = 0;
let loop: { from: number; to: number } | null = null;
/** Where it plays without any music: the moment it began. */
let free: number | null = null;
let timer: ReturnType<typeof setInterval> | undefined;

/** A phrase of its own, of plain quarters and eighths over eight bars: up and down a scale in thirds. */
function ownPhrase({ meter, tempo, ticksPerQuarter }: Timeline) {
  const steps = [0, 4, 2, 5, 4, 7, 5, 9, 7, 11, 9, 12, 7, 4, 2, 0];
  const second = (tick: number) => ticksToSeconds(tempo, tick);
  const notes: { start: number; end: number; pitch: number; velocity: number }[] = [];
  const end = barNumbered(meter, 9).start;
  for (let tick = 0, at = 0; tick < end; at++) {
    const length = at % 4 === 3 ? ticksPerQuarter : ticksPerQuarter / 2;
    const pitch = 60 + steps[at % steps.length];
    notes.push({
      start: second(tick),
      end: second(tick + length * 0.9),
      pitch,
      velocity: at % 4 === 0 ? 96 : 78,
    });
    tick += length;
  }
  return { notes, messages: [] };
}

/** Which sound is played is set up, not performed. */
const BANKS = [0, 32];

const phraseOf = (heard: PlaybackPart) => ({
  notes: Array.from(heard.noteStart.keys(), (row) => ({
    start: heard.noteStart[row],
    end: heard.noteEnd[row],
    pitch: heard.notePitch[row],
    velocity: heard.noteVelocity[row],
  })),
  messages: Array.from(heard.eventTime.keys(), (row) => ({
    at: heard.eventTime[row],
    status: heard.eventKind[row],
    data1: heard.eventData1[row],
    data2: heard.eventData2[row],
  })).filter(({ status, data1 }) => status !== 0xc0 && !(status === 0xb0 && BANKS.includes(data1))),
});

/** Gets ready what will be played. */
export async function preparePractice(session: Session, timeline: Timeline): Promise<void> {
  const { partId, settings } = store.get();
  const isThere = partId !== null && session.parts.order.includes(partId);
  const heard = isThere
    ? (await engine.playback({ session, stops: {}, blend: 1, partIds: [partId] })).parts[0]
    : null;
  const phrase = heard && heard.noteId.length > 0 ? phraseOf(heard) : ownPhrase(timeline);
  schedule = practiceSchedule(phrase, settings);
}

/**
 * Plays from now on: along with the music where that runs, `inLoop` round and round, else freely. Each message is
 * stamped with the moment its schedule says, to the microsecond, however late this page comes to it.
 */
export function playPractice(
  from: number,
  inLoop: { from: number; to: number } | null,
  isFree: boolean,
): void {
  stopPractice();
  loop = inLoop;
  pass = 0;
  free = isFree ? performance.now() + 300 : null;
  if (isFree) freely.set(true);
  next = schedule.findIndex(({ at }) => at >= (isFree ? 0 : from) - 1e-9);
  if (next < 0) next = schedule.length;
  timer = setInterval(turn, TURN_MS);
}

export function stopPractice(): void {
  clearInterval(timer);
  timer = undefined;
  freely.set(false);
  letGoInputs(STAND_INS.practice.id);
}

const freely = createSmallStore(false);
export const useFreely = freely.useValue;

/** Plays the phrase without any music, at its own tempo; or stops doing so. */
export async function playFreely(session: Session, timeline: Timeline): Promise<void> {
  if (freely.get()) return stopPractice();
  await preparePractice(session, timeline);
  playPractice(0, null, true);
}

function turn(): void {
  if (free === null && !transport.state().playing) return;
  const now = performance.now();
  for (;;) {
    if (loop && (next >= schedule.length || schedule[next].at >= loop.to)) {
      // The pass is over: what it still holds ends with it, and the next begins.
      letGoInputs(STAND_INS.practice.id);
      const { from } = loop;
      pass++;
      next = schedule.findIndex(({ at }) => at >= from - 1e-9);
      if (next < 0) return;
    }
    const due = schedule.at(next);
    if (!due) {
      if (free !== null) stopPractice();
      return;
    }
    const unrolled = loop ? due.at + pass * (loop.to - loop.from) : due.at;
    const stamp = free === null ? transport.pageAt(unrolled) : free + due.at * 1000;
    if (stamp > now) return;
    next++;
    arrive(STAND_INS.practice, [due.status, due.data1, due.data2], stamp);
  }
}
