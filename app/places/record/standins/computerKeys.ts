import { useEffect } from 'react';
import { isTyping } from '@/ui/isTyping';
import { STAND_INS, arrive, letGoInputs } from '@/recording/inputs';
import { recordSettings, setRecordSettings } from '@/recording/settings';

/** By where a key lies: the row next to the space bar is white, the row behind it black. Semitones above C. */
const SEMITONES: Record<string, number> = {
  KeyZ: 0,
  KeyS: 1,
  KeyX: 2,
  KeyD: 3,
  KeyC: 4,
  KeyV: 5,
  KeyG: 6,
  KeyB: 7,
  KeyH: 8,
  KeyN: 9,
  KeyJ: 10,
  KeyM: 11,
  Comma: 12,
  KeyL: 13,
  Period: 14,
  Semicolon: 15,
  Slash: 16,
};
/** Held down like a pedal: sustain, sostenuto, soft. */
const PEDALS: Record<string, number> = { Digit1: 64, Digit2: 66, Digit3: 67 };
/** The bend while a key is held, as a raw value. */
const BENDS: Record<string, number> = { KeyQ: 0, KeyW: 16383 };
const VELOCITY_STEP = 8;

/**
 * Plays on the computer's keys while it is on, in a dialog only where that is meant for it. Where the page loses the
 * focus, what is held is let go.
 */
export function useComputerKeys(isOn: boolean, inDialog = false): void {
  useEffect(() => {
    if (!isOn) return;
    const source = STAND_INS.computerKeys;
    const held = new Map<string, number[]>();
    const press = (code: string, bytes: number[], off: number[], stamp: number) => {
      held.set(code, off);
      arrive(source, bytes, stamp);
    };
    const turn = (code: string): boolean => {
      const { octave, velocity } = recordSettings();
      if (code === 'ArrowLeft') setRecordSettings({ octave: Math.max(0, octave - 1) });
      else if (code === 'ArrowRight') setRecordSettings({ octave: Math.min(8, octave + 1) });
      else if (code === 'ArrowDown') setRecordSettings({ velocity: Math.max(1, velocity - VELOCITY_STEP) });
      else if (code === 'ArrowUp') setRecordSettings({ velocity: Math.min(127, velocity + VELOCITY_STEP) });
      else return false;
      return true;
    };
    const onDown = (event: KeyboardEvent) => {
      const { code, timeStamp } = event;
      if (event.ctrlKey || event.metaKey || event.altKey || event.shiftKey || isTyping(event.target)) return;
      if (
        (event.target as HTMLElement | null)?.closest(
          inDialog ? '[role=slider]' : '[role=dialog], [role=slider]',
        )
      )
        return;
      const isOurs = code in SEMITONES || code in PEDALS || code in BENDS;
      if (!isOurs && !turn(code)) return;
      event.preventDefault();
      event.stopPropagation();
      if (!isOurs || event.repeat || held.has(code)) return;
      if (code in SEMITONES) {
        const { octave, velocity } = recordSettings();
        const pitch = 12 * (octave + 1) + SEMITONES[code];
        if (pitch <= 127) press(code, [0x90, pitch, velocity], [0x80, pitch, 64], timeStamp);
      } else if (code in PEDALS) press(code, [0xb0, PEDALS[code], 127], [0xb0, PEDALS[code], 0], timeStamp);
      else press(code, [0xe0, BENDS[code] & 127, BENDS[code] >> 7], [0xe0, 0, 64], timeStamp);
    };
    const onUp = ({ code, timeStamp }: KeyboardEvent) => {
      const off = held.get(code);
      if (!off) return;
      held.delete(code);
      arrive(source, off, timeStamp);
    };
    const letGo = () => {
      for (const off of held.values()) arrive(source, off);
      held.clear();
      letGoInputs(source.id);
    };
    window.addEventListener('keydown', onDown, true);
    window.addEventListener('keyup', onUp, true);
    window.addEventListener('blur', letGo);
    return () => {
      window.removeEventListener('keydown', onDown, true);
      window.removeEventListener('keyup', onUp, true);
      window.removeEventListener('blur', letGo);
      letGo();
    };
  }, [isOn, inDialog]);
}
