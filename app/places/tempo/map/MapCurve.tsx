import {
  USUAL_BPM,
  meterRowAt,
  rampAt,
  tempoEntries,
  withTempo,
  type TempoChange,
  type TempoEntry,
  type Timeline,
} from '@ordle/core';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { Button, useWidthOf } from '@/ui';
import {
  barLines,
  bpmAt,
  bpmLines,
  LEFT,
  pathOf,
  shapeOf,
  tickAt,
  TOP,
  xOf,
  yOf,
  type CurveShape,
} from './curveGeometry';
import { entriesInWords, placeOf } from './TempoTable';
import { handlesOf, moved, nameOfMove, takenOutOfMap, type ChangeTempos, type Held } from './mapMoves';
import { PlayLine } from './PlayLine';

interface MapCurveProps {
  tempos: readonly TempoChange[];
  entries: readonly TempoEntry[];
  timeline: Timeline;
  endTick: number;
  /** The tick of the change that is chosen. */
  chosen: number | null;
  mayWrite: boolean;
  onChoose(tick: number): void;
  onChange: ChangeTempos;
  onLocate(tick: number): void;
}

/** What is being dragged, and where it would stand. */
interface Drag {
  held: Held;
  tick: number;
  bpm: number;
  /** Whether its place moves with it: a stretch is only lifted. */
  isHandle: boolean;
  isMoved: boolean;
  x: number;
  y: number;
}

const HEIGHT = 260;
const [REACH, DRAG] = [8, 3];
/** Changes nearer to each other than this, in pixels, could not be told apart by hand. */
const APART = 8;

/** The changes that are far enough from each other to be taken hold of, and the chosen one. */
function apart(handles: readonly Held[], chosen: number | null, shape: CurveShape): Held[] {
  const x = handles.map(({ tick }) => xOf(tick, shape));
  return handles.filter(
    ({ tick }, at) =>
      tick === chosen ||
      (x[at] - (x[at - 1] ?? -Infinity) >= APART && (x[at + 1] ?? Infinity) - x[at] >= APART),
  );
}

/** The stretch of tempo a place lies on, to be lifted. */
function stretchUnder(entries: readonly TempoEntry[], x: number, y: number, shape: CurveShape): Held | null {
  const tick = tickAt(x, shape);
  const own = entries.findLast((entry) => entry.tick <= tick) ?? entries[0];
  const { ramp } = own;
  const share = ramp ? Math.min(1, (tick - ramp.from) / (ramp.to - ramp.from)) : 0;
  const bpm = ramp ? ramp.fromBpm + (ramp.toBpm - ramp.fromBpm) * rampAt(ramp.shape, share) : own.bpm;
  if (Math.abs(yOf(bpm, shape) - y) > REACH) return null;
  return ramp
    ? { kind: 'ramp', side: 'both', ramp, tick: own.tick, bpm: own.bpm }
    : { kind: 'change', tick: own.tick, bpm: own.bpm };
}

/** How far above the place it was taken at the tempo of what is held is, in bpm. */
const grip = (held: Held, { y }: Pick<Drag, 'y'>, shape: CurveShape): number =>
  held.kind === 'ramp' && held.side === 'both' ? held.bpm - bpmAt(y, shape) : 0;

/** The tempo along the bars as a stair that can be taken hold of: a stretch up and down, a change in its place too. */
export function MapCurve(props: MapCurveProps) {
  const { tempos, entries, timeline, endTick, chosen, mayWrite, onChoose, onChange, onLocate } = props;
  const [box, setBox] = useState<HTMLDivElement | null>(null);
  const room = useWidthOf(box);
  const [zoom, setZoom] = useState(1);
  const [drag, setDrag] = useState<Drag | null>(null);
  const svg = useRef<SVGSVGElement>(null);
  const shape = shapeOf(tempos, Math.max(1, room * zoom), HEIGHT, endTick);
  const seen = drag?.isMoved
    ? tempoEntries(moved(tempos, drag.held, drag.tick, drag.bpm), timeline.ticksPerQuarter)
    : entries;
  const all = handlesOf(entries);
  const handles = apart(handlesOf(seen), chosen, shape);
  const place = (event: { clientX: number; clientY: number }) => {
    const { left, top } = svg.current?.getBoundingClientRect() ?? { left: 0, top: 0 };
    return { x: event.clientX - left, y: event.clientY - top };
  };
  /** A place put onto the beat beside it. */
  const onBeat = (tick: number, free: boolean) => {
    if (free) return Math.round(tick);
    const row = meterRowAt(timeline.meter, tick);
    const [from, beat] = [timeline.meter.tick[row], timeline.meter.beatTicks[row]];
    return Math.round(from + Math.round((tick - from) / beat) * beat);
  };
  const roundBpm = (bpm: number, free: boolean) => {
    const step = free ? 0.1 : 1;
    return Math.min(USUAL_BPM.most, Math.max(USUAL_BPM.least, Math.round(bpm / step) * step));
  };
  const down = (event: PointerEvent<SVGSVGElement>) => {
    if (event.button !== 0) return;
    const { x, y } = place(event);
    const handle = handles.findLast(
      ({ tick, bpm }) => Math.hypot(xOf(tick, shape) - x, yOf(bpm, shape) - y) <= REACH,
    );
    const own = handle ?? stretchUnder(entries, x, y, shape);
    if (!own || !mayWrite) {
      onLocate(tickAt(x, shape));
      return;
    }
    onChoose(own.tick);
    event.currentTarget.setPointerCapture(event.pointerId);
    const { tick, bpm } = own;
    setDrag({ held: own, tick, bpm, isHandle: handle !== undefined, isMoved: false, x, y });
  };
  const move = (event: PointerEvent<SVGSVGElement>) => {
    if (!drag) return;
    const { x, y } = place(event);
    const isMoved = drag.isMoved || Math.hypot(x - drag.x, y - drag.y) > DRAG;
    if (!isMoved) return;
    const free = event.shiftKey;
    const { held } = drag;
    const to = drag.isHandle && held.tick > 0 ? onBeat(tickAt(x, shape), free) : held.tick;
    setDrag({
      ...drag,
      isMoved,
      tick: held.tick > 0 ? Math.max(1, to) : 0,
      // Where only the place was moved, the tempo stays as exact as it is.
      bpm:
        Math.abs(y - drag.y) <= DRAG ? held.bpm : roundBpm(bpmAt(y, shape) + grip(held, drag, shape), free),
    });
  };
  const up = () => {
    if (drag?.isMoved) {
      const { held, tick, bpm } = drag;
      onChange(nameOfMove(held, tick), (own) => moved(own, held, tick, bpm), tick);
    }
    setDrag(null);
  };
  const add = (event: { clientX: number; clientY: number; shiftKey: boolean }) => {
    const { x, y } = place(event);
    if (!mayWrite || x < LEFT) return;
    const [tick, bpm] = [onBeat(tickAt(x, shape), event.shiftKey), roundBpm(bpmAt(y, shape), event.shiftKey)];
    onChange('A tempo change', (own) => withTempo(own, tick, bpm), tick);
  };
  const key = (event: KeyboardEvent) => {
    const at = all.findIndex(({ tick }) => tick === chosen);
    if (event.key === 'Escape') setDrag(null);
    else if (event.key === 'ArrowRight' || event.key === 'ArrowLeft') {
      const next = all.at(Math.min(all.length - 1, Math.max(0, at + (event.key === 'ArrowRight' ? 1 : -1))));
      if (next) onChoose(next.tick);
    } else if (at < 0 || !mayWrite) return;
    else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      const held = all[at];
      const by = (event.key === 'ArrowUp' ? 1 : -1) * (event.shiftKey ? 0.1 : 1);
      onChange(nameOfMove(held, held.tick), (own) => moved(own, held, held.tick, held.bpm + by), held.tick);
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
      const held = all[at];
      onChange(
        held.kind === 'ramp' ? 'Take a ramp out' : 'Take a tempo change out',
        (own) => takenOutOfMap(own, held),
        null,
      );
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div className="relative shrink-0">
      <div className="absolute top-7 right-2 z-10 flex bg-sheet">
        <Button
          look="quiet"
          className="h-6"
          aria-label="Show more bars"
          disabled={zoom <= 1}
          onClick={() => setZoom(Math.max(1, zoom / 1.5))}
        >
          −
        </Button>
        <Button
          look="quiet"
          className="h-6"
          aria-label="Show fewer bars"
          disabled={room * zoom > 30_000}
          onClick={() => setZoom(zoom * 1.5)}
        >
          +
        </Button>
      </div>
      <div ref={setBox} className="overflow-x-auto" style={{ height: HEIGHT }}>
        <svg
          ref={svg}
          role="application"
          aria-label={`Tempo along the bars: ${entriesInWords(entries)}. Arrow keys go from change to change and make it faster or slower, Delete takes it out, a double click adds one.`}
          data-testid="tempo-curve"
          tabIndex={0}
          width={shape.width}
          height={HEIGHT}
          className="block touch-none select-none focus-visible:outline-offset-[-2px]"
          onPointerDown={down}
          onPointerMove={move}
          onPointerUp={up}
          onPointerCancel={() => setDrag(null)}
          onDoubleClick={add}
          onKeyDown={key}
        >
          <rect width={shape.width} height={TOP} fill="var(--ground)" />
          {barLines(timeline, shape).map(({ bar, x }) => (
            <g key={bar}>
              <line x1={x} x2={x} y1={TOP} y2={HEIGHT} stroke="var(--rule)" />
              <text x={x + 3} y={15} fontSize={12} fill="var(--ink-2)">
                {bar}
              </text>
            </g>
          ))}
          {bpmLines(shape).map((bpm) => (
            <g key={bpm}>
              <line
                x1={LEFT}
                x2={shape.width}
                y1={yOf(bpm, shape)}
                y2={yOf(bpm, shape)}
                stroke="var(--rule)"
              />
              <text x={LEFT - 6} y={yOf(bpm, shape) + 4} fontSize={12} textAnchor="end" fill="var(--ink-2)">
                {bpm}
              </text>
            </g>
          ))}
          <text x={6} y={15} fontSize={12} fill="var(--ink-2)">
            bpm
          </text>
          <path d={pathOf(seen, shape)} fill="none" stroke="var(--ink)" strokeWidth={2} />
          {handles.map((handle) => (
            <circle
              key={`${handle.tick} ${handle.kind === 'ramp' ? handle.side : ''}`}
              cx={xOf(handle.tick, shape)}
              cy={yOf(handle.bpm, shape)}
              r={handle.tick === chosen ? 6 : 4}
              fill={handle.tick === chosen ? 'var(--ink)' : 'var(--sheet)'}
              stroke="var(--ink)"
              strokeWidth={1.5}
            />
          ))}
          {drag?.isMoved && (
            <text
              x={Math.min(xOf(drag.tick, shape) + 10, shape.width - 130)}
              y={yOf(drag.bpm, shape) - 10}
              fontSize={13}
              fontWeight={600}
              fill="var(--ink)"
            >
              {placeOf(drag.tick, timeline)}, {drag.bpm.toFixed(1)} bpm
            </text>
          )}
          <PlayLine timeline={timeline} shape={shape} height={HEIGHT} />
        </svg>
      </div>
    </div>
  );
}
