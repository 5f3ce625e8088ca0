import type { Strike } from './player';
import type { Sink } from './sink';

/** What is played by hand: an instrument by its slot, and a channel message without its channel. */
export interface LiveMessage {
  slot: number;
  program: number;
  drums: boolean;
  kind: number;
  data1: number;
  data2: number;
}

const [NOTE_OFF, NOTE_ON, CONTROL] = [0x80, 0x90, 0xb0];
const PEDALS = [64, 66, 67, 69];

/** Seconds a single note struck from the editor sounds. */
const STRIKE_SECONDS = 0.35;

/**
 * What sounds beside the music: single notes struck from the editor, and instruments that are played by hand. Their
 * voices lie after those of the music, the first at `firstVoice()`.
 */
export function createLive(sampleRate: number, sink: Sink, firstVoice: () => number) {
  /** Frames since the start, playing or not. */
  let clock = 0;
  let strikes: { voice: number; pitch: number; endFrame: number }[] = [];
  /** By slot what it was last prepared as, and how often each pitch is down. */
  const slots = new Map<number, { sound: string; down: Map<number, number>; pedals: Set<number> }>();
  // Two voices for notes from the editor, pitched and drums; then one a slot.
  const voiceOf = (slot: number) => firstVoice() + 2 + slot;

  function letGo() {
    for (const { voice, pitch } of strikes) sink.noteOff(voice, pitch);
    strikes = [];
    for (const [slot, { down, pedals }] of slots) {
      for (const pitch of down.keys()) sink.noteOff(voiceOf(slot), pitch);
      for (const pedal of pedals) sink.message(voiceOf(slot), CONTROL, pedal, 0);
    }
    slots.clear();
  }

  return {
    /** Ends all that sounds here. Its instruments are prepared anew when they are next played. */
    letGo,
    advance(frames: number) {
      clock += frames;
    },
    /** Lets strikes go that have sounded long enough. */
    dispatch() {
      strikes = strikes.filter(({ voice, pitch, endFrame }) => {
        if (endFrame > clock) return true;
        sink.noteOff(voice, pitch);
        return false;
      });
    },
    strike({ program, drums, pitch, velocity }: Strike) {
      const voice = firstVoice() + (drums ? 1 : 0);
      for (const sounding of strikes) sink.noteOff(sounding.voice, sounding.pitch);
      strikes = [{ voice, pitch, endFrame: clock + Math.round(STRIKE_SECONDS * sampleRate) }];
      sink.prepare(voice, program, drums);
      sink.noteOn(voice, pitch, Math.min(127, Math.max(1, Math.round(velocity))));
    },
    play({ slot, program, drums, kind, data1, data2 }: LiveMessage) {
      const voice = voiceOf(slot);
      const sound = `${program} ${drums}`;
      let own = slots.get(slot);
      if (own?.sound !== sound) {
        for (const pitch of own?.down.keys() ?? []) sink.noteOff(voice, pitch);
        own = { sound, down: new Map(), pedals: new Set() };
        slots.set(slot, own);
        sink.reset(voice);
        sink.prepare(voice, program, drums);
      }
      if (kind === NOTE_ON && data2 > 0) {
        own.down.set(data1, (own.down.get(data1) ?? 0) + 1);
        sink.noteOn(voice, data1, data2);
      } else if (kind === NOTE_ON || kind === NOTE_OFF) {
        const left = (own.down.get(data1) ?? 0) - 1;
        if (left > 0) own.down.set(data1, left);
        else own.down.delete(data1);
        sink.noteOff(voice, data1);
      } else {
        if (kind === CONTROL && PEDALS.includes(data1)) {
          if (data2 > 0) own.pedals.add(data1);
          else own.pedals.delete(data1);
        }
        sink.message(voice, kind, data1, data2);
      }
    },
  };
}
