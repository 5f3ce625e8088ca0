import { draggedBeats, firstAtOrAfter } from '@ordle/core';
import { reachOf, type Gesture, type Region } from '@/surface';
import { createBarsEditor, type BarsElements, type BarsEvents } from '../bars/barsEditor';
import { RULER, tickOfX, xOfTick, type RowsShape } from '../bars/barsGeometry';
import { paintSecondsRuler } from './paintSecondsRuler';
import { noteUnder, notesBottom, paintTempo } from './paintTempo';
import type { TempoContent, TempoScene } from './tempoScene';

export interface TempoEvents extends BarsEvents {
  /** A beat was dragged from one time to another, with its neighbours or `alone`; ms. */
  onBeat(from: number, to: number, alone: boolean): void;
  /** A beat is meant at a time; ms. */
  onInsert(at: number): void;
  onFocus(beat: number): void;
  /** A note was pointed at; where it starts, in ms. */
  onNote(at: number): void;
}

/** One row, as high as there is room: what lies in it places itself. */
const SHAPE: RowsShape = { least: 100, most: 10_000, gap: 0, above: 0, spare: 0.02 };
/** Pixels around a post that take hold of it, and before a press counts as a drag. */
const [REACH, DRAG] = [6, 3];
/** Pixels beside a note that still point at it. */
const SLACK = 4;
/** A beat that is let go within this of a stroke is put onto it, in ms. */
const ONTO_MS = 60;
/** What is in sight at the first look, in ms. */
const FIRST_LOOK = 14_000;

/**
 * A performance in real time on a surface, with its beats as posts that can be picked up. All places are
 * milliseconds.
 */
export function createTempoEditor(elements: BarsElements, events: TempoEvents) {
  const { canvas } = elements;
  let dragged: TempoScene['dragged'] = null;

  /** The number of the beat whose post is at x; -1 for none. */
  function beatUnder(x: number): number {
    const { beats } = bars.content() ?? {};
    let [found, least] = [-1, reachOf(REACH)];
    beats?.forEach((at, beat) => {
      const off = Math.abs(xOfTick(at, bars.window()) - x);
      if (off <= least) [found, least] = [beat, off];
    });
    return found;
  }

  /** A time put onto the stroke beside it, if there is one. */
  function onto(at: number, free: boolean): number {
    const start = bars.content()?.notes.start;
    if (free || !start || start.length === 0) return at;
    const next = firstAtOrAfter(start, at, start.length);
    const near = [next - 1, next]
      .flatMap((row) => (row >= 0 && row < start.length ? [start[row]] : []))
      .sort((one, other) => Math.abs(one - at) - Math.abs(other - at))[0];
    return Math.abs(near - at) <= ONTO_MS ? near : at;
  }

  /** All beats with one of them elsewhere; null where that would leave them no room. */
  function draggedTo(beat: number, to: number, alone: boolean): TempoScene['dragged'] {
    const content = bars.content();
    if (!content) return null;
    const seconds = content.beats.map((at) => at / 1000);
    const others = content.set.map((at) => at / 1000).filter((at) => Math.abs(at - seconds[beat]) > 0.02);
    try {
      const moved = draggedBeats(
        { beats: seconds, strokes: content.strokes },
        others,
        beat,
        to / 1000,
        alone,
      );
      return { beat, to, beats: moved.map((at) => 1000 * at) };
    } catch {
      return null;
    }
  }

  function beginBeat(beat: number, x: number): Gesture {
    const from = bars.content()?.beats[beat] ?? 0;
    let isDrag = false;
    let isAlone = false;
    return {
      cursor: 'ew-resize',
      scrolls: true,
      move(toX, _, { shiftKey, altKey }) {
        isDrag ||= Math.abs(toX - x) > DRAG;
        if (!isDrag) return;
        const to = onto(Math.max(0, tickOfX(toX, bars.window())), shiftKey);
        dragged = draggedTo(beat, to, altKey) ?? dragged;
        isAlone = altKey;
        bars.invalidate();
      },
      end() {
        const made = dragged;
        dragged = null;
        bars.invalidate();
        if (made) events.onBeat(from, made.to, isAlone);
        else events.onFocus(beat);
      },
      abandon() {
        dragged = null;
        bars.invalidate();
      },
    };
  }

  const performance: Region<TempoScene> = {
    box: () => ({ left: 0, top: RULER, right: bars.layout().width, bottom: bars.layout().height }),
    paint: paintTempo,
    cursor: (x, y) => (y < notesBottom(bars.layout().height) && beatUnder(x) >= 0 ? 'ew-resize' : ''),
    grabs: (x, y) => y < notesBottom(bars.layout().height) && beatUnder(x) >= 0,
    begin(x, y) {
      canvas.focus({ preventScroll: true });
      const beat = y < notesBottom(bars.layout().height) ? beatUnder(x) : -1;
      if (beat >= 0) return beginBeat(beat, x);
      const at = Math.max(0, tickOfX(x, bars.window()));
      const notes = bars.content()?.notes;
      const { height } = bars.layout();
      const slack = SLACK * bars.window().ticksPerPixel;
      const row = notes && y < notesBottom(height) ? noteUnder(notes, at, y, height, slack) : -1;
      events.onLocate(row >= 0 && notes ? notes.start[row] : at);
      if (row >= 0 && notes) events.onNote(notes.start[row]);
      return null;
    },
    doubleClick(x, y) {
      if (y < notesBottom(bars.layout().height) && beatUnder(x) < 0)
        events.onInsert(onto(Math.max(0, tickOfX(x, bars.window())), false));
    },
  };

  const bars = createBarsEditor<TempoContent, TempoScene>(elements, events, {
    shape: SHAPE,
    rowsOf: () => ({ rows: 1, headings: [] }),
    firstLook: ({ lines, notes }) =>
      notes.start.length > 0 ? Math.min(FIRST_LOOK, lines.at(-1) ?? FIRST_LOOK) : 0,
    sceneOf: (content, look) => ({ ...content, ...look, dragged }),
    regions: [performance],
    paintRuler: paintSecondsRuler,
  });

  return {
    ...bars.face,
    setContent: (next: TempoContent) => bars.setContent(next, next.notes !== bars.content()?.notes),
    /** What is in sight, from and to, in ms. */
    inSight: (): [number, number] => [tickOfX(0, bars.window()), tickOfX(bars.layout().width, bars.window())],
    /** The number of the beat whose post is at a place of the canvas; -1 for none. */
    beatAt: (x: number, y: number): number =>
      y > RULER && y < notesBottom(bars.layout().height) ? beatUnder(x) : -1,
    /** The place of a beat's post on the canvas. */
    placeOfBeat: (beat: number) => ({
      x: xOfTick(bars.content()?.beats[beat] ?? 0, bars.window()),
      y: RULER + 40,
    }),
    /** The place of a time, in ms. */
    placeOf: (at: number) => ({ x: xOfTick(at, bars.window()), y: RULER + 40 }),
  };
}

export type TempoEditor = ReturnType<typeof createTempoEditor>;
