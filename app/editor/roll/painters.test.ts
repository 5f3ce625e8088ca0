import { createTimeline } from '@ordle/core';
import type { PartView } from '@/engine/protocol';
import { paintHarmony } from './harmonyBars';
import { paintGutter, paintOverview, paintRuler } from './paintFrame';
import { paintVelocities } from './paintVelocities';
import { paintNotes, paintOverlay } from './paintNotes';
import { paintSpans } from './paintSpans';
import type { Scene } from './scene';
import { LAYOUT, WINDOW, viewNotes } from '../testing/notes';

type Box = [x: number, y: number, width: number, height: number];

/** A drawing context that writes down what is painted and in which colour. */
function recordingContext() {
  const log = {
    fills: [] as { colour: string; alpha: number; box: Box }[],
    strokes: [] as { colour: string; dashed: boolean; box: Box }[],
    texts: [] as { text: string; x: number; y: number }[],
    lines: [] as [number, number][],
  };
  let dashed = false;
  const state: Record<string, unknown> = { fillStyle: '', strokeStyle: '', globalAlpha: 1 };
  const methods: Record<string, unknown> = {
    fillRect: (...box: Box) =>
      log.fills.push({ colour: String(state.fillStyle), alpha: Number(state.globalAlpha), box }),
    strokeRect: (...box: Box) => log.strokes.push({ colour: String(state.strokeStyle), dashed, box }),
    fillText: (text: string, x: number, y: number) => log.texts.push({ text, x, y }),
    moveTo: (x: number, y: number) => log.lines.push([x, y]),
    lineTo: (x: number, y: number) => log.lines.push([x, y]),
    measureText: (text: string) => ({ width: 6 * text.length }),
    setLineDash: (dashes: number[]) => (dashed = dashes.length > 0),
  };
  const context = new Proxy(state, {
    get: (target, name: string) => target[name] ?? methods[name] ?? (() => undefined),
    set: (target, name: string, value) => {
      target[name] = value;
      return true;
    },
  });
  return { context: context as unknown as CanvasRenderingContext2D, log };
}

globalThis.Path2D ??= class {
  moveTo() {}
  lineTo() {}
  closePath() {}
} as unknown as typeof Path2D;

const COLOURS = new Proxy(
  { parts: Array.from({ length: 8 }, (_, ink) => `part${ink}`), font: 'serif' },
  { get: (target, name: string) => (name in target ? target[name as 'parts'] : name) },
) as unknown as Scene['colours'];

const notes = viewNotes([
  [0, 400, 60, 127],
  [480, 880, 64, 64],
  [960, 1360, 67, 32],
]);
const view: PartView = {
  partId: 'p',
  stop: 1,
  notes,
  traceStart: Float64Array.of(0, 440, 960),
  traceEnd: Float64Array.of(400, 840, 1360),
  late: Float32Array.of(0, 30, -30),
  spreads: [],
  reading: null,
  values: null,
  pulledTo: null,
  lanes: [],
  curve: null,
  rings: null,
  lanesThere: [],
  endTick: 7680,
  channel: new Uint8Array(3),
  playedStart: null,
  touchedBy: null,
  lostEdits: [],
  sharing: [],
  squeezed: 0,
};

const scene = (more: Partial<Scene> = {}): Scene => ({
  layout: LAYOUT,
  window: WINDOW,
  view,
  timeline: createTimeline({ kind: 'metrical', ticksPerQuarter: 480 }, [], []),
  ticksPerMs: 0.96,
  grid: { values: ['1/16'], swing: 50 },
  spans: [],
  wherePitch: null,
  sections: null,
  litStep: null,
  lit: null,
  loop: { on: false, from: 0, to: 0 },
  ink: 2,
  drums: false,
  middleC: 4,
  hovered: -1,
  selected: new Uint8Array(3),
  selectionSpan: null,
  focused: -1,
  preview: null,
  others: [],
  show: 'both',
  time: 'bars',
  colours: COLOURS,
  pixelRatio: 1,
  ...more,
});

/** Paints and returns what was painted. */
function painted(
  paint: (context: CanvasRenderingContext2D, scene: Scene) => void,
  more: Partial<Scene> = {},
) {
  const { context, log } = recordingContext();
  paint(context, scene(more));
  return log;
}
const inColour = (log: ReturnType<typeof painted>, colour: string) =>
  log.fills.filter((fill) => fill.colour === colour);

describe('painting notes', () => {
  it('puts each at its tick and pitch, in the ink of the part, fainter when softer', () => {
    const bodies = inColour(painted(paintNotes), 'part2').filter(({ box }) => box[2] > 10);
    expect(bodies.map(({ box }) => box)).toEqual([
      [46, 180.5, 99, 8],
      [166, 140.5, 99, 8],
      [286, 110.5, 99, 8],
    ]);
    const [loud, middle, soft] = bodies.map(({ alpha }) => alpha);
    expect(loud).toBeGreaterThan(middle);
    expect(middle).toBeGreaterThan(soft);
  });

  it('outlines where a moved note was, and only that', () => {
    const traces = painted(paintNotes).strokes.filter(({ dashed }) => dashed);
    expect(traces.map(({ box }) => box[0])).toEqual([46 + 440 / 4 + 0.5]);
    expect(painted(paintNotes, { show: 'cleaned' }).strokes).toEqual([]);
  });

  it('frames selected notes, and shows where a drag or a stretch would put them', () => {
    const selected = Uint8Array.of(0, 1, 1);
    const frames = (more: Partial<Scene>) =>
      painted(paintNotes, { selected, ...more })
        .strokes.filter(({ colour }) => colour === 'accent')
        .map(({ box }) => box);
    expect(frames({}).map(([x]) => x)).toEqual([165, 285]);
    expect(
      frames({ preview: { kind: 'move', ticks: 120, semitones: -1, copy: false } }).map(([x, y]) => [x, y]),
    ).toEqual([
      [195, 149.5],
      [315, 119.5],
    ]);
    expect(
      frames({
        preview: { kind: 'stretch', anchor: 480, factor: 2, x: 0, y: 0 },
        selectionSpan: { from: 480, to: 1360 },
      }).map(([x, , width]) => [x, width]),
    ).toEqual([
      [165, 201],
      [405, 201],
    ]);
  });

  it('shows a stretch at its grip with its factor', () => {
    const selectionSpan = { from: 480, to: 1360 };
    expect(inColour(painted(paintOverlay, { selectionSpan }), 'accent')[0].box).toEqual([
      46 + 340,
      60,
      1,
      500,
    ]);
    const dragged = painted(paintOverlay, {
      selectionSpan,
      preview: { kind: 'stretch', anchor: 480, factor: 1.5, x: 0, y: 0 },
    });
    expect(dragged.texts).toEqual([{ text: '× 1.5', x: 46 + 450 + 12, y: 71 }]);
  });

  it('lights the notes of a step by veiling the others', () => {
    const lit = painted(paintOverlay, { lit: Uint8Array.of(1, 0, 0), litStep: 's' });
    expect(
      lit.fills.filter(({ colour, alpha }) => colour === 'sheet' && alpha < 1).map(({ box }) => box[0]),
    ).toEqual([165, 285]);
    expect(lit.strokes.map(({ box }) => box[0])).toEqual([45.5]);
  });

  it('shows how far the pedal lets notes ring on', () => {
    const rings = Float64Array.of(1000, 880, 1364);
    const pale = inColour(painted(paintNotes, { view: { ...view, rings } }), 'part2').filter(
      ({ box }) => box[3] === 3,
    );
    expect(pale.map(({ box }) => box)).toEqual([[146, 183.5, 150, 3]]);
  });

  it('marks the stroke an aligned note is pulled toward', () => {
    const pulledTo = Float64Array.of(NaN, 520, NaN);
    const { lines } = painted(paintNotes, { view: { ...view, pulledTo } });
    const x = 46 + 520 / 4;
    expect(lines).toContainEqual([x, 137]);
    expect(lines).toContainEqual([x, 153]);
    expect(lines).toContainEqual([46 + 440 / 4, 153]);
  });
});

describe('painting around the roll', () => {
  it('numbers bars and beats, or seconds', () => {
    const bars = painted(paintRuler).texts.map(({ text }) => text);
    expect(bars.slice(0, 5)).toEqual(['1', '1.2', '1.3', '1.4', '2']);
    const seconds = painted(paintRuler, { time: 'seconds' }).texts.map(({ text }) => text);
    expect(seconds[0]).toBe('0:00.0');
  });

  it('draws a bar for what each step touches, the current one in the accent, none over another', () => {
    const spans = [
      { stepId: 'a', from: 0, to: Infinity, isCurrent: false },
      { stepId: 'b', from: 1920, to: 3840, isCurrent: true },
    ];
    const log = painted(paintSpans, { spans, layout: { ...LAYOUT, spans: 20 } });
    const [whole] = inColour(log, 'ink3').filter(({ box }) => box[2] > 100);
    const [selected] = inColour(log, 'accent').filter(({ box }) => box[2] > 100);
    expect([whole.box[0], whole.box[2]]).toEqual([46, 1000]);
    expect([selected.box[0], selected.box[2]]).toEqual([46 + 480, 480]);
    expect(whole.box[1] + whole.box[3]).toBeLessThan(selected.box[1]);
    expect(log.texts[0].text).toBe('where');
    expect(painted(paintSpans).fills).toEqual([]);
  });

  it('marks the pitches a step touches beside the keys, and names the Cs', () => {
    const log = painted(paintGutter, { wherePitch: [60, 64] });
    expect(inColour(log, 'accent')[0].box).toEqual([40, 140, 3, 50]);
    expect(log.texts.map(({ text }) => text)).toContain('C4');
    expect(painted(paintGutter, { middleC: 3 }).texts.map(({ text }) => text)).toContain('C3');
    expect(painted(paintGutter, { drums: true, view: null }).texts.length).toBeGreaterThan(20);
  });

  it('writes into each bar what it is moved by', () => {
    const layout = { ...LAYOUT, harmony: 46 };
    const sections = [{ bars: [2, 3] as [number, number], semitones: 5 }];
    const log = painted(paintHarmony, { layout, sections });
    expect(log.texts.map(({ text }) => text)).toEqual(['moved', '0', '+5', '0']);
    expect(inColour(log, 'accentSoft')[0].box[0]).toBe(46 + 480 + 1);
    expect(painted(paintHarmony, { layout, sections: null }).fills).toEqual([]);
  });

  it('puts a stem under each note as high as its velocity', () => {
    const stems = inColour(painted(paintVelocities), 'part2').filter(({ box }) => box[3] > 4);
    expect(stems.map(({ box }) => box[0])).toEqual([46, 166, 286]);
    expect(stems[0].box[3]).toBeCloseTo(84, 6);
    expect(stems[2].box[3]).toBeCloseTo((84 * 32) / 127, 6);
  });

  it('shows trouble over the whole part: late up, early down', () => {
    const { context, log } = recordingContext();
    paintOverview(context, scene(), 7680);
    const late = log.fills.filter(({ colour }) => colour === 'late');
    const early = log.fills.filter(({ colour }) => colour === 'early');
    expect([late.length, early.length]).toEqual([1, 1]);
    expect(late[0].box[1]).toBeLessThan(15);
    expect(early[0].box[1]).toBeGreaterThanOrEqual(15);
  });
});
