import type { Pair } from '@ordle/core';
import { SoundBankLoader, SpessaSynthProcessor } from 'spessasynth_core';
import { RESTING_PARAMETERS, restingController } from './chase';
import { createClickVoice } from './clickVoice';
import { createPlayer, type Player } from './player';
import type { Sink } from './sink';

/** Frames the synth renders at most in one go: the size of an audio worklet's block, and `SOUND_BLOCK` of the core. */
export const BLOCK = 128;

/** Takes a message of a voice: status without its channel and data, and its frame in the block that is rendered. */
export type Diverted = (voice: number, message: [number, number, number], frame: number) => void;

/** Synth, player and click as one source of samples; the same in the audio thread, offline and in the tests. */
export interface Renderer {
  player: Player;
  /**
   * Hands the music's messages to something else in place of the synth, each with its frame in the block; null to the
   * synth again.
   */
  divert(to: Diverted | null): void;
  /** Writes `left.length` frames, at most a block. */
  render(left: Float32Array, right: Float32Array): void;
  /**
   * The same with every voice in a pair of its own: that of its place among `outputs`, each left and right, of one
   * length. Their sum is what `render` writes, without the click. Adds to what is in them.
   */
  renderApart(outputs: readonly Pair[]): void;
}

/** Builds a renderer around a sound bank (SF2). Sound is bit-identical for the same score and rate. */
export async function createRenderer(
  sampleRate: number,
  bank: ArrayBuffer,
  startSecond = 0,
): Promise<Renderer> {
  const synth = new SpessaSynthProcessor(sampleRate, {
    eventsEnabled: false,
    effectsEnabled: false,
    initialTime: startSecond,
    maxBufferSize: BLOCK,
  });
  await synth.processorInitialized;
  synth.soundBankManager.addSoundBank(SoundBankLoader.fromArrayBuffer(bank), 'main');
  const click = createClickVoice(sampleRate);
  const own = synthSink(synth, click.start);
  let diverted: Diverted | null = null;
  let position = 0;
  const player = createPlayer(sampleRate, {
    ...own,
    noteOn: (voice, pitch, velocity) =>
      diverted ? diverted(voice, [0x90, pitch, velocity], position) : own.noteOn(voice, pitch, velocity),
    noteOff: (voice, pitch) =>
      diverted ? diverted(voice, [0x80, pitch, 64], position) : own.noteOff(voice, pitch),
    message: (voice, kind, data1, data2) =>
      diverted ? diverted(voice, [kind, data1, data2], position) : own.message(voice, kind, data1, data2),
  });

  /** A block is cut at every event, so that each sounds at its own frame: `fill` writes a stretch of it. */
  function inStretches(length: number, fill: (from: number, count: number) => void) {
    position = 0;
    while (position < length) {
      player.dispatch();
      // The synth takes a count of 0 for "the rest".
      const count = Math.min(length - position, player.framesUntilNext());
      fill(position, count);
      player.advance(count);
      position += count;
    }
  }

  return {
    player,
    render(left, right) {
      inStretches(left.length, (from, count) => {
        synth.process(left, right, from, count);
        click.mix(left, right, from, count);
      });
    },
    renderApart(outputs) {
      const pairs = outputs.map(([left, right]) => [left, right]);
      const [[left, right]] = pairs;
      inStretches(left.length, (from, count) => synth.processSplit(pairs, left, right, from, count));
    },
    divert(to) {
      own.silence();
      diverted = to;
    },
  };
}

function synthSink(synth: SpessaSynthProcessor, click: Sink['click']): Sink {
  const ready = (voice: number) => {
    while (synth.midiChannels.length <= voice) synth.createMIDIChannel();
  };
  return {
    prepare(voice, program, drums) {
      ready(voice);
      if (synth.midiChannels[voice].drumChannel !== drums) synth.midiChannels[voice].setDrums(drums);
      synth.programChange(voice, program);
    },
    noteOn: (voice, pitch, velocity) => synth.noteOn(voice, pitch, velocity),
    noteOff: (voice, pitch) => synth.noteOff(voice, pitch),
    message(voice, kind, data1, data2) {
      if (kind === 0xb0)
        synth.controllerChange(voice, data1 as Parameters<typeof synth.controllerChange>[1], data2);
      else if (kind === 0xc0) synth.programChange(voice, data1);
      else if (kind === 0xd0) synth.channelPressure(voice, data1);
      else if (kind === 0xe0) synth.pitchWheel(voice, data1 | (data2 << 7));
      else if (kind === 0xa0) synth.polyPressure(voice, data1, data2);
    },
    reset(voice) {
      ready(voice);
      synth.controllerChange(voice, 121, 0);
      synth.pitchWheel(voice, 8192);
      synth.channelPressure(voice, 0);
      // What "reset all controllers" leaves alone (RP-015): bank, volume, balance and pan, and the registered
      // parameters.
      for (const controller of [0, 32, 7, 8, 10] as const)
        synth.controllerChange(voice, controller, restingController(controller));
      for (const [, controller, value] of RESTING_PARAMETERS)
        synth.controllerChange(voice, controller as Parameters<typeof synth.controllerChange>[1], value);
    },
    silence: () => synth.stopAllChannels(true),
    click,
  };
}
