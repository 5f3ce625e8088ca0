import { LAYOUT } from '../testing/notes';
import { paintHarmony } from './harmonyBars';
import { paintGutter, paintRuler } from './paintFrame';
import { paintStrip } from './paintStrip';
import { paintVelocities } from './paintVelocities';
import { paintSpans } from './paintSpans';
import { painted, inColour, scene, recordingContext } from '../testing/painting';
import type { Scene } from './scene';

describe('painting around the roll', () => {
  it('numbers bars and beats, or seconds', () => {
    const bars = painted(paintRuler).texts.map(({ text }) => text);
    expect(bars.slice(0, 5)).toEqual(['1', '1.2', '1.3', '1.4', '2']);
    const seconds = painted(paintRuler, { time: 'seconds' }).texts.map(({ text }) => text);
    expect(seconds[0]).toBe('0:00.0');
  });

  it('names sections where they begin, with the bar where one begins there', () => {
    const markers = [
      { id: 'a', tick: 0, name: 'Quay' },
      { id: 'b', tick: 2000, name: 'Open water' },
    ];
    const over = (more: Partial<Scene>) =>
      painted(paintRuler, { markers, ...more }).texts.map(({ text }) => text);
    expect(over({})).toEqual(expect.arrayContaining(['1 Quay', 'Open water']));
    expect(over({ time: 'seconds' })).toContain('Quay');
  });

  it('draws a bar for what each step touches, the current one in full ink, none over another', () => {
    const spans = [
      { stepId: 'a', name: 'Nudge', from: 0, to: Infinity, isCurrent: false },
      { stepId: 'b', name: 'Swing', from: 1920, to: 3840, isCurrent: true },
    ];
    const log = painted(paintSpans, { spans, layout: { ...LAYOUT, spans: 28 } });
    const [whole] = inColour(log, 'ink3').filter(({ box }) => box[2] > 100);
    const [selected] = inColour(log, 'ink').filter(({ box }) => box[2] > 100);
    expect([whole.box[0], whole.box[2]]).toEqual([46, 1000]);
    expect([selected.box[0], selected.box[2]]).toEqual([46 + 480, 480]);
    expect(whole.box[1] + whole.box[3]).toBeLessThan(selected.box[1]);
    expect(log.texts.map(({ text }) => text)).toEqual(['where', 'Swing', 'Nudge: whole part']);
    expect(painted(paintSpans).fills).toEqual([]);
  });

  it('marks the pitches a step touches beside the keys, and names the Cs', () => {
    const log = painted(paintGutter, { wherePitch: [60, 64] });
    expect(inColour(log, 'ink')[0].box).toEqual([40, 140, 3, 50]);
    expect(log.texts.map(({ text }) => text)).toContain('C4');
    expect(painted(paintGutter, { middleC: 3 }).texts.map(({ text }) => text)).toContain('C3');
    expect(painted(paintGutter, { drums: true, view: null }).texts.length).toBeGreaterThan(20);
  });

  it('writes into each bar what it is moved by', () => {
    const layout = { ...LAYOUT, harmony: 46 };
    const sections = [{ bars: [2, 3] as [number, number], semitones: 5 }];
    const log = painted(paintHarmony, { layout, sections });
    expect(log.texts.map(({ text }) => text)).toEqual(['moved', '0', '+5', '0']);
    expect(log.fills.find(({ alpha }) => alpha === 0.3)?.box[0]).toBe(46 + 480 + 1);
    expect(painted(paintHarmony, { layout, sections: null }).fills).toEqual([]);
  });

  it('puts a stem under each note as high as its velocity', () => {
    const stems = inColour(painted(paintVelocities), 'part2').filter(({ box }) => box[3] > 4);
    expect(stems.map(({ box }) => box[0])).toEqual([46, 166, 286]);
    expect(stems[0].box[3]).toBeCloseTo(84, 6);
    expect(stems[2].box[3]).toBeCloseTo((84 * 32) / 127, 6);
  });

  it('shows trouble over the whole part: late up, early down, as played in outline', () => {
    const { context, log } = recordingContext();
    paintStrip(context, scene({ layout: { ...LAYOUT, overview: 44 } }), 7680);
    const [late, early] = ['late', 'early'].map((colour) =>
      log.fills.filter((fill) => fill.colour === colour),
    );
    expect([late.length, early.length]).toEqual([1, 1]);
    // Half of the reach is half of the room on either side of the middle.
    expect([late[0].box[1], late[0].box[3]]).toEqual([22 - 9, 9]);
    expect([early[0].box[1], early[0].box[3]]).toEqual([23, 9]);
    // The outline is as high as it was played.
    const tops = log.fills.filter(({ colour, box }) => colour === 'ink3' && box[3] === 1);
    expect(tops.map(({ box }) => box[1])).toEqual([22 - 12, 22 + 9]);
  });
});
