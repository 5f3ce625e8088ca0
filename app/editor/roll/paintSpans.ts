import { tickAt, xOf, yOf } from './geometry';
import { noteHeight } from './paintMarks';
import type { Scene } from './scene';
import { visibleRows } from './visibleRows';
import { NAMED_ROW, isWhole, placeSpans } from './whereSpans';

/** The strip under the ruler: a bar for what each step touches, each in a row where it covers no other. */
export function paintSpans(context: CanvasRenderingContext2D, scene: Scene) {
  const { layout, window, colours, spans, litStep } = scene;
  if (layout.spans === 0) return;
  const top = layout.overview + layout.ruler;
  context.fillStyle = colours.well;
  context.fillRect(0, top, layout.width, layout.spans);
  context.fillStyle = colours.ink2;
  context.font = colours.letters;
  context.textBaseline = 'middle';
  context.fillText('where', 6, top + Math.min(layout.spans / 2, 8));
  const placed = placeSpans(spans, window, layout);
  const wholes = spans.filter(isWhole);
  for (const { span, left, right, top: row, height } of placed) {
    if (right <= left) continue;
    const middle = row + height / 2;
    const isShared = isWhole(span);
    // A step on the whole part is the ordinary case and stays in the background.
    const thick = isShared && !span.isCurrent ? 1 : Math.max(1, Math.min(3, height - 3));
    context.fillStyle = span.isCurrent || span.stepId === litStep ? colours.ink : colours.ink3;
    context.globalAlpha = span.isOff ? 0.35 : 1;
    context.fillRect(left, middle - thick / 2, right - left, thick);
    const end = Math.max(2, height - 1);
    if (span.from >= window.tick) context.fillRect(left, middle - end / 2, 2, end);
    if (span.to !== Infinity) context.fillRect(right - 2, middle - end / 2, 2, end);
    if (!isShared && height >= NAMED_ROW) name(context, scene, span.name, { left, right, middle });
    context.globalAlpha = 1;
  }
  const whole = placed.find(({ span }) => isWhole(span));
  if (whole && whole.height >= NAMED_ROW) {
    context.fillStyle = colours.ink2;
    const words = wholes.length === 1 ? wholes[0].name : `${wholes.length} steps`;
    name(context, scene, `${words}: whole part`, { ...whole, middle: whole.top + whole.height / 2 });
  }
  context.fillStyle = colours.ruleStrong;
  context.fillRect(0, top + layout.spans - 1, layout.width, 1);
}

/** A name in a gap of its line, where there is room for it. */
function name(
  context: CanvasRenderingContext2D,
  { colours }: Scene,
  words: string,
  { left, right, middle }: { left: number; right: number; middle: number },
) {
  const ink = context.fillStyle;
  const width = context.measureText(words).width;
  if (width + 16 > right - left) return;
  context.fillStyle = colours.well;
  context.fillRect(left + 6, middle - 5, width + 6, 10);
  context.fillStyle = ink;
  context.fillText(words, left + 9, middle + 0.5);
}

/** Pixels at the right of the keys where the pitches a step touches are shown and dragged. */
export const KEY_STRIP = 9;

/** Beside the keys: the pitches the current step touches. */
export function paintPitchSpan(context: CanvasRenderingContext2D, scene: Scene) {
  const { layout, window, colours, wherePitch } = scene;
  if (!wherePitch) return;
  const x = layout.gutter - 6;
  const [top, bottom] = [yOf(wherePitch[1], window, layout), yOf(wherePitch[0] - 1, window, layout)];
  context.fillStyle = colours.ink;
  context.fillRect(x, top, 3, bottom - top);
  context.fillRect(x - 2, top, 7, 2);
  context.fillRect(x - 2, bottom - 2, 7, 2);
}

/** Lights the notes a step touches, while its span or its stop is pointed at: they are framed, all others veiled. */
export function paintLit(context: CanvasRenderingContext2D, scene: Scene) {
  const { view, lit, window, layout, colours } = scene;
  if (!view || !lit) return;
  const until = tickAt(layout.width, window, layout);
  const { first, end } = visibleRows(view.notes, window.tick, until);
  // In a crowd frames would cover the notes; the veil alone tells.
  const framed = end - first < 1500;
  for (let row = first; row < end; row++) {
    const x = xOf(view.notes.start[row], window, layout);
    const y = yOf(view.notes.pitch[row], window, layout);
    const width = Math.max(3, (view.notes.end[row] - view.notes.start[row]) / window.ticksPerPixel - 1);
    if (lit[row] === 0) {
      context.fillStyle = colours.sheet;
      context.globalAlpha = 0.72;
      context.fillRect(x - 1, y, width + 2, window.rowHeight);
      context.globalAlpha = 1;
    } else if (framed) {
      context.strokeStyle = colours.ink;
      context.lineWidth = 1;
      context.strokeRect(x - 0.5, y - 0.5, width + 1, noteHeight(window.rowHeight) + 1);
    }
  }
}
