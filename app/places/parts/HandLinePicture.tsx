import { barAt, barNumbered, type Timeline, type HandPicture } from '@ordle/core';
import { useEffect, useRef, useState, type PointerEvent } from 'react';
import { useColours } from '@/editor';

const HEIGHT = 168;

interface HandLinePictureProps {
  picture: HandPicture | null;
  timeline: Timeline;
  /** The bars that are shown, from the first up to, not including, the second. */
  bars: [number, number];
  disabled: boolean;
  /** The line is to be moved by semitones in some bars. */
  onMove(bars: [number, number], semitones: number): void;
}

/**
 * The notes of both hands and the line between them, which is dragged up or down: in the bars the pointer goes over.
 */
export function HandLinePicture({ picture, timeline, bars, disabled, onMove }: HandLinePictureProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const colours = useColours();
  const [drag, setDrag] = useState<{ bars: [number, number]; by: number } | null>(null);
  const pressed = useRef<{ x: number; y: number } | null>(null);
  const [from, to] = bars.map((bar) => barNumbered(timeline.meter, bar).start);
  const [low, high] = pitchesOf(picture);
  const rowHeight = HEIGHT / (high - low + 1);

  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!canvas.current || !context) return;
    const { clientWidth: width } = canvas.current;
    const ratio = globalThis.devicePixelRatio || 1;
    canvas.current.width = Math.round(width * ratio);
    canvas.current.height = Math.round(HEIGHT * ratio);
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    const xOf = (tick: number) => ((tick - from) / (to - from)) * width;
    const yOf = (pitch: number) => (high + 0.5 - pitch) * rowHeight;
    context.fillStyle = colours.sheet;
    context.fillRect(0, 0, width, HEIGHT);
    for (let bar = bars[0]; bar < bars[1]; bar++) {
      const [left, right] = [
        xOf(barNumbered(timeline.meter, bar).start),
        xOf(barNumbered(timeline.meter, bar + 1).start),
      ];
      if (drag && bar >= drag.bars[0] && bar < drag.bars[1]) {
        context.fillStyle = colours.well;
        context.fillRect(left, 0, right - left, HEIGHT);
      }
      context.fillStyle = colours.rule;
      context.fillRect(Math.round(left), 0, 1, HEIGHT);
      context.fillStyle = colours.ink2;
      context.font = colours.letters;
      context.textBaseline = 'top';
      context.fillText(String(bar), left + 3, 2);
    }
    if (!picture) return;
    const { notes, isLeft, tick, pitch } = picture;
    for (let row = 0; row < notes.start.length; row++) {
      if (notes.end[row] < from || notes.start[row] >= to) continue;
      const x = xOf(notes.start[row]);
      const y = yOf(notes.pitch[row] + 0.5);
      const wide = Math.max(2, xOf(notes.end[row]) - x - 1);
      // The left hand's are filled, the right one's are frames: told by shape as well as by colour.
      context.fillStyle = colours.parts[isLeft[row] === 1 ? 1 : 0];
      context.strokeStyle = context.fillStyle;
      if (isLeft[row] === 1) context.fillRect(x, y, wide, Math.max(2, rowHeight - 1));
      else context.strokeRect(x + 0.5, y + 0.5, wide - 1, Math.max(1, rowHeight - 2));
    }
    context.strokeStyle = colours.ink;
    context.lineWidth = 2;
    context.beginPath();
    for (let chord = 0; chord < tick.length; chord++) {
      const end = chord + 1 < tick.length ? tick[chord + 1] : to;
      if (end <= from || tick[chord] >= to) continue;
      const bar = barAt(timeline.meter, tick[chord]).number;
      const by = drag && bar >= drag.bars[0] && bar < drag.bars[1] ? drag.by : 0;
      const y = yOf(pitch[chord] + by - 0.5) - rowHeight / 2;
      context.moveTo(xOf(Math.max(from, tick[chord])), y);
      context.lineTo(xOf(Math.min(to, end)), y);
    }
    context.stroke();
  }, [picture, timeline, bars, from, to, low, high, rowHeight, colours, drag]);

  const barAtPointer = (x: number) => {
    const width = canvas.current?.clientWidth ?? 1;
    const tick = from + (Math.min(width - 1, Math.max(0, x)) / width) * (to - from);
    return barAt(timeline.meter, tick).number;
  };
  const place = (event: PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label="Notes of the left hand filled, of the right hand as frames, and the line between them. Drag up or down to move the line in the bars you pass over."
      data-testid="hand-line"
      className={`h-[168px] w-full touch-none border border-rule ${disabled ? '' : 'cursor-ns-resize'}`}
      onPointerDown={(event) => {
        if (disabled) return;
        pressed.current = place(event);
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => {
        if (!pressed.current) return;
        const { x, y } = place(event);
        const [a, b] = [barAtPointer(pressed.current.x), barAtPointer(x)];
        setDrag({
          bars: [Math.min(a, b), Math.max(a, b) + 1],
          by: Math.round((pressed.current.y - y) / rowHeight),
        });
      }}
      onPointerUp={() => {
        if (drag && drag.by !== 0) onMove(drag.bars, drag.by);
        pressed.current = null;
        setDrag(null);
      }}
      onPointerCancel={() => {
        pressed.current = null;
        setDrag(null);
      }}
    />
  );
}

function pitchesOf(picture: HandPicture | null): [number, number] {
  let [low, high] = [127, 0];
  for (const pitch of picture?.notes.pitch ?? []) {
    low = Math.min(low, pitch);
    high = Math.max(high, pitch);
  }
  return low > high ? [48, 72] : [low - 2, high + 2];
}
