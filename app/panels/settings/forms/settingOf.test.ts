import { createStep, kindOf } from '@ordle/core';
import { settingOf } from './settingOf';

describe('what a form knows of a setting', () => {
  it('comes from its schema: range, unit, the usual stretch, the finest step, where it starts', () => {
    expect(settingOf({ kind: 'humanize' }, 'timingMs')).toEqual({
      min: 0,
      max: 500,
      unit: 'ms',
      usual: [0, 40],
      step: 0.5,
      initial: 0,
    });
    expect(settingOf({ kind: 'velocity' }, 'compress.ratio')).toMatchObject({ min: 0.1, max: 100, start: 2 });
    expect(settingOf({ kind: 'layout' }, 'blocks.times')).toMatchObject({ min: 1, max: 10000 });
    expect(settingOf({ kind: 'remove' }, 'outside')).toMatchObject({ min: 0, max: 127 });
    expect(settingOf('where', 'channel')).toMatchObject({ min: 1, max: 16 });
  });

  it('of operations is that of the one meant', () => {
    expect(settingOf({ kind: 'curve', op: 'smooth' }, 'ms')).toMatchObject({ min: 0, usual: [0, 1000] });
    expect(settingOf({ kind: 'curve', op: 'wave' }, 'rate.hz')).toMatchObject({
      min: 0.01,
      max: 50,
      unit: 'Hz',
    });
    expect(settingOf({ kind: 'pedal', op: 'extend' }, 'ms')).toMatchObject({ min: -60000, unit: 'ms' });
  });

  it('is refused where there is no such number', () => {
    expect(() => settingOf({ kind: 'nudge' }, 'swing')).toThrow('names no range for swing');
    expect(() => settingOf({ kind: 'quantize' }, 'grid')).toThrow('names no range for grid');
  });

  it('holds: every range is that of what the step accepts', () => {
    for (const [kind, setting] of [
      ['quantize', 'strength'],
      ['humanize', 'seed'],
      ['nudge', 'steps'],
      ['transpose', 'semitones'],
      ['length', 'scale'],
      ['groove', 'velocity'],
    ] as const) {
      const { min, max } = settingOf({ kind }, setting);
      const accepts = (value: number) =>
        kindOf(kind).schema.safeParse({ ...createStep(kind), [setting]: value }).success;
      expect([kind, ...[min - 1, min, max, max + 1].map(accepts)]).toEqual([kind, false, true, true, false]);
    }
  });
});
