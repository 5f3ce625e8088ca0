import {
  activePart,
  createInputMapper,
  createRecording,
  isNoteOff,
  isNoteOn,
  itemOf,
  PLAIN_INPUT_MAP,
  secondsToTicks,
  ticksToSeconds,
  timelineOf,
  type ChannelMessage,
  type Session,
  type Timeline,
} from '@ordle/core';
import { toast } from 'sonner';
import { setScoreHeld } from '@/playback/heldScore';
import { transport } from '@/sound/transport';
import { selectDocument, selectMayWrite } from '@/state/sessionSlice';
import { store } from '@/state/store';
import { createSmallStore } from '@/ui/smallStore';
import { beginWork } from '@/ui/underWay';
import { appendBrokenOff, dropBrokenOff, rowOf, type Running } from './brokenOff';
import { countInOf, scoreToRecord, scoreWithLayers } from './clicks';
import { letGoInputs, onArrival, type InputSource } from './inputs';
import type { Take, Target } from './takeUnderWay';
import { planOf, refusalOf, type RecordingPlan } from './recordingPlan';
import { putRecordings, type Finished, type PutIn } from './putRecording';
import { recordSettings, recordingPlace, type RecordSettings } from './settings';

export type Phase = 'ready' | 'waiting' | 'starting' | 'counting' | 'recording' | 'saving';

/** Notes this much before the beginning still count: the first beat is often struck early. Seconds of the music. */
const EARLY_SECONDS = 0.35;
/** A punched recording goes on so long after its range, so that what rings over its end is there. Seconds. */
const AFTER_PUNCH_SECONDS = 1;

const phase = createSmallStore<Phase>('ready');
const lastPut = createSmallStore<PutIn | null>(null);
let current: Take | null = null;
let endOfWork: (() => void) | null = null;
phase.subscribe(() => {
  if (phase.get() !== 'ready') endOfWork ??= beginWork('the recording');
  else {
    endOfWork?.();
    endOfWork = null;
  }
});
/** The last second of the music that was told, for when it was stopped by something else. */
let lastSecond = 0;

export const usePhase = phase.useValue;
export const useLastPut = lastPut.useValue;
/** Shows what was made of what was played, until it is forgotten. */
export const showPut: (put: PutIn) => void = lastPut.set;
export const forgetLastPut = () => lastPut.set(null);
/** What is being recorded; null while nothing is. */
export const currentTake = (): Take | null => current;

function targetsOf(
  session: Session,
  timeline: Timeline,
  plan: RecordingPlan,
  settings: RecordSettings,
): Target[] {
  const active = activePart(session, store.getState().view.partId);
  const ids = [...new Set([...(active ? [active.id] : []), ...recordingPlace().also])];
  const { from, loop, punch } = plan;
  return ids.flatMap((id): Target[] => {
    const part = itemOf(session.parts, id);
    if (!part || part.setAside) return [];
    const recording = createRecording(session, timeline, { from, loop, punch, speed: settings.speed / 100 });
    const mapper = createInputMapper(part.input ?? PLAIN_INPUT_MAP, part.channel - 1);
    return [{ partId: id, name: part.name, recording, input: new Set(), latencyMs: 0, mapper, fresh: [] }];
  });
}

/** Ms an input is late, which is taken off its stamps. */
export const latencyOf = (source: string): number => recordSettings().latency[source] ?? 0;

/** Begins to record: at once or after counting in, or with the first note. */
export async function startRecording(): Promise<void> {
  const state = store.getState();
  const session = selectDocument(state);
  if (!session || phase.get() !== 'ready') return;
  const active = activePart(session, state.view.partId) ?? null;
  const refusal = refusalOf(active, selectMayWrite(state));
  if (refusal) {
    toast(refusal, { duration: 8000 });
    return;
  }
  transport.stop();
  const settings = recordSettings();
  const timeline = timelineOf(session);
  const plan = planOf(timeline, state.view.loop, secondsToTicks(timeline.tempo, transport.second()));
  const targets = targetsOf(session, timeline, plan, settings);
  current = {
    id: crypto.randomUUID(),
    session,
    timeline,
    plan,
    settings,
    targets,
    firstNote: null,
    thrown: new Set(),
    slips: transport.slips(),
  };
  lastPut.set(null);
  if (settings.atFirstNote) {
    void transport.warm();
    phase.set('waiting');
    return;
  }
  await begin(current, settings.countIn);
}

async function begin(take: Take, countIn: number): Promise<void> {
  const { timeline, plan, settings } = take;
  phase.set('starting');
  lastSecond = -Infinity;
  setScoreHeld(true);
  const second = ticksToSeconds(timeline.tempo, plan.start);
  const range = plan.loop && {
    from: ticksToSeconds(timeline.tempo, plan.loop.from),
    to: ticksToSeconds(timeline.tempo, plan.loop.to),
  };
  transport.setRate(settings.speed / 100);
  transport.setLoop(range);
  try {
    await transport.play(async () => ({
      score: await scoreToRecord(take),
      second,
      loop: range,
      click: settings.clickWhen === 'never' ? 0 : settings.clickLevel,
      countIn: countIn > 0 ? countInOf(timeline, plan.start, countIn, settings) : null,
    }));
    if (current !== take) return;
    phase.set(transport.state().counting ? 'counting' : 'recording');
  } catch {
    toast(transport.state().message ?? 'Sound could not be started, so nothing is recorded.', {
      duration: 8000,
    });
    end();
  }
}

function end(): void {
  current = null;
  setScoreHeld(false);
  phase.set('ready');
}

/** Stops recording and puts what was played into its parts. */
export async function stopRecording(): Promise<void> {
  const take = current;
  if (!take || phase.get() === 'saving') return;
  const { tempo } = take.timeline;
  const music = transport.musicAt(performance.now()) ?? Math.max(lastSecond, 0);
  const wasRecording = phase.get() === 'recording';
  letGoInputs();
  phase.set('saving');
  transport.stop();
  // From where it began it can be heard, or played again.
  transport.locate(ticksToSeconds(tempo, take.plan.start));
  if (!wasRecording) return end();
  // The last of it, too, is there if it cannot be put in now.
  await appendBrokenOff(runningOf(take, music));
  const finished = take.targets
    .filter(({ recording }) => recording.open.length() > 0)
    .map(({ partId, recording, input, latencyMs }): Finished => {
      return {
        partId,
        recording,
        end: Math.max(music, ticksToSeconds(tempo, take.plan.from)),
        mode: take.settings.mode,
        lanes: take.settings.lanes,
        input: [...input].join(', ').slice(0, 200),
        latencyMs,
        slips: transport.slips() - take.slips,
        thrown: take.thrown,
        grid:
          take.settings.mode === 'controllers' || take.settings.mode === 'controller'
            ? null
            : take.settings.grid,
      };
    });
  const put = await putRecordings(store.dispatch, take.session, finished);
  if (put || finished.length === 0) void dropBrokenOff(take.id);
  if (!put && finished.length === 0) toast('Nothing was played, so nothing was recorded.');
  if (put && transport.slips() > take.slips)
    toast(
      'The sound broke off while recording, so some places may be off by that much. It is noted on the take.',
      {
        duration: 10_000,
      },
    );
  lastPut.set(put);
  end();
}

/** Starts, or stops, recording. */
export const toggleRecording = (): Promise<void> => (current ? stopRecording() : startRecording());

/** A message for one of the parts: heard, and recorded where it falls into the recording. */
function take(target: Target, message: ChannelMessage, second: number | null): void {
  const own = current;
  if (!own || second === null || phase.get() === 'saving') return;
  const start = ticksToSeconds(own.timeline.tempo, own.plan.from);
  if (second < start - EARLY_SECONDS) return;
  target.recording.add(second, message);
  target.fresh.push(rowOf(second, message));
  lastSecond = Math.max(lastSecond, second);
}

/**
 * The second a message stands at. Where the music begins with the first note it is heard a moment later: until then
 * what is played goes by its own time from that note on, and so do the releases of keys that were struck before.
 */
function secondOf(own: Take, message: ChannelMessage & { stamp: number }, latency: number): number | null {
  const second = transport.musicAt(message.stamp - latency);
  const start = ticksToSeconds(own.timeline.tempo, own.plan.from);
  const { firstNote } = own;
  if (!firstNote) return second;
  const isBefore = second === null || second < start;
  const isHeldFromBefore = isNoteOff(message) && firstNote.down.delete(message.data1);
  if (isNoteOn(message) && isBefore) firstNote.down.add(message.data1);
  if (!isBefore && !isHeldFromBefore) return second;
  return start + ((message.stamp - firstNote.stamp) / 1000) * (own.settings.speed / 100);
}

function receive(source: InputSource, stamped: ChannelMessage & { stamp: number }): void {
  const own = current;
  if (!own) return;
  const isFirst = phase.get() === 'waiting' && isNoteOn(stamped);
  if (isFirst) own.firstNote = { stamp: stamped.stamp, down: new Set() };
  const second = phase.get() === 'waiting' && !isFirst ? null : secondOf(own, stamped, latencyOf(source.id));
  for (const target of own.targets) {
    const wanted = itemOf(own.session.parts, target.partId)?.input?.source ?? null;
    if (wanted !== null && wanted !== source.id) continue;
    const mapped = target.mapper.map(stamped);
    if (!mapped) continue;
    if (target.input.size === 0) target.latencyMs = latencyOf(source.id);
    target.input.add(source.name);
    take(target, mapped, second);
  }
  if (isFirst) void begin(own, 0);
}

let isOn = false;

/** Listens for what is played and for the music, once. */
export function watchRecorder(): void {
  if (isOn) return;
  isOn = true;
  onArrival(receive);
  transport.subscribe(() => {
    const { playing, counting, starting } = transport.state();
    if (phase.get() === 'counting' && playing && !counting) phase.set('recording');
    // Stopped by whatever else stops the music.
    if ((phase.get() === 'recording' || phase.get() === 'counting') && !playing && !starting)
      void stopRecording();
  });
  setInterval(() => {
    if (!current || phase.get() !== 'recording') return;
    const second = transport.musicAt(performance.now());
    if (second === null) return;
    lastSecond = second;
    const { punch } = current.plan;
    const over = punch ? ticksToSeconds(current.timeline.tempo, punch.to) + AFTER_PUNCH_SECONDS : Infinity;
    if (second > over) return void stopRecording();
    const layered = scoreWithLayers(current);
    if (layered) transport.setScore(layered);
    void appendBrokenOff(runningOf(current, second));
  }, 250);
}

/** What is stored of a recording: where it lies, and what came since the last time. */
function runningOf({ id, session, plan, settings, targets }: Take, second: number): Running {
  return {
    id,
    session: session.id,
    from: plan.from,
    loop: plan.loop,
    punch: plan.punch,
    mode: settings.mode,
    lanes: settings.lanes,
    speed: settings.speed / 100,
    second,
    parts: targets.map((target) => ({
      partId: target.partId,
      name: target.name,
      rows: target.fresh.splice(0),
    })),
  };
}
