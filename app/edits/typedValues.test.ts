import { createMeterMap, pitchName, tickAtPosition } from '@ordle/core';
import { parsePitch, parsePosition, parseTyped } from './typedValues';

const meter = createMeterMap(480, []);
const position = (text: string) => parsePosition(text, (place) => tickAtPosition(meter, place));

describe('typed values', () => {
  it('are numbers, or shifts with a sign', () => {
    expect(parseTyped('64')).toEqual({ relative: false, value: 64 });
    expect(parseTyped('+10')).toEqual({ relative: true, value: 10 });
    expect(parseTyped('−3,5')).toEqual({ relative: true, value: -3.5 });
    expect(parseTyped('loud')).toBeNull();
  });

  it('are places in bars, beats and ticks', () => {
    expect(position('2.3.120')).toEqual({ relative: false, value: 1920 + 960 + 120 });
    expect(position('2')).toEqual({ relative: false, value: 1920 });
    expect(position('-5')).toEqual({ relative: true, value: -5 });
    expect(position('0.1')).toBeNull();
  });

  it('are pitches by name in either convention, or by number', () => {
    for (const middleC of [3, 4] as const) {
      for (let pitch = 0; pitch < 128; pitch++)
        expect(parsePitch(pitchName(pitch, middleC), middleC)).toEqual({ relative: false, value: pitch });
    }
    expect(parsePitch('bb3', 4)).toEqual({ relative: false, value: 58 });
    expect(parsePitch('+12', 4)).toEqual({ relative: true, value: 12 });
    expect(parsePitch('H4', 4)).toBeNull();
  });
});
