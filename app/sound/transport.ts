import { OrdleError } from '@ordle/core';
import type { FromSynth, ToSynth } from './messages';
import type { Score } from './player';
import workletUrl from './synth.worklet.ts?worker&url';

const BANK_URL = '/sounds/general-midi.sf2';

/** What the page knows of the playing. Seconds from the start of the music. */
export interface TransportState {
  state: 'idle' | 'loading' | 'ready' | 'failed';
  message: string | null;
  playing: boolean;
}

let context: AudioContext | null = null;
let node: AudioWorkletNode | null = null;
let starting: Promise<AudioWorkletNode> | null = null;
let status: TransportState = { state: 'idle', message: null, playing: false };
let known = { second: 0, time: 0 };
const listeners = new Set<() => void>();

function set(next: Partial<TransportState>) {
  const changed = { ...status, ...next };
  if (
    changed.state === status.state &&
    changed.playing === status.playing &&
    changed.message === status.message
  )
    return;
  status = changed;
  listeners.forEach((listener) => listener());
}

/** Starts the audio thread at the first need for sound; browsers want a gesture for it. */
function start(): Promise<AudioWorkletNode> {
  starting ??= (async () => {
    set({ state: 'loading', message: null });
    const audio = new AudioContext({ latencyHint: 'interactive' });
    context = audio;
    const [bytes] = await Promise.all([loadBank(), audio.audioWorklet.addModule(workletUrl)]);
    const made = new AudioWorkletNode(audio, 'ordle-synth', { numberOfInputs: 0, outputChannelCount: [2] });
    const ready = new Promise<void>((resolve, reject) => {
      made.port.onmessage = ({ data }: MessageEvent<FromSynth>) => {
        if (data.type === 'ready') resolve();
        else if (data.type === 'failed') reject(new Error(data.message));
        else receive(data);
      };
    });
    made.port.postMessage({ type: 'bank', bytes } satisfies ToSynth, [bytes]);
    await ready;
    made.connect(audio.destination);
    node = made;
    set({ state: 'ready' });
    return made;
  })().catch((error: unknown) => {
    starting = null;
    const message =
      error instanceof OrdleError
        ? error.message
        : `Sound could not be started: ${error instanceof Error ? error.message : String(error)}`;
    set({ state: 'failed', message, playing: false });
    throw error;
  });
  return starting;
}

async function loadBank(): Promise<ArrayBuffer> {
  const answer = await fetch(BANK_URL).catch(() => null);
  if (!answer?.ok)
    throw new OrdleError(
      'bank-missing',
      'The instrument sounds could not be loaded. Reload the page; if that does not help, build the app anew.',
    );
  return answer.arrayBuffer();
}

function receive(data: Extract<FromSynth, { type: 'position' }>) {
  known = { second: data.second, time: data.time };
  set({ playing: data.playing });
}

function post(message: ToSynth) {
  node?.port.postMessage(message);
}

export const transport = {
  state: () => status,
  subscribe(listener: () => void) {
    listeners.add(listener);
    return () => void listeners.delete(listener);
  },
  /** Where the music is now, carried on from the last report by the audio clock. */
  second(): number {
    if (!status.playing || !context) return known.second;
    return known.second + Math.max(0, context.currentTime - known.time);
  },
  /** Plays `score` from a place; loads instruments first when this is the first time. */
  async play(
    score: Score,
    second: number,
    loop: { from: number; to: number } | null,
    click: boolean,
  ): Promise<void> {
    await start();
    await context?.resume();
    post({ type: 'score', score });
    post({ type: 'loop', range: loop });
    post({ type: 'click', on: click });
    known = { second, time: context?.currentTime ?? 0 };
    post({ type: 'play', second });
    set({ playing: true });
  },
  stop() {
    const second = transport.second();
    post({ type: 'stop' });
    known = { second, time: known.time };
    set({ playing: false });
  },
  /** Moves the place to start from; while playing, jumps there. */
  locate(second: number) {
    known = { second, time: context?.currentTime ?? 0 };
    if (status.playing) post({ type: 'play', second });
    listeners.forEach((listener) => listener());
  },
  /** Sounds a single note, starting the audio thread if need be; quietly does nothing where there is no sound. */
  strike(note: { program: number; drums: boolean; pitch: number; velocity: number }) {
    void start().then(
      async () => {
        await context?.resume();
        post({ type: 'strike', ...note });
      },
      () => undefined,
    );
  },
  setScore: (score: Score) => post({ type: 'score', score }),
  setLoop: (range: { from: number; to: number } | null) => post({ type: 'loop', range }),
  setClick: (on: boolean) => post({ type: 'click', on }),
};
