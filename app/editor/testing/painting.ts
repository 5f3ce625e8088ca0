import { createTimeline, type PartView } from '@ordle/core';
import type { Scene } from '../roll/scene';
import { LAYOUT, WINDOW, viewNotes } from './notes';

type Box = [x: number, y: number, width: number, height: number];

/** A drawing context that writes down what is painted and in which colour. */
export function recordingContext() {
  const log = {
    fills: [] as { colour: string; alpha: number; box: Box }[],
    strokes: [] as { colour: string; dashed: boolean; box: Box }[],
    texts: [] as { text: string; x: number; y: number; colour: string; alpha: number }[],
    /** Outlines and areas of paths: in which colour, and how much of it. */
    drawn: [] as { colour: string; alpha: number; isArea: boolean }[],
    lines: [] as [number, number][],
    arcs: [] as [x: number, y: number, radius: number][],
  };
  let dashed = false;
  const state: Record<string, unknown> = { fillStyle: '', strokeStyle: '', globalAlpha: 1 };
  const methods: Record<string, unknown> = {
    fillRect: (...box: Box) =>
      log.fills.push({ colour: String(state.fillStyle), alpha: Number(state.globalAlpha), box }),
    strokeRect: (...box: Box) => log.strokes.push({ colour: String(state.strokeStyle), dashed, box }),
    fillText: (text: string, x: number, y: number) =>
      log.texts.push({ text, x, y, colour: String(state.fillStyle), alpha: Number(state.globalAlpha) }),
    stroke: () =>
      log.drawn.push({ colour: String(state.strokeStyle), alpha: Number(state.globalAlpha), isArea: false }),
    fill: () =>
      log.drawn.push({ colour: String(state.fillStyle), alpha: Number(state.globalAlpha), isArea: true }),
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
  { parts: Array.from({ length: 8 }, (_, ink) => `part${ink}`), font: 'serif', letters: '12px serif' },
  { get: (target, name: string) => (name in target ? target[name as 'parts'] : name) },
) as unknown as Scene['colours'];

export const notes = viewNotes([
  [0, 400, 60, 127],
  [480, 880, 64, 64],
  [960, 1360, 67, 32],
]);
export const view: PartView = {
  partId: 'p',
  stop: 1,
  notes,
  traceStart: Float64Array.of(0, 440, 960),
  traceEnd: Float64Array.of(400, 840, 1360),
  late: Float32Array.of(0, 30, -30),
  measuredBy: ['1/16'],
  playedBy: '1/16',
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

export const scene = (more: Partial<Scene> = {}): Scene => ({
  othersSelected: new Map(),
  silent: [],
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
export function painted(
  paint: (context: CanvasRenderingContext2D, scene: Scene) => void,
  more: Partial<Scene> = {},
) {
  const { context, log } = recordingContext();
  paint(context, scene(more));
  return log;
}
export const inColour = (log: ReturnType<typeof painted>, colour: string) =>
  log.fills.filter((fill) => fill.colour === colour);
