import { THEMES, contrast, mixed } from './testing/contrast';
import { recordingContext, scene, view } from './testing/painting';
import { NO_NOTES } from './bars/barsScene';
import type { Colours } from './colours';
import { paintNotes } from './roll/paintNotes';
import { paintRows } from './takes/paintTakes';
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

/** Every painter with something of each kind on it. */
const PAINTERS: Record<string, (context: CanvasRenderingContext2D, colours: Colours, ink: number) => void> = {
  notes: (context, colours, ink) =>
    paintNotes(
      context,
      scene({
        colours,
        ink,
        others: [{ partId: 'other', ink: (ink + 1) % 8, view }],
        selected: Uint8Array.of(1, 0, 0),
      }),
    ),
  takes(context, colours, ink) {
    const take = { name: 'Take', notes: seen, spread: [12, 30], missing: [0, 1], extra: [0, 0], fault: null };
    const takes: TakesScene = {
      ...look, colours, ink, takes: [take, take], chosen: [Int32Array.of(0, 1)], proposal: Int32Array.of(1, 1),
      assembled: seen, dropped: NO_NOTES, seams: [{ at: 1920, from: 0, to: 1, isCutting: true }], seam: 0,
      focus: { row: 0, bar: 0 }, selected: { from: 0, to: 0 }, dragged: null, hovered: null, pitches: [55, 72],
    }; // prettier-ignore
    paintRows(context, takes);
    paintAssembled(context, takes);
  },
  beats(context, colours, ink) {
    const beats = Float64Array.of(0, 500, 1000, 1500);
    const tempo: TempoScene = {
      ...look, colours, ink, notes: seen, strokes: { time: [], strength: [] }, beats, downbeats: new Set([0]), firstBar: 1,
      sure: Float32Array.of(1, 0.2, 1, 1), set: [500], taps: [700], settled: beats, focus: 1, dragged: null,
    }; // prettier-ignore
    paintTempo(context, tempo);
  },
};

describe.each(Object.entries(THEMES))('what is painted in the %s theme', (_, tokens) => {
  it.each(Object.keys(PAINTERS))('stands out 3 to 1 from the paper: %s, in every ink', (name) => {
    const colours = coloursOf(tokens);
    const quiet = new Set<string>(QUIET.map((each) => colours[each]));
    for (let ink = 0; ink < 8; ink++) {
      const { context, log } = recordingContext();
      PAINTERS[name](context, colours, ink);
      const told = [...log.fills, ...log.strokes.map((stroke) => ({ ...stroke, alpha: 1 }))].filter(
        ({ colour, alpha }) => !quiet.has(colour) && alpha > WASH,
      );
      expect(told.length).toBeGreaterThan(3);
      for (const { colour, alpha } of told)
        expect(contrast(mixed(colour, colours.sheet, alpha), colours.sheet)).toBeGreaterThanOrEqual(2.99);
    }
  });
});
