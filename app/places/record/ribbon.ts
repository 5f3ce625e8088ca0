import {
  barAt,
  createGrid,
  firstAtOrAfter,
  nearestLine,
  passOf,
  sessionTickOf,
  ticksToSeconds,
  type PlaybackPart,
  type Timeline,
} from '@ordle/core';
import type { Colours } from '@/editor/colours';
import { placedNotes } from '@/recording/clicks';
import type { Take } from '@/recording/takeUnderWay';

/** What the ribbon shows. Seconds of the music. */
export interface RibbonScene {
  timeline: Timeline;
  /** Where the music is. */
  second: number;
  /** What other parts will play, each with its ink. */
  others: readonly { playback: PlaybackPart; ink: string }[];
  take: Take | null;
  /** Inks of the parts that are recorded into. */
  inks: ReadonlyMap<string, string>;
  /** Beats that are still counted; 0 while none are. */
  counting: number;
  /** The stretch that will be recorded. */
  range: { from: number; to: number } | null;
}

/** The fixed line stands at two thirds of the width. */
export const LINE_AT = 2 / 3;
export const PIXELS_A_SECOND = 90;
const RULER = 22;
const MOVES_HEIGHT = 40;
/** Later or earlier than this is marked. */
const MARKED_MS = 8;

/** How many notes of what is played are looked at. */
const MOST_SHOWN = 600;
/** A note that began longer ago is not looked for. Seconds. */
const LONGEST_NOTE = 30;

const firstInSight = ({ noteStart }: PlaybackPart, first: number): number =>
  firstAtOrAfter(noteStart, first - LONGEST_NOTE);

/** Paints a ribbon of paper that moves under a fixed line: what comes to its right, what was played to its left. */
export function paintRibbon(
  context: CanvasRenderingContext2D,
  width: number,
  height: number,
  scene: RibbonScene,
  colours: Colours,
): void {
  const { second } = scene;
  const line = Math.round(width * LINE_AT);
  const xOf = (at: number) => line + (at - second) * PIXELS_A_SECOND;
  const [first, last] = [second - line / PIXELS_A_SECOND, second + (width - line) / PIXELS_A_SECOND];
  context.fillStyle = colours.sheet;
  context.fillRect(0, 0, width, height);
  paintBars(context, width, height, scene, colours, xOf);
  const { lowest, rows } = pitchesOf(scene, first, last);
  const rowHeight = Math.max(2, (height - RULER - MOVES_HEIGHT - 8) / rows);
  const yOf = (pitch: number) => height - MOVES_HEIGHT - 4 - (pitch - lowest + 1) * rowHeight;
  const bar = Math.max(2, Math.min(12, rowHeight - 1));

  context.lineWidth = 1;
  for (const { playback, ink } of scene.others) {
    context.strokeStyle = ink;
    context.globalAlpha = 0.55;
    for (let row = firstInSight(playback, first); row < playback.noteStart.length; row++) {
      if (playback.noteStart[row] > last) break;
      if (playback.noteEnd[row] < first) continue;
      const x = xOf(playback.noteStart[row]);
      const right = xOf(playback.noteEnd[row]);
      context.strokeRect(
        Math.round(x) + 0.5,
        Math.round(yOf(playback.notePitch[row])) + 0.5,
        Math.max(2, right - x),
        bar,
      );
    }
    context.globalAlpha = 1;
  }
  if (scene.take) paintPlayed(context, scene, scene.take, colours, { xOf, yOf, bar, height, second });

  context.fillStyle = colours.ink;
  context.fillRect(line, 0, 2, height);
  if (!scene.take && second < 0.5) {
    context.font = `14px ${colours.font}`;
    context.fillStyle = colours.ink2;
    context.textAlign = 'right';
    context.textBaseline = 'middle';
    context.fillText('What you play appears here;', line - 16, height / 2 - 11);
    context.fillText('what comes is right of the line.', line - 16, height / 2 + 11);
  }
  if (scene.counting > 0) {
    context.font = `600 ${Math.round(height * 0.6)}px ${colours.font}`;
    context.textAlign = 'center';
    context.textBaseline = 'middle';
    context.fillText(String(scene.counting), line / 2, height / 2);
  }
}

function paintBars(
  context: CanvasRenderingContext2D,
  width: number,
  height: number,
  { timeline, range }: RibbonScene,
  colours: Colours,
  xOf: (second: number) => number,
): void {
  const { meter, tempo } = timeline;
  if (range) {
    const [x, right] = [Math.max(0, xOf(range.from)), Math.min(width, xOf(range.to))];
    if (right > x) {
      context.fillStyle = colours.well;
      context.fillRect(x, RULER, right - x, height - RULER);
      context.fillStyle = colours.ink;
      context.fillRect(x, RULER - 4, right - x, 3);
    }
  }
  context.font = colours.letters;
  context.textAlign = 'left';
  context.textBaseline = 'alphabetic';
  const start = xOf(0);
  const from = start >= 0 ? 0 : Math.max(0, -start / PIXELS_A_SECOND);
  let tick = tickAt(timeline, from);
  for (let drawn = 0; drawn < 400; drawn++) {
    const bar = barAt(meter, tick);
    for (let beat = bar.start; beat < bar.end - 1e-6; beat += meter.beatTicks[bar.row]) {
      const x = Math.round(xOf(ticksToSeconds(tempo, beat)));
      if (x > width) return;
      if (x < -40) continue;
      const isBar = beat === bar.start;
      context.fillStyle = isBar ? colours.ruleStrong : colours.rule;
      context.fillRect(x, isBar ? 0 : RULER, 1, height);
      if (!isBar) continue;
      context.fillStyle = colours.ink2;
      context.fillText(String(bar.number), x + 4, 14);
    }
    tick = bar.end;
  }
}

/** The start of the bar that sounds at a second. */
function tickAt({ meter, tempo }: Timeline, second: number): number {
  let row = 0;
  while (row + 1 < tempo.second.length && tempo.second[row + 1] <= second) row++;
  return barAt(meter, Math.max(0, tempo.tick[row] + (second - tempo.second[row]) / tempo.secondsPerTick[row]))
    .start;
}

/** The lowest pitch in sight and how many rows there are, at least two octaves. */
function pitchesOf({ others, take }: RibbonScene, first: number, last: number) {
  let [lowest, highest] = [127, 0];
  const see = (pitch: number) => {
    lowest = Math.min(lowest, pitch);
    highest = Math.max(highest, pitch);
  };
  for (const { playback } of others)
    for (
      let row = firstInSight(playback, first);
      row < playback.noteStart.length && playback.noteStart[row] <= last;
      row++
    )
      if (playback.noteEnd[row] >= first) see(playback.notePitch[row]);
  for (const { recording } of take?.targets ?? [])
    for (const { pitch } of recording.open.notes.slice(-200)) see(pitch);
  if (lowest > highest) [lowest, highest] = [55, 79];
  const spare = Math.max(0, 24 - (highest - lowest + 1)) / 2;
  lowest = Math.max(0, Math.floor(lowest - spare));
  return { lowest, rows: Math.max(24, highest - lowest + 1) };
}

interface Places {
  xOf(second: number): number;
  yOf(pitch: number): number;
  bar: number;
  height: number;
  second: number;
}

/** What was played so far, in ink, with how early or late it was; and what was moved. */
function paintPlayed(
  context: CanvasRenderingContext2D,
  { timeline, inks }: RibbonScene,
  take: Take,
  colours: Colours,
  { xOf, yOf, bar, height, second }: Places,
): void {
  const { tempo, meter } = timeline;
  const secondOf = (tick: number) => ticksToSeconds(tempo, tick);
  const grid = createGrid(meter, [take.settings.grid ?? '1/16']);
  const place = { line: 0, step: 0 };
  for (const target of take.targets) {
    const ink = inks.get(target.partId) ?? colours.ink;
    const loop = target.recording.settings.loop;
    const newest = placedNotes(take, target, MOST_SHOWN);
    const pass = newest.at(-1)?.pass ?? 0;
    for (const note of newest) {
      if (note.pass !== pass && note.pass !== pass - 1) continue;
      const start = secondOf(note.start);
      const end = note.end === Infinity ? second : secondOf(note.end);
      const x = xOf(start);
      const right = Math.max(x + 3, xOf(end));
      const y = yOf(note.pitch);
      context.globalAlpha = note.pass === pass ? 1 : 0.35;
      context.fillStyle = ink;
      context.fillRect(x, y, right - x, bar);
      const played = note.row;
      const raw = sessionTickOf(target.recording.time, target.recording.open.notes[played].start);
      const unrolled = raw - note.pass * (loop ? loop.to - loop.from : 0);
      const late =
        (secondOf(unrolled) - secondOf(nearestLine(grid, Math.max(0, unrolled), place).line)) * 1000;
      if (Math.abs(late) < MARKED_MS) continue;
      const to = x - (late / 1000) * PIXELS_A_SECOND;
      context.fillStyle = late > 0 ? colours.late : colours.early;
      context.strokeStyle = context.fillStyle;
      context.fillRect(Math.min(x, to), y + bar + 1, Math.max(1, Math.abs(to - x)), 1);
      if (late > 0) context.fillRect(x, y + bar, 4, 4);
      else {
        context.beginPath();
        context.arc(x - 2, y + bar + 2, 2, 0, 2 * Math.PI);
        context.stroke();
      }
    }
    context.globalAlpha = 1;
    paintMoves(context, take, target, colours, { xOf, height, second });
  }
}

/** What wheels and pedals did, as one line a controller along the foot of the ribbon. */
function paintMoves(
  context: CanvasRenderingContext2D,
  take: Take,
  { recording }: Take['targets'][number],
  colours: Colours,
  { xOf, height, second }: Pick<Places, 'xOf' | 'height' | 'second'>,
): void {
  const loop = recording.settings.loop;
  const last = new Map<number, { x: number; y: number }>();
  context.strokeStyle = colours.ink2;
  context.lineWidth = 1.5;
  for (const { tick, status, data1, data2 } of recording.open.moves.slice(-2000)) {
    const unrolled = sessionTickOf(recording.time, tick);
    const length = loop ? loop.to - loop.from : 0;
    const pass = passOf(unrolled, loop);
    const kind = status & 0xf0;
    const value = kind === 0xb0 || kind === 0xa0 || kind === 0xe0 ? data2 : data1;
    const x = xOf(ticksToSeconds(take.timeline.tempo, unrolled - pass * length));
    const y = height - 4 - (value / 127) * (MOVES_HEIGHT - 8);
    const key = pass * 0x10000 + kind * 256 + (kind === 0xb0 ? data1 : 0);
    const before = last.get(key);
    if (before) {
      context.beginPath();
      context.moveTo(before.x, before.y);
      context.lineTo(x, before.y);
      context.lineTo(x, y);
      context.stroke();
    }
    last.set(key, { x, y });
  }
  const now = xOf(second);
  for (const { x, y } of last.values())
    if (x < now) {
      context.beginPath();
      context.moveTo(x, y);
      context.lineTo(Math.min(now, x + 2000), y);
      context.stroke();
    }
  context.lineWidth = 1;
}
