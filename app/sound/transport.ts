import { OrdleError } from '@ordle/core';
import { loadBank } from './bank';
import { createHeardClock } from './heardClock';
import type { FromSynth, ToSynth } from './messages';
import { createPageClock } from './pageClock';
import type { CountIn, Score } from '@ordle/sound';
import type { LiveMessage } from '@ordle/sound';
import { beginWork } from '@/ui/underWay';
import workletUrl from './synth.worklet.ts?worker&url';

/** Milliseconds the audio clock may stand before it counts as one that never starts. */
const STANDSTILL_MS = 1500;

export const NO_SOUND =
  'This browser gives no sound here: no sound device answers. The play line moves without it.';

/** What the page knows of the playing. Seconds from the start of the music. */
export interface TransportState {
  state: 'idle' | 'loading' | 'ready' | 'failed';
  /** What is wrong with the sound; null while nothing is. */
  message: string | null;
  playing: boolean;
  /** Playing was asked for and is being got ready. */
  starting: boolean;
  /** The clicks before the music are heard. */
  counting: boolean;
}

/** What is to be played, from where and how. */
export interface PlayRequest {
  score: Score;
  second: number;
  loop: { from: number; to: number } | null;
  /** How loud the click is; 0 for none. */
  click: number;
  countIn?: CountIn | null;
}

let context: AudioContext | null = null;
let node: AudioWorkletNode | null = null;
let ready: Promise<void> | null = null;
let loading: Promise<void> | null = null;
let status: TransportState = {
  state: 'idle',
  message: null,
  playing: false,
  starting: false,
  counting: false,
};
/**
 * Where the music was at a time of the audio clock; `unrolled` counts on through loops and is below the start while
 * counting in.
 */
let known = { second: 0, unrolled: 0, time: 0 };
/** Seconds of music in a second. */
let rate = 1;
/** The audio clock by the page's; and where no audio clock runs, where the music was at a moment of the page's (ms). */
const clock = createHeardClock(() => context);
let silentRun = { page: 0, unrolled: 0 };
/** Number of the last request to play or stop: what an older one was getting ready is not wanted any more. */
let requests = 0;
/** Set while the page's clock stands in for an audio clock that does not run. */
let silent = false;
const listeners = new Set<() => void>();
const pageClock = createPageClock(
  () => {
    known = { ...known, second: pageClock.second() };
    set({ playing: false });
  },
  () => performance.now() * rate,
);
let endOfPlaying: (() => void) | null = null;
let counted: ReturnType<typeof setTimeout> | undefined;

function set(next: Partial<TransportState>) {
  const changed = { ...status, ...next };
  if ((Object.keys(changed) as (keyof TransportState)[]).every((key) => changed[key] === status[key])) return;
  status = changed;
  if (status.playing || status.starting) endOfPlaying ??= beginWork('the playing');
  else {
    endOfPlaying?.();
    endOfPlaying = null;
  }
  listeners.forEach((listener) => listener());
}

/** Loads the audio thread and the instruments at the first need for sound; browsers want a gesture for it. */
function load(): Promise<void> {
  loading ??= (async () => {
    set({ state: 'loading', message: null });
    const audio = new AudioContext({ latencyHint: 'interactive' });
    context = audio;
    // Where there is no device this never ends; nothing waits for it.
    void audio.resume().catch(() => undefined);
    const [bytes] = await Promise.all([loadBank(), audio.audioWorklet.addModule(workletUrl)]);
    const made = new AudioWorkletNode(audio, 'ordle-synth', { numberOfInputs: 0, outputChannelCount: [2] });
    ready = new Promise<void>((resolve, reject) => {
      made.port.onmessage = ({ data }: MessageEvent<FromSynth>) => {
        if (data.type === 'ready') resolve();
        else if (data.type === 'failed') reject(new Error(data.message));
        else if (data.type === 'out') sendOut(data);
        else receive(data);
      };
    });
    // Also told to whoever waits for it; nobody may be.
    ready.catch(() => undefined);
    made.port.postMessage({ type: 'bank', bytes } satisfies ToSynth, [bytes]);
    made.connect(audio.destination);
    node = made;
    if (output) post({ type: 'output', on: true });
    set({ state: 'ready' });
  })().catch((error: unknown) => {
    loading = null;
    throw error;
  });
  return loading;
}

function failed(error: unknown): never {
  const message =
    error instanceof OrdleError
      ? error.message
      : `Sound could not be started: ${error instanceof Error ? error.message : String(error)}`;
  set({ state: 'failed', message, playing: false, starting: false, counting: false });
  throw error;
}

/** What goes out is sent so many ms after it would be heard, so that it comes ahead of its time and keeps it. */
const AHEAD_MS = 25;
let output: ((bytes: number[], at: number) => void) | null = null;
let channels: number[] = [];

function sendOut({ voice, message: [kind, data1, data2], time }: Extract<FromSynth, { type: 'out' }>) {
  const status = kind | (channels[voice] ?? 0);
  const bytes = kind === 0xc0 || kind === 0xd0 ? [status, data1] : [status, data1, data2];
  output?.(bytes, clock.pageAt(time) + AHEAD_MS);
}

/** Gives the audio thread what is to be played. */
function hand(score: Score) {
  channels = score.parts.map(({ channel }) => channel ?? 0);
  post({ type: 'score', score });
}

/** Resolves true when the audio clock has stood still for a while, false as soon as it runs. */
async function standsStill(): Promise<boolean> {
  const audio = context;
  const from = audio?.currentTime ?? 0;
  for (const begun = performance.now(); performance.now() - begun < STANDSTILL_MS;) {
    if (audio && audio.currentTime > from) return false;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  return true;
}

function receive(data: Extract<FromSynth, { type: 'position' }>) {
  // What was true before it was last told to play or stop is no news.
  if (silent || data.number !== requests) return;
  // While nothing plays the page alone says where the play line is.
  if (data.playing || status.playing)
    known = { second: data.second, unrolled: data.unrolled, time: data.time };
  clock.readNowAndThen();
  set({ playing: data.playing, counting: data.counting });
}

function post(message: ToSynth) {
  node?.port.postMessage(message);
}

/** Goes on by the page's clock, and by the audio's again once that runs. */
function goSilent({ score, second, loop, countIn }: PlayRequest, mine: number) {
  silent = true;
  pageClock.stop();
  pageClock.setLoop(loop);
  const before = countIn?.seconds ?? 0;
  silentRun = { page: performance.now(), unrolled: second - before };
  const begin = () => {
    if (mine !== requests) return;
    pageClock.start(second, score.end);
    set({ counting: false });
  };
  if (before > 0) counted = setTimeout(begin, (before / rate) * 1000);
  else begin();
  set({ playing: true, starting: false, counting: before > 0, message: NO_SOUND });
  void (async () => {
    const isOn = () => mine === requests && silent && status.playing;
    while (isOn() && (await standsStill()));
    if (!isOn()) return;
    const now = pageClock.second();
    pageClock.stop();
    silent = false;
    set({ message: null });
    post({ type: 'play', second: now, countIn: null, number: mine });
  })();
}

function endSilence() {
  if (!silent) return;
  clearTimeout(counted);
  known = { ...known, second: pageClock.second() };
  pageClock.stop();
  silent = false;
}

export const transport = {
  state: () => status,
  subscribe(listener: () => void) {
    listeners.add(listener);
    return () => void listeners.delete(listener);
  },
  /** Where the music is now, carried on from the last report by the audio clock. */
  second(): number {
    if (silent) return pageClock.second();
    if (!status.playing || !context) return known.second;
    if (status.counting) return known.second;
    return known.second + Math.max(0, context.currentTime - known.time) * rate;
  },
  /**
   * The second of the music that is heard at a moment of the page's clock (ms), counted on from where it began through
   * loops, and below that while counting in; null while nothing plays.
   */
  musicAt(page: number): number | null {
    if (!status.playing) return null;
    if (silent) return silentRun.unrolled + ((page - silentRun.page) / 1000) * rate;
    return known.unrolled + (clock.audioAt(page) - known.time) * rate;
  },
  /** The moment of the page's clock at which such a second is heard. */
  pageAt(unrolled: number): number {
    if (silent) return silentRun.page + ((unrolled - silentRun.unrolled) / rate) * 1000;
    return clock.pageAt(known.time + (unrolled - known.unrolled) / rate);
  },
  /** How often the audio clock slipped since the page was opened. */
  slips: () => clock.slips(),
  /**
   * Plays what `prepare` gives, once instruments are loaded and it is worked out; not if stop, or another play, came
   * meanwhile. Where the browser gives no sound it says so within two seconds, and the page's clock moves the play
   * line. Throws where sound cannot be loaded.
   */
  async play(prepare: () => Promise<PlayRequest>): Promise<void> {
    endSilence();
    const mine = ++requests;
    set({ starting: true });
    try {
      const [what] = await Promise.all([prepare(), load()]);
      if (mine !== requests) return;
      void context?.resume().catch(() => undefined);
      const stands = standsStill();
      const silence = stands.then((still) => (still ? 'silence' : new Promise<never>(() => undefined)));
      const outcome = await Promise.race([ready, silence]);
      if (mine !== requests) return;
      // The audio thread may only be here since now.
      post({ type: 'rate', rate });
      hand(what.score);
      post({ type: 'loop', range: what.loop });
      post({ type: 'click', level: what.click });
      clock.read();
      const countIn = what.countIn ?? null;
      known = {
        second: what.second,
        unrolled: what.second - (countIn?.seconds ?? 0),
        time: context?.currentTime ?? 0,
      };
      if (outcome === 'silence') return goSilent(what, mine);
      post({ type: 'play', second: what.second, countIn, number: mine });
      set({ playing: true, starting: false, counting: countIn !== null, message: null });
      if ((await stands) && mine === requests) goSilent(what, mine);
    } catch (error) {
      if (mine === requests) failed(error);
    }
  },
  stop() {
    requests++;
    const second = transport.second();
    endSilence();
    post({ type: 'stop', number: requests });
    known = { ...known, second };
    set({ playing: false, starting: false, counting: false });
  },
  /** Moves the place to start from; while playing, jumps there. */
  locate(second: number) {
    known = { second, unrolled: second, time: context?.currentTime ?? 0 };
    if (silent) pageClock.start(second);
    else if (status.playing) post({ type: 'play', second, countIn: null, number: requests });
    listeners.forEach((listener) => listener());
  },
  /** Sounds a single note, starting the audio thread if need be; quietly does nothing where there is no sound. */
  strike(note: { program: number; drums: boolean; pitch: number; velocity: number }) {
    void load().then(
      () => {
        void context?.resume().catch(() => undefined);
        post({ type: 'strike', ...note });
      },
      () => set({ state: 'idle' }),
    );
  },
  /** Sounds what is played by hand, in the handler's own task where the sound runs already. */
  live(message: LiveMessage) {
    if (node) return post({ type: 'live', ...message });
    void load().then(
      () => {
        void context?.resume().catch(() => undefined);
        // What was let go while the instruments loaded does not sound any more.
        if (message.kind !== 0x90 || message.data2 === 0) post({ type: 'live', ...message });
      },
      () => set({ state: 'idle' }),
    );
  },
  /** Loads the instruments before they are needed, and lets the sound run. */
  async warm(): Promise<void> {
    await load().catch(() => undefined);
    void context?.resume().catch(() => undefined);
  },
  /** Ends everything that is played by hand. */
  letGo: () => post({ type: 'letGo' }),
  isSlow: () => rate !== 1,
  /** How fast the music runs, as a share of its tempo. */
  setRate(next: number) {
    known = { ...known, second: transport.second() };
    rate = next;
    post({ type: 'rate', rate });
  },
  setScore: hand,
  /** Sends the music's messages somewhere else, each with its moment (ms), in place of sounding it; null: it sounds. */
  setOutput(to: typeof output) {
    if ((to === null) === (output === null)) {
      output = to;
      return;
    }
    output = to;
    post({ type: 'output', on: to !== null });
  },
  setLoop(range: { from: number; to: number } | null) {
    post({ type: 'loop', range });
    pageClock.setLoop(range);
  },
  setClick: (level: number) => post({ type: 'click', level }),
};
