import { paintStrips } from '../bars/paintStrips';
import { barsInSight } from './paintTakes';
import { ASSEMBLED, NAMES, ROWS_TOP, RULER, hasRings, xOfTick } from './takesGeometry';
import type { SeenTake, TakesScene } from './takesScene';

/** Over the takes: the part they make, its seams, what was dropped as a double, and which take supplies each bar. */
export function paintAssembled(context: CanvasRenderingContext2D, scene: TakesScene) {
  const { layout, window, colours, lines, chosen, takes, assembled, dropped, seams } = scene;
  const top = RULER;
  context.fillStyle = colours.ground;
  context.fillRect(0, top, layout.width, ASSEMBLED);
  context.fillStyle = colours.ruleStrong;
  context.fillRect(0, ROWS_TOP - 1, layout.width, 1);
  const room = ASSEMBLED - NAMES;
  const box = { top, width: layout.width, height: room };
  const strip = { top: top + 10, height: room - 20 };
  const look = { colour: colours.parts[scene.ink], pitches: scene.pitches };
  context.save();
  context.beginPath();
  context.rect(0, top, layout.width, room);
  context.clip();
  paintStrips(
    context,
    [{ ...strip, ...look, notes: assembled, isFull: () => true, paper: colours.ground }],
    box,
    scene,
  );
  context.restore();
  context.strokeStyle = colours.ink2;
  context.lineWidth = 1;
  context.setLineDash([2, 2]);
  const span = Math.max(1, scene.pitches[1] - scene.pitches[0] + 1);
  for (let row = 0; row < dropped.start.length; row++) {
    const x = xOfTick(dropped.start[row], window);
    if (x < -20 || x > layout.width) continue;
    const wide = Math.max(4, (dropped.end[row] - dropped.start[row]) / window.ticksPerPixel);
    const y = strip.top + ((scene.pitches[1] - dropped.pitch[row]) * strip.height) / span;
    context.strokeRect(x, y - 2, wide, 6);
  }
  // Where seams lie close they would hide the notes: then only their feet are there.
  const foot = hasRings(lines, window) ? top + 4 : ROWS_TOP - NAMES - 6;
  for (const { at } of seams) {
    const x = Math.round(xOfTick(at, window)) + 0.5;
    if (x < 0 || x > layout.width) continue;
    context.beginPath();
    context.moveTo(x, foot);
    context.lineTo(x, ROWS_TOP - NAMES);
    context.stroke();
  }
  context.setLineDash([]);
  paintNames(context, scene, { lines, chosen, takes });
}

/** What supplies each stretch of bars, in words. */
function paintNames(
  context: CanvasRenderingContext2D,
  scene: TakesScene,
  { lines, chosen, takes }: Pick<TakesScene, 'lines' | 'chosen' | 'takes'>,
) {
  const { layout, window, colours } = scene;
  const [first, last] = barsInSight(scene);
  const top = ROWS_TOP - NAMES;
  const namesAt = (bar: number) =>
    chosen
      .map((layer) => layer[bar] ?? -1)
      .filter((row) => row >= 0)
      .join(',');
  context.font = colours.letters;
  context.textBaseline = 'middle';
  context.textAlign = 'center';
  for (let bar = first, from = first; bar < last; bar++) {
    if (bar + 1 < last && namesAt(bar + 1) === namesAt(from)) continue;
    const left = Math.max(0, xOfTick(lines[from], window)) + 1;
    const right = Math.min(layout.width, xOfTick(lines[bar + 1], window)) - 1;
    const rows = namesAt(from);
    context.fillStyle = rows === '' ? colours.sheet : colours.well;
    context.fillRect(left, top + 1, right - left, NAMES - 3);
    const words =
      rows === ''
        ? 'nothing'
        : rows
            .split(',')
            .map((row) => (takes[Number(row)] as SeenTake | undefined)?.name ?? '')
            .join(' + ');
    context.fillStyle = colours.ink2;
    if (context.measureText(words).width < right - left - 6)
      context.fillText(words, (left + right) / 2, top + NAMES / 2);
    from = bar + 1;
  }
  context.textAlign = 'left';
}
