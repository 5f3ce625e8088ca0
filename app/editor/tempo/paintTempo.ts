import { paintStrips } from '../bars/paintStrips';
import { RULER, xOfTick } from '../bars/barsGeometry';
import type { TempoScene } from './tempoScene';

/** Heights under the notes: the tempo as a stair, and how sure each beat is. */
const [STAIR, SURE] = [120, 48];
/** Left of this stand the words of the two. */
const MARGIN = 40;
/** Beats less sure than this are in the colour of what is late: a person should look. */
const DOUBTFUL = 0.55;

export const notesBottom = (height: number): number => height - STAIR - SURE;

/** Where the notes stand, from the highest pitch down. */
function noteStrip(notes: TempoScene['notes'], height: number) {
  const pitches = pitchesOf(notes);
  const strip = { top: RULER + 14, height: Math.max(20, notesBottom(height) - RULER - 24) };
  return { ...strip, pitches, step: strip.height / Math.max(1, pitches[1] - pitches[0] + 1) };
}

/** The note at a place, by its row; -1 for none. `at` in ms, a little less than a pixel beside it counts. */
export function noteUnder(
  notes: TempoScene['notes'],
  at: number,
  y: number,
  height: number,
  slack: number,
): number {
  const { top, step, pitches } = noteStrip(notes, height);
  const pitch = Math.round(pitches[1] - (y - top) / step + 0.5);
  let found = -1;
  notes.start.forEach((start, row) => {
    const isHere = at >= start - slack && at <= Math.max(notes.end[row], start + 2 * slack);
    if (isHere && Math.abs(notes.pitch[row] - pitch) <= 1 && (found < 0 || start > notes.start[found]))
      found = row;
  });
  return found;
}

/** Notes in real time, the beats over them, the tempo that follows, and how sure the beats are. */
export function paintTempo(context: CanvasRenderingContext2D, scene: TempoScene) {
  const { layout, colours } = scene;
  const bottom = notesBottom(layout.height);
  context.fillStyle = colours.sheet;
  context.fillRect(0, RULER, layout.width, layout.height - RULER);
  const strip = {
    ...noteStrip(scene.notes, layout.height),
    notes: scene.notes,
    colour: colours.parts[scene.ink],
    isFull: () => true,
    paper: colours.sheet,
  };
  context.save();
  context.beginPath();
  context.rect(0, RULER, layout.width, bottom - RULER);
  context.clip();
  paintStrips(context, [strip], { top: RULER, width: layout.width, height: bottom - RULER }, scene);
  context.restore();
  paintPosts(context, scene, bottom);
  paintTaps(context, scene, bottom);
  paintStair(context, scene, bottom);
  paintSureness(context, scene);
}

function pitchesOf(notes: TempoScene['notes']): [number, number] {
  let [low, high] = [127, 0];
  for (const pitch of notes.pitch) {
    if (pitch < low) low = pitch;
    if (pitch > high) high = pitch;
  }
  return low > high ? [48, 72] : [low - 1, high + 1];
}

/** Posts at the beats: those of bar lines taller and darker, those a person set with a ring. */
function paintPosts(context: CanvasRenderingContext2D, scene: TempoScene, bottom: number) {
  const { beats, downbeats, window, layout, colours, set, dragged, focus } = scene;
  beats.forEach((at, beat) => {
    const moment = dragged?.beats[beat] ?? at;
    const x = Math.round(xOfTick(moment, window));
    if (x < -4 || x > layout.width + 4) return;
    const isBar = downbeats.has(beat);
    context.fillStyle = isBar ? colours.ink : colours.ink3;
    context.fillRect(x, RULER, isBar ? 2 : 1, bottom - RULER);
    context.fillRect(x - 3, RULER, 7, isBar ? 12 : 8);
    const isSet = set.some((each) => Math.abs(each - at) < 20);
    if (isSet || beat === focus) {
      context.strokeStyle = colours.ink;
      context.lineWidth = 2;
      context.beginPath();
      context.arc(x + 0.5, bottom - 14, isSet ? 7 : 5, 0, 2 * Math.PI);
      context.stroke();
      if (beat === focus) {
        context.fillStyle = colours.ink;
        context.fillRect(x - 1, bottom - 15, 4, 3);
      }
    }
  });
}

/** Taps that are gathered, as short strokes under the posts. */
function paintTaps(context: CanvasRenderingContext2D, { taps, window, colours }: TempoScene, bottom: number) {
  context.fillStyle = colours.late;
  for (const tap of taps) context.fillRect(Math.round(xOfTick(tap, window)) - 1, bottom - 26, 3, 22);
}

/** The tempo of each settled beat as a stair, with round tempos beside it. */
function paintStair(context: CanvasRenderingContext2D, scene: TempoScene, top: number) {
  const { settled, window, layout, colours } = scene;
  context.fillStyle = colours.ground;
  context.fillRect(0, top, layout.width, STAIR);
  context.fillStyle = colours.ruleStrong;
  context.fillRect(0, top, layout.width, 1);
  const bpms = Array.from(settled.subarray(1), (at, beat) => 60_000 / (at - settled[beat]));
  if (bpms.length === 0) return;
  const [least, most] = [Math.min(...bpms), Math.max(...bpms)];
  const reach = Math.max(4, (most - least) / 2);
  const middle = (least + most) / 2;
  const yOf = (bpm: number) => top + STAIR / 2 - ((bpm - middle) / reach) * (STAIR / 2 - 16);
  context.font = colours.letters;
  context.textBaseline = 'middle';
  context.textAlign = 'left';
  const step = reach > 40 ? 20 : reach > 15 ? 10 : reach > 6 ? 5 : 2;
  for (let bpm = Math.ceil((middle - reach) / step) * step; bpm <= middle + reach; bpm += step) {
    context.fillStyle = colours.rule;
    context.fillRect(MARGIN, Math.round(yOf(bpm)), layout.width, 1);
    context.fillStyle = colours.ink2;
    // Room for the unit over them.
    if (yOf(bpm) > top + 22) context.fillText(String(bpm), 8, yOf(bpm));
  }
  context.strokeStyle = colours.parts[scene.ink];
  context.lineWidth = 2;
  context.beginPath();
  bpms.forEach((bpm, beat) => {
    const [left, right] = [xOfTick(settled[beat], window), xOfTick(settled[beat + 1], window)];
    if (right < MARGIN || left > layout.width) return;
    context.lineTo(Math.max(MARGIN, left), yOf(bpm));
    context.lineTo(right, yOf(bpm));
  });
  context.stroke();
  context.fillStyle = colours.ink2;
  context.fillText('bpm', 8, top + 9);
}

/** How sure each beat is, as a bar; in the colour of what is late where a person should look. */
function paintSureness(context: CanvasRenderingContext2D, scene: TempoScene) {
  const { beats, sure, window, layout, colours } = scene;
  const bottom = layout.height - 4;
  context.fillStyle = colours.ground;
  context.fillRect(0, layout.height - SURE, layout.width, SURE);
  context.fillStyle = colours.rule;
  context.fillRect(0, layout.height - SURE, layout.width, 1);
  beats.forEach((at, beat) => {
    const x = xOfTick(at, window);
    if (x < MARGIN - 8 || x > layout.width) return;
    const next = beat + 1 < beats.length ? xOfTick(beats[beat + 1], window) : x + 12;
    context.fillStyle = sure[beat] < DOUBTFUL ? colours.late : colours.ink3;
    const height = Math.max(2, sure[beat] * (SURE - 12));
    context.fillRect(x - 3, bottom - height, Math.max(2, Math.min(16, (next - x) * 0.5)), height);
  });
  context.fillStyle = colours.ground;
  context.fillRect(0, layout.height - SURE + 1, MARGIN - 8, SURE - 1);
  context.fillStyle = colours.ink2;
  context.font = colours.letters;
  context.textBaseline = 'middle';
  context.textAlign = 'left';
  context.fillText('sure', 8, layout.height - SURE / 2);
}
