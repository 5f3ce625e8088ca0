import { pointsOf } from '@ordle/core';
import { THEMES, contrast, mixed } from './testing/contrast';
import { recordingContext, scene, view } from './testing/painting';
import { NO_NOTES } from './bars/barsScene';
import type { Colours } from './colours';
import { paintCurve } from './lane/paintCurve';
import { paintAlong, paintHelps } from './lane/paintHelps';
import type { LaneScene } from './lane/laneScene';
import { paintPartRows, paintPartsAbove } from './parts/paintParts';
import type { PartsScene } from './parts/partsScene';
import { paintHarmony } from './roll/harmonyBars';
import { paintGutter, paintRuler } from './roll/paintFrame';
import { paintHeat, paintMarks } from './roll/paintMarks';
import { paintNotes } from './roll/paintNotes';
import { paintSpans } from './roll/paintSpans';
import { paintStrip } from './roll/paintStrip';
import { paintTraces } from './roll/paintTraces';
import { paintVelocities } from './roll/paintVelocities';
import { paintRows, paintTakesAbove } from './takes/paintTakes';
import { paintSecondsRuler } from './tempo/paintSecondsRuler';
import { WINDOW } from './testing/notes';
import { paintAssembled } from './takes/paintAssembled';
import { paintTempo } from './tempo/paintTempo';
import type { TakesScene } from './takes/takesScene';
import type { TempoScene } from './tempo/tempoScene';

/** What only divides the paper, or lies behind what is told: rules, grounds, and pale areas. */
const QUIET = ['rule', 'ruleStrong', 'ground', 'sheet', 'well'] as const;
/** Areas that are told by what lies at their edges: how long the pedal holds, and boxes that select. */
const WASH = 0.3;

const coloursOf = (tokens: Record<string, string>): Colours => ({
  ground: tokens.ground,
  sheet: tokens.sheet,
  well: tokens.well,
  rule: tokens.rule,
  ruleStrong: tokens['rule-strong'],
  ink: tokens.ink,
  ink2: tokens['ink-2'],
  ink3: tokens['ink-3'],
  early: tokens.early,
  late: tokens.late,
  parts: Array.from({ length: 8 }, (_, ink) => tokens[`ink-part-${ink + 1}`]),
  font: 'serif',
  letters: '12px serif',
});

const seen = {
  start: Float64Array.of(0, 500, 2100),
  end: Float64Array.of(400, 900, 2500),
  pitch: Uint8Array.of(60, 64, 67),
};
const look = {
  layout: { width: 800, height: 500, rows: 2, headings: [] },
  window: { tick: 0, ticksPerPixel: 5, top: 0 },
  lines: Float64Array.of(0, 1920, 3840),
  loop: { on: false, from: 0, to: 0 },
  markers: [],
  pixelRatio: 1,
  isFocused: false,
};

/** A lane with points, presses and all that helps in it. */
const laneScene = (colours: Colours, ink: number, pedal: boolean): LaneScene => {
  const lane = (...list: [number, number][]) => pointsOf(list.map(([tick, value]) => ({ tick, value })));
  const points = lane([0, 0], [500, 90], [2000, 20]);
  return {
    view: {
      lane: pedal ? 'cc64' : 'cc11', channel: 1, points, trace: lane([0, 30], [700, 70]),
      low: 0, high: 127, resting: 0, others: [{ partId: 'other', name: 'Other', ink: (ink + 1) % 8, points }],
    },
    window: WINDOW, width: 800, height: 90, gutter: 46, ink, colours, selected: new Set([1]),
    stroke: [{ at: 0, value: 3 }, { at: 900, value: 80 }], box: { left: 60, right: 120, top: 10, bottom: 40 }, pedal,
    selectionBox: null, lines: [], endsShape: true, marks: null, error: { at: 500, value: 90 }, along: [], carried: 0,
  }; // prettier-ignore
};

/** The painters of the roll, the lanes, parts, takes and tempo, with something of each kind on them. */
const PAINTERS: Record<string, (context: CanvasRenderingContext2D, colours: Colours, ink: number) => void> = {
  roll(context, colours, ink) {
    const roll = scene({
      colours,
      ink,
      others: [{ partId: 'other', ink: (ink + 1) % 8, view }],
      selected: Uint8Array.of(1, 0, 0),
      selectionSpan: { from: 0, to: 400 },
      hovered: 1,
      spans: [
        { stepId: 'a', name: 'Quantize', from: 0, to: Infinity, isCurrent: true },
        { stepId: 'b', name: 'Nudge', from: 0, to: 3840, isCurrent: false, isOff: true },
      ],
      wherePitch: [60, 64],
      sections: [{ bars: [1, 2], semitones: 3 }],
      markers: [{ id: 'm', tick: 0, name: 'Quay' }],
      loop: { on: true, from: 0, to: 1920 },
    });
    paintNotes(context, roll);
    paintTraces(context, roll, 0, 3);
    paintMarks(context, roll, 0, 3);
    paintHeat(context, roll);
    paintRuler(context, roll);
    paintGutter(context, roll);
    paintStrip(context, roll, 7680);
    paintSpans(context, roll);
    paintHarmony(context, roll);
    paintVelocities(context, roll);
  },
  drums(context, colours, ink) {
    const roll = scene({ colours, ink, drums: true });
    paintNotes(context, roll);
    paintGutter(context, roll);
  },
  curves: (context, colours, ink) => paintLane(context, laneScene(colours, ink, false)),
  presses: (context, colours, ink) => paintLane(context, laneScene(colours, ink, true)),
  parts(context, colours, ink) {
    const block = { id: 'b', start: 0, once: 1920, end: 3840, isLinked: true, isMuted: false, words: '× 2' };
    const part = {
      id: 'p',
      isGroup: false,
      isFolded: false,
      ink,
      notes: seen,
      blocks: [block],
      isHeard: true,
      isSetAside: false,
    };
    const parts: PartsScene = {
      ...look, colours, active: 'p', snap: 0, selected: new Set(['p b']), drag: null,
      parts: [part, { ...part, id: 'q', isHeard: false }], marquee: { left: 60, top: 40, right: 120, bottom: 80 },
    }; // prettier-ignore
    paintPartRows(context, parts);
    paintPartsAbove(context, parts);
  },
  takes(context, colours, ink) {
    const take = { name: 'Take', notes: seen, spread: [12, 30], missing: [0, 1], extra: [0, 0], fault: null };
    const takes: TakesScene = {
      ...look, colours, ink, takes: [take, take], chosen: [Int32Array.of(0, 1)], proposal: Int32Array.of(1, 1),
      assembled: seen, dropped: NO_NOTES, seams: [{ at: 1920, from: 0, to: 1, isCutting: true }], seam: 0,
      focus: { row: 0, bar: 0 }, selected: { from: 0, to: 0 }, dragged: null, hovered: null, pitches: [55, 72],
    }; // prettier-ignore
    paintRows(context, takes);
    paintTakesAbove(context, takes);
    paintAssembled(context, takes);
  },
  beats(context, colours, ink) {
    const beats = Float64Array.of(0, 500, 1000, 1500);
    const tempo: TempoScene = {
      ...look, colours, ink, notes: seen, strokes: { time: [], strength: [] }, beats, downbeats: new Set([0]), firstBar: 1,
      sure: Float32Array.of(1, 0.2, 1, 1), set: [500], taps: [700], settled: beats, focus: 1, dragged: null,
    }; // prettier-ignore
    paintTempo(context, tempo);
    paintSecondsRuler(context, tempo);
  },
};

function paintLane(context: CanvasRenderingContext2D, lane: LaneScene) {
  paintAlong(context, lane);
  paintCurve(context, lane);
  paintHelps(context, lane);
}

describe.each(Object.entries(THEMES))('what is painted in the %s theme', (_, tokens) => {
  it.each(Object.keys(PAINTERS))(
    'stands out from the paper, words more than shapes: %s, in every ink',
    (name) => {
      const colours = coloursOf(tokens);
      const quiet = new Set<string>(QUIET.map((each) => colours[each]));
      const faint = new Set<string>();
      let told = 0;
      const hold = (what: string, colour: string, alpha: number, least: number) => {
        if (quiet.has(colour) || !colour.startsWith('#')) return;
        told++;
        const found = contrast(mixed(colour, colours.sheet, alpha), colours.sheet);
        if (found < least - 0.01) faint.add(`${what} ${colour} at ${alpha}: ${found.toFixed(2)}`);
      };
      for (let ink = 0; ink < 8; ink++) {
        const { context, log } = recordingContext();
        PAINTERS[name](context, colours, ink);
        for (const { colour, alpha } of log.fills) if (alpha > WASH) hold('area', colour, alpha, 3);
        for (const { colour } of log.strokes) hold('outline', colour, 1, 3);
        for (const { colour, alpha, isArea } of log.drawn)
          if (!isArea || alpha > WASH) hold(isArea ? 'shape' : 'line', colour, alpha, 3);
        for (const { colour, alpha } of log.texts) hold('word', colour, alpha, 4.5);
      }
      expect([...faint]).toEqual([]);
      expect(told).toBeGreaterThan(24);
    },
  );
});
