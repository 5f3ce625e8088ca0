import { createTimeline, type PartView } from '@ordle/core';
import { paintHarmony } from './harmonyBars';
import { paintGutter, paintRuler } from './paintFrame';
import { paintStrip } from './paintStrip';
import { paintVelocities } from './paintVelocities';
import { paintNotes, paintOverlay } from './paintNotes';
import { paintSpans } from './paintSpans';
import { paintSoundingKeys, soundingRows } from './paintSounding';
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
    arcs: [] as [x: number, y: number, radius: number][],
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
    arc: (x: number, y: number, radius: number) => log.arcs.push([x, y, radius]),
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

// Without a page there is no second canvas: what is kept as a picture is painted in place.
globalThis.document ??= { createElement: () => ({ getContext: () => null }) } as unknown as Document;

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
  offMs: [],
  reading: null,
  changes: [],
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
  dropped: null,
  lostEdits: [],
  sharing: [],
  squeezed: 0,
  strip: {
    before: { late: Float32Array.of(0, 40, 0), early: Float32Array.of(0, 0, 30) },
    after: { late: Float32Array.of(0, 30, 0), early: Float32Array.of(0, 0, 30) },
    reach: 60,
  },
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
  markers: [],
  ink: 2,
  drums: false,
  middleC: 4,
  hovered: -1,
  selected: new Uint8Array(3),
  selectionSpan: null,
  focused: -1,
  preview: null,
  sounding: [],
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
      [46, 180.5, 99, 5],
      [166, 140.5, 99, 5],
      [286, 110.5, 99, 5],
    ]);
    const [loud, middle, soft] = bodies.map(({ alpha }) => alpha);
    expect(loud).toBeGreaterThan(middle);
    expect(middle).toBeGreaterThan(soft);
  });

  it('outlines where a note ended that is shorter or longer now, and only that', () => {
    const ended = (traceEnd: number[]) =>
      painted(paintNotes, { view: { ...view, traceEnd: Float64Array.from(traceEnd) } })
        .strokes.filter(({ dashed }) => dashed)
        .map(({ box }) => [box[0], box[2]]);
    // The second was 40 ticks shorter at its end and began 40 ticks earlier: it kept its length.
    expect(ended([400, 840, 1360])).toEqual([]);
    expect(ended([400, 840, 1480])).toEqual([[46 + 1360 / 4 + 0.5, 29]]);
    expect(painted(paintNotes, { show: 'cleaned' }).strokes).toEqual([]);
  });

  it('tells in a band under each note, true to scale, where it was: a square for late, a ring for early', () => {
    // The second was 40 ticks early; 20 pixels late would be 80 ticks.
    const late = { ...view, traceStart: Float64Array.of(80, 440, 960) };
    const { fills, arcs } = painted(paintNotes, { view: late });
    const [line, square] = fills.filter(({ colour }) => colour === 'late').map(({ box }) => box);
    expect([line[0], line[2]]).toEqual([46, 20]);
    expect([square[0] + square[2], square[2], square[3]]).toEqual([66, 3, 3]);
    // Under the note, not over it.
    expect(square[1]).toBeGreaterThanOrEqual(180.5 + 5);
    const [[ring, , radius]] = arcs;
    expect(ring - radius).toBe(46 + 440 / 4);
    const reach = fills.filter(({ colour }) => colour === 'early').map(({ box }) => box[0] + box[2]);
    expect(reach).toEqual([166]);
  });

  it('leaves what is under two pixels to the ruler, which tells of nothing else', () => {
    const near = { ...view, traceStart: Float64Array.of(6, 480, 1100) };
    const marks = painted(paintNotes, { view: near });
    expect(inColour(marks, 'late').every(({ box }) => box[0] > 280)).toBe(true);
    const heat = inColour(painted(paintRuler, { view: near }), 'late');
    expect(heat.map(({ box }) => [box[0], box[2], box[3]])).toEqual([[46, 4, 2]]);
    // From farther away nothing bears a mark any more.
    const window = { ...WINDOW, ticksPerPixel: 80 };
    expect(inColour(painted(paintNotes, { view: near, window }), 'late')).toEqual([]);
    expect(inColour(painted(paintRuler, { view: near, window }), 'late')).toHaveLength(2);
  });

  it('lights what sounds, and its keys', () => {
    const sounding = soundingRows(notes, 500);
    expect(sounding).toEqual([1]);
    expect(inColour(painted(paintOverlay, { sounding }), 'part2').map(({ box }) => box[0])).toEqual([166.5]);
    expect(inColour(painted(paintSoundingKeys, { sounding }), 'part2').map(({ box }) => box[1])).toEqual([
      140.5,
    ]);
    expect(soundingRows(notes, 400)).toEqual([]);
  });

  it('keeps a ghost of what is dragged where it was, and tells the change at the pointer', () => {
    const selected = Uint8Array.of(0, 1, 0);
    const preview = { kind: 'move', ticks: 96, semitones: -1, copy: false, at: { x: 300, y: 200 } } as const;
    const ghost = painted(paintNotes, { selected, preview }).strokes.filter(({ dashed }) => dashed);
    expect(ghost.map(({ box }) => box[0])).toContain(166.5);
    const [told] = painted(paintOverlay, { selected, preview }).texts;
    expect(told.text).toBe('+96 ticks, +100 ms; −1 semitone');
    const trim = { kind: 'trim', edge: 'end', ticks: -100, at: { x: 300, y: 200 } } as const;
    expect(painted(paintOverlay, { selected, preview: trim }).texts[0].text).toBe('length 300');
  });

  it('frames selected notes, and shows where a drag or a stretch would put them', () => {
    const selected = Uint8Array.of(0, 1, 1);
    const frames = (more: Partial<Scene>) =>
      painted(paintNotes, { selected, ...more })
        .fills.filter(({ colour }) => colour === 'ink')
        .map(({ box }) => box);
    expect(frames({}).map(([x]) => x)).toEqual([163, 283]);
    expect(
      frames({ preview: { kind: 'move', ticks: 120, semitones: -1, copy: false } }).map(([x, y]) => [x, y]),
    ).toEqual([
      [193, 147.5],
      [313, 117.5],
    ]);
    expect(
      frames({
        preview: { kind: 'stretch', anchor: 480, factor: 2, x: 0, y: 0 },
        selectionSpan: { from: 480, to: 1360 },
      }).map(([x, , width]) => [x, width]),
    ).toEqual([
      [163, 205],
      [403, 205],
    ]);
  });

  it('shows a stretch at its grip with its factor', () => {
    const selectionSpan = { from: 480, to: 1360 };
    expect(inColour(painted(paintOverlay, { selectionSpan }), 'ink')[0].box).toEqual([46 + 340, 60, 1, 500]);
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

  it('draws doubles that were left out as boxes where they lay, unless only what is cleaned is shown', () => {
    const dropped = { start: Float64Array.of(480), end: Float64Array.of(960), pitch: Uint8Array.of(60) };
    const boxes = (more: Partial<Scene>) =>
      painted(paintNotes, { view: { ...view, dropped }, ...more }).strokes.filter(
        ({ box }) => box[2] === 119,
      );
    expect(boxes({}).map(({ box }) => box[0])).toEqual([46 + 480 / 4 + 0.5]);
    expect(boxes({ show: 'cleaned' })).toEqual([]);
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
