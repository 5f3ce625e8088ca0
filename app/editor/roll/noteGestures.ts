import {
  barAt,
  broughtTo,
  createGrid,
  nearestLine,
  type MeterMap,
  type NoteValue,
  type Snap,
  type ViewNotes,
} from '@ordle/core';
import { reachOf, type Gesture } from '@/surface';
import type { EditorWindow } from '@/state/viewSlice';
import { pitchAt, tickAt, xOf, yOf, type Layout } from './geometry';
import { rowsAt } from './pitchIndex';
import type { NoteGesture, Preview } from './preview';
import type { SelectionSpan } from './stretchGesture';

/** What gestures on notes need to know and may do. */
export interface NoteGestureTarget {
  layout(): Layout;
  window(): EditorWindow;
  notes(): ViewNotes | null;
  isSelected(row: number): boolean;
  meter(): MeterMap | null;
  /** The last tick at which a note is of one chord with a note that starts at a tick. */
  chordEnd(start: number): number;
  grid(): { values: NoteValue[]; swing: number };
  snap(): Snap;
  tool(): 'select' | 'draw' | 'erase';
  mayEdit(): boolean;
  preview(preview: Preview | null): void;
  /** Selects rows: instead of what was selected, besides it, or in turn. */
  select(rows: number[], how: 'replace' | 'add' | 'toggle'): void;
  done(gesture: NoteGesture): void;
  /** First start and last end of the selected notes when there are two or more. */
  selectionSpan(): SelectionSpan | null;
  /** Sounds a pitch while it is dragged. */
  sound(pitch: number, velocity: number): void;
  /** Selects a note of another shown part where the press was on one; `adds` it to what is selected. */
  pressOther(tick: number, pitch: number, adds: boolean): boolean;
  /** Selects what lies in a box of ticks and pitches, in every part that is shown. */
  selectBox(box: { from: number; to: number; low: number; high: number }, how: 'replace' | 'add'): void;
  /** The first start of all that is selected, in ticks. */
  leastStart(): number;
}

/** Pixels around the ends of a note that trim it. */
const EDGE = 5;
const SLACK = 3;
/** Pixels before a press counts as a drag. */
const DRAG = 3;

const isMod = (event: MouseEvent) => event.ctrlKey || event.metaKey;

/** What a place on the roll offers: the end of a note, its body, or nothing. */
export function spotAt(
  target: NoteGestureTarget,
  x: number,
  y: number,
): { rows: number[]; edge: 'start' | 'end' | null } {
  const notes = target.notes();
  const [layout, window] = [target.layout(), target.window()];
  if (!notes) return { rows: [], edge: null };
  const rows = rowsAt(
    notes,
    tickAt(x, window, layout),
    pitchAt(y, window, layout),
    SLACK * window.ticksPerPixel,
  );
  if (rows.length === 0) return { rows, edge: null };
  const [left, right] = [xOf(notes.start[rows[0]], window, layout), xOf(notes.end[rows[0]], window, layout)];
  const room = Math.min(reachOf(EDGE), (right - left) / 4);
  const edge =
    x < left + Math.min(room, 3) && right - left > 8
      ? 'start'
      : x > right - room && right - left > 6
        ? 'end'
        : null;
  return { rows, edge };
}

/** Begins the gesture a press on the roll starts. */
export function beginNoteGesture(
  target: NoteGestureTarget,
  x: number,
  y: number,
  event: PointerEvent,
): Gesture | null {
  const notes = target.notes();
  if (!notes) return null;
  const [layout, window] = [target.layout(), target.window()];
  const tick = tickAt(x, window, layout);
  const pitch = pitchAt(y, window, layout);
  const spot = spotAt(target, x, y);
  const tool = target.mayEdit() ? target.tool() : 'select';
  if (tool === 'erase') return eraseGesture(target, notes, x, y);
  if (spot.rows.length === 0) {
    if (target.pressOther(tick, pitch, event.shiftKey || isMod(event))) return null;
    if (tool === 'draw') return drawGesture(target, tick, pitch);
    return marqueeGesture(target, x, y, event);
  }
  return noteGesture(target, notes, { x, y, tick, pitch, rows: spot.rows, edge: spot.edge }, event);
}

interface Press {
  x: number;
  y: number;
  tick: number;
  pitch: number;
  rows: number[];
  edge: 'start' | 'end' | null;
}

/**
 * A press on a note: a click selects (a second click the note beneath), a drag moves, copies (Mod) or trims (at an
 * end).
 */
function noteGesture(
  target: NoteGestureTarget,
  notes: ViewNotes,
  press: Press,
  event: PointerEvent,
): Gesture {
  const adding = event.shiftKey || isMod(event);
  const row = press.rows[0];
  const already = press.rows.find((candidate) => target.isSelected(candidate));
  if (already === undefined && !adding) target.select([row], 'replace');
  target.sound(notes.pitch[row], notes.velocity[row]);
  let preview: Preview | null = null;
  let dragged = false;
  let sounded = notes.pitch[row];
  const held = already ?? row;
  return {
    scrolls: true,
    move(x, y, now) {
      if (!dragged && Math.hypot(x - press.x, y - press.y) < DRAG) return;
      if (!target.mayEdit()) return;
      // A copy is of what is dragged; Shift drags it along with what was selected.
      if (!dragged && adding && already === undefined) target.select([row], isMod(event) ? 'replace' : 'add');
      dragged = true;
      const window = target.window();
      const fine = now.shiftKey ? 0.1 : 1;
      // From the tick that was pressed, which stays what it is while the view scrolls.
      const ticks = (tickAt(x, window, target.layout()) - press.tick) * fine;
      const free = now.altKey || now.shiftKey;
      if (press.edge && !isMod(event)) {
        const from = press.edge === 'start' ? notes.start[held] : notes.end[held];
        preview = {
          kind: 'trim',
          edge: press.edge,
          ticks: free ? Math.round(ticks) : snapped(target, from + ticks) - from,
          at: { x, y },
        };
      } else {
        const semitones = Math.round((pitchAt(y, window, target.layout()) - press.pitch) * 1);
        const from = notes.start[held];
        const room = target.leastStart();
        const wanted = free
          ? Math.round(ticks)
          : Math.abs(ticks) < window.ticksPerPixel * DRAG
            ? 0
            : brought(target, from, from + ticks) - from;
        preview = {
          kind: 'move',
          ticks: Math.max(-room, wanted),
          semitones,
          copy: isMod(event),
          at: { x, y },
        };
        const pitch = notes.pitch[held] + semitones;
        if (pitch !== sounded && pitch >= 0 && pitch <= 127)
          target.sound((sounded = pitch), notes.velocity[held]);
      }
      target.preview(preview);
    },
    end() {
      target.preview(null);
      if (preview?.kind === 'move' || preview?.kind === 'trim') {
        const still = preview.ticks === 0 && (preview.kind === 'trim' || preview.semitones === 0);
        const gesture = { ...preview };
        delete gesture.at;
        if (!still) target.done(gesture);
      } else if (!dragged) {
        if (adding) target.select([row], 'toggle');
        else if (already !== undefined) {
          // Clicking again goes through the notes that lie over each other.
          const next = press.rows[(press.rows.indexOf(already) + 1) % press.rows.length];
          target.select([press.rows.length > 1 ? next : row], 'replace');
        }
      }
    },
  };
}

/** Where a note comes to that is dragged, by the grid as it is set. */
function brought(target: NoteGestureTarget, from: number, wanted: number): number {
  const meter = target.meter();
  if (!meter) return Math.round(Math.max(0, wanted));
  const { values, swing } = target.grid();
  return broughtTo(createGrid(meter, values, swing), target.snap(), from, wanted);
}

/** The grid line nearest to a place, or the place itself where snapping is off. */
export function snapped(target: NoteGestureTarget, tick: number): number {
  const meter = target.meter();
  if (!meter || target.snap() === 'off') return Math.round(Math.max(0, tick));
  const { values, swing } = target.grid();
  return nearestLine(createGrid(meter, values, swing), Math.max(0, tick), { line: 0, step: 0 }).line;
}

/** The grid line at or before a place, and the step of the grid. */
function lineBefore(target: NoteGestureTarget, tick: number): { line: number; step: number } {
  const meter = target.meter();
  if (!meter) return { line: tick, step: 240 };
  const { values, swing } = target.grid();
  const grid = createGrid(meter, values, swing);
  const step = Math.min(...grid.steps);
  const found = nearestLine(grid, Math.max(0, tick), { line: 0, step });
  const bar = barAt(meter, Math.max(0, tick));
  return { line: found.line <= tick + 1e-6 ? found.line : Math.max(bar.start, found.line - step), step };
}

function drawGesture(target: NoteGestureTarget, tick: number, pitch: number): Gesture {
  const place =
    target.snap() !== 'off'
      ? lineBefore(target, tick)
      : { line: Math.round(Math.max(0, tick)), step: lineBefore(target, tick).step };
  let preview = { kind: 'draw' as const, start: place.line, end: place.line + place.step, pitch };
  target.sound(pitch, 90);
  target.preview(preview);
  return {
    scrolls: true,
    move(x, y, event) {
      const [layout, window] = [target.layout(), target.window()];
      const at = tickAt(x, window, layout);
      const end = event.altKey ? Math.round(at) : snapped(target, at + place.step / 2);
      const next = Math.min(127, Math.max(0, pitchAt(y, window, layout)));
      if (next !== preview.pitch) target.sound(next, 90);
      preview = { ...preview, pitch: next, end: Math.max(place.line + (event.altKey ? 1 : place.step), end) };
      target.preview(preview);
    },
    end() {
      target.preview(null);
      target.done(preview);
    },
  };
}

function eraseGesture(target: NoteGestureTarget, notes: ViewNotes, x: number, y: number): Gesture {
  const rows = new Set<number>();
  const rub = (atX: number, atY: number) => {
    const [layout, window] = [target.layout(), target.window()];
    for (const row of rowsAt(
      notes,
      tickAt(atX, window, layout),
      pitchAt(atY, window, layout),
      reachOf(SLACK) * window.ticksPerPixel,
    ))
      rows.add(row);
    target.preview({ kind: 'erase', rows: new Set(rows) });
  };
  rub(x, y);
  return {
    move: rub,
    end() {
      target.preview(null);
      if (rows.size > 0) target.done({ kind: 'erase', ids: [...rows].map((row) => notes.id[row]) });
    },
  };
}

function marqueeGesture(target: NoteGestureTarget, x: number, y: number, event: PointerEvent): Gesture {
  const adding = event.shiftKey || isMod(event);
  let box: { left: number; top: number; right: number; bottom: number } | null = null;
  const begun = target.window();
  return {
    scrolls: true,
    move(toX, toY) {
      if (!box && Math.hypot(toX - x, toY - y) < DRAG) return;
      // Where the press is now, when the view has scrolled since.
      const window = target.window();
      const fromX = x + (begun.tick - window.tick) / window.ticksPerPixel;
      const layout = target.layout();
      const fromY = y + yOf(0, window, layout) - yOf(0, begun, layout);
      box = {
        left: Math.min(fromX, toX),
        right: Math.max(fromX, toX),
        top: Math.min(fromY, toY),
        bottom: Math.max(fromY, toY),
      };
      target.preview({ kind: 'marquee', ...box });
    },
    end() {
      target.preview(null);
      const [layout, window] = [target.layout(), target.window()];
      if (box) {
        target.selectBox(
          {
            from: tickAt(box.left, window, layout),
            to: tickAt(box.right, window, layout),
            low: pitchAt(box.bottom, window, layout),
            high: pitchAt(box.top, window, layout),
          },
          adding ? 'add' : 'replace',
        );
      } else if (!adding) target.select([], 'replace');
    },
  };
}
