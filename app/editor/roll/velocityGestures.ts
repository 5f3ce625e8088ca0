import type { ViewNotes } from '@ordle/core';
import { tickAt, xOf, type Layout } from './geometry';
import type { Gesture } from '@/surface';
import type { NoteGestureTarget } from './noteGestures';
import { fanOf, rankOf, velocityAtY, yOfVelocity } from './paintVelocities';
import { visibleRows } from './visibleRows';

/** Pixels around a stem's head that take hold of it. */
const REACH = 6;

/** Stems in sight with where they stand, of the selected notes only when some are selected. */
function stemsInSight(
  target: NoteGestureTarget,
  notes: ViewNotes,
  layout: Layout,
  onlySelected: boolean,
): { row: number; x: number }[] {
  const window = target.window();
  const rows = visibleRows(
    notes,
    tickAt(layout.gutter - 24, window, layout),
    tickAt(layout.width, window, layout),
  );
  const stems: { row: number; x: number }[] = [];
  for (let row = rows.first; row < rows.end; row++) {
    if (onlySelected && !target.isSelected(row)) continue;
    stems.push({
      row,
      x: xOf(notes.start[row], window, layout) + fanOf(rankOf(notes.start, row, window.ticksPerPixel)),
    });
  }
  return stems;
}

/**
 * Begins the gesture a press on the velocities starts: on a head it drags that velocity, or all selected ones keeping
 * their shape; elsewhere it draws across the stems, and with Shift a straight ramp that the loudest note of each chord
 * comes to lie on: the others stay as much softer than it as they were.
 */
export function beginVelocityGesture(
  target: NoteGestureTarget,
  x: number,
  y: number,
  event: PointerEvent,
): Gesture | null {
  const notes = target.notes();
  if (!notes || !target.mayEdit()) return null;
  const layout = target.layout();
  const all = stemsInSight(target, notes, layout, false);
  const distance = (stem: { row: number; x: number }) =>
    Math.hypot(stem.x + 1 - x, (yOfVelocity(notes.velocity[stem.row], layout) - y) * 0.8);
  const held = all.filter((stem) => distance(stem) < REACH).sort((a, b) => distance(a) - distance(b))[0];
  const selected = all.filter(({ row }) => target.isSelected(row));
  if (held && !event.shiftKey) return dragHeads(target, notes, held.row, y);
  return drawAcross(target, notes, selected.length > 0 ? selected : all, x, y, event.shiftKey);
}

function finish(target: NoteGestureTarget, notes: ViewNotes, velocities: ReadonlyMap<number, number>) {
  target.preview(null);
  if (velocities.size === 0) return;
  target.done({
    kind: 'velocity',
    velocities: new Map([...velocities].map(([row, velocity]) => [notes.id[row], velocity])),
  });
}

function dragHeads(target: NoteGestureTarget, notes: ViewNotes, held: number, y: number): Gesture {
  const layout = target.layout();
  if (!target.isSelected(held)) target.select([held], 'replace');
  const rows: number[] = [];
  for (let row = 0; row < notes.length; row++) if (row === held || target.isSelected(row)) rows.push(row);
  const from = velocityAtY(y, layout);
  let velocities = new Map<number, number>();
  target.sound(notes.pitch[held], notes.velocity[held]);
  return {
    move(x, toY, event) {
      const change = Math.round((velocityAtY(toY, layout) - from) * (event.shiftKey ? 0.2 : 1));
      velocities = new Map(
        rows.map((row) => [row, Math.min(127, Math.max(1, Math.round(notes.velocity[row]) + change))]),
      );
      const words =
        rows.length === 1
          ? String(velocities.get(held))
          : `${velocities.get(held)} (${change >= 0 ? '+' : '−'}${Math.abs(change)} on ${rows.length})`;
      target.preview({ kind: 'velocity', velocities, x, y: toY, words });
    },
    end: () => finish(target, notes, velocities),
  };
}

function drawAcross(
  target: NoteGestureTarget,
  notes: ViewNotes,
  stems: { row: number; x: number }[],
  x: number,
  y: number,
  ramp: boolean,
): Gesture {
  const layout = target.layout();
  const velocities = new Map<number, number>();
  const voicing = ramp ? belowLoudest(target, notes, stems) : null;
  let [lastX, lastY] = [x, y];
  const set = (fromX: number, fromY: number, toX: number, toY: number) => {
    const [low, high] = fromX < toX ? [fromX, toX] : [toX, fromX];
    for (const stem of stems) {
      // A chord is passed as a whole.
      const { below, x: at } = voicing?.get(stem.row) ?? { below: 0, x: stem.x };
      if (at + 1 < low - 2 || at > high + 2) continue;
      const share = toX === fromX ? 1 : Math.min(1, Math.max(0, (at - fromX) / (toX - fromX)));
      velocities.set(stem.row, Math.max(1, velocityAtY(fromY + (toY - fromY) * share, layout) - below));
    }
  };
  const show = (atX: number, atY: number) => {
    const words = ramp
      ? `${velocityAtY(y, layout)} to ${velocityAtY(atY, layout)} on ${velocities.size}`
      : String(velocityAtY(atY, layout));
    target.preview({ kind: 'velocity', velocities: new Map(velocities), x: atX, y: atY, words });
  };
  if (!ramp) {
    set(x, y, x, y);
    show(x, y);
  }
  return {
    move(toX, toY) {
      if (ramp) {
        velocities.clear();
        set(x, y, toX, toY);
      } else set(lastX, lastY, toX, toY);
      [lastX, lastY] = [toX, toY];
      show(toX, toY);
    },
    end: () => finish(target, notes, velocities),
  };
}

/** How much softer each note is than the loudest of its chord, and where the chord's first stem stands, by its row. */
function belowLoudest(
  target: NoteGestureTarget,
  notes: ViewNotes,
  stems: readonly { row: number; x: number }[],
): Map<number, { below: number; x: number }> {
  const below = new Map<number, { below: number; x: number }>();
  for (let from = 0; from < stems.length;) {
    const last = target.chordEnd(notes.start[stems[from].row]);
    let to = from;
    while (to < stems.length && notes.start[stems[to].row] <= last) to++;
    const chord = stems.slice(from, Math.max(to, from + 1));
    const loudest = Math.max(...chord.map(({ row }) => notes.velocity[row]));
    for (const { row } of chord)
      below.set(row, { below: Math.round(loudest - notes.velocity[row]), x: chord[0].x });
    from += chord.length;
  }
  return below;
}
