import { createTimeline, type PartView } from '@ordle/core';
import { pitchAt, rollTop, rollHeight, xOf, type Layout } from './geometry';
import { LAYOUT } from '../testing/layout';
import { createRollWindow } from './rollWindow';

const { meter } = createTimeline({ kind: 'metrical', ticksPerQuarter: 480 }, [], []);
const view = {
  notes: {
    length: 2,
    start: Float64Array.of(0, 480),
    end: Float64Array.of(400, 900),
    pitch: Uint8Array.of(60, 64),
  },
} as unknown as PartView;

describe('the first look at a part', () => {
  let layout: Layout = { ...LAYOUT, width: 1, height: 1 };
  const options = {
    layout: () => layout,
    endTick: () => 960,
    onMoved: () => undefined,
    onRest: () => undefined,
  };
  const middle = () => rollTop(layout) + rollHeight(layout) / 2;

  it('is for the room there is, though that is known only after the notes; once moved it stays', () => {
    const shown = createRollWindow(options);
    shown.begin(null);
    shown.look(view, meter);
    layout = LAYOUT;
    shown.hold();
    shown.look(view, meter);
    const { now } = shown;
    expect(Math.abs(pitchAt(middle(), now(), layout) - 62)).toBeLessThanOrEqual(2);
    expect(xOf(900, now(), layout)).toBeLessThan(900);
    shown.moveTo({ ...now(), topPitch: now().topPitch + 7 });
    const moved = now();
    shown.look(view, meter);
    expect(now()).toEqual(moved);
  });
});
