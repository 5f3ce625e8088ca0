import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { laneName, secondsToTicks } from '@ordle/core';
import { ChevronDown, ChevronRight, X } from 'lucide-react';
import { useEffect, useRef, useState, type PointerEvent, type RefObject } from 'react';
import { createCurveLane, valueInWords, type CurveLane, type RollEditor } from '@/editor';
import { transport } from '@/sound/transport';
import { useAppDispatch } from '@/state/store';
import type { View } from '@/state/viewSlice';
import { applyLaneEdits } from './editActions';
import { gridInForce } from './gridInForce';
import { placeInWords } from './noteColumns';
import { usePartView } from './partViewStore';
import type { BenchState } from './useBench';

type Shown = View['lanes'][number];

interface LanePaneProps {
  bench: BenchState;
  editor: RefObject<RollEditor | null>;
  playing: boolean;
  shown: Shown;
  onChange(change: Partial<Shown>): void;
  onClose(): void;
}

const LEAST_HEIGHT = 36;
const MOST_HEIGHT = 320;

/** One lane: its name and the value under the pointer above, the curve below; its lower edge is dragged to make it higher. */
export function LanePane({ bench, editor, playing, shown, onChange, onClose }: LanePaneProps) {
  const dispatch = useAppDispatch();
  const canvas = useRef<HTMLCanvasElement>(null);
  const playLine = useRef<HTMLDivElement>(null);
  const lane = useRef<CurveLane | null>(null);
  const [point, setPoint] = useState<{ at: number; value: number } | null>(null);
  const [count, setCount] = useState(0);
  const { view } = usePartView();
  const { part, timeline, mayWrite } = bench;
  const name = laneName(shown.lane);
  const current =
    view?.partId === part?.id ? view?.lanes.find((each) => each.lane === shown.lane) : undefined;
  const { setNodeRef, transform, transition, listeners } = useSortable({ id: shown.lane });

  useEffect(() => {
    const roll = document.querySelector<HTMLCanvasElement>('[data-testid=roll]');
    if (!canvas.current || !editor.current || !roll || shown.folded) return;
    const made = createCurveLane(canvas.current, editor.current, roll, {
      onEdit: (label, edits) => applyLaneEdits(dispatch, label, edits),
      onPoint: setPoint,
      onChoice: setCount,
    });
    lane.current = made;
    // The benchmark reads painting times from here.
    Object.assign(canvas.current, { ordleLane: made });
    return () => {
      made.destroy();
      lane.current = null;
    };
  }, [dispatch, editor, shown.folded]);

  useEffect(() => {
    if (!current || !part) return;
    lane.current?.setContent({
      view: current,
      timeline,
      grid: gridInForce(bench).values,
      snap: bench.view.snap,
      tool: bench.view.tool,
      mayEdit: mayWrite && bench.view.show !== 'played',
      ink: part.ink,
    });
  }, [current, part, timeline, bench, mayWrite, shown.folded]);

  useEffect(() => {
    let frame = 0;
    const roll = document.querySelector('[data-testid=roll]');
    const move = () => {
      const x = lane.current?.xOf(secondsToTicks(timeline.tempo, transport.second())) ?? -1;
      const line = playLine.current;
      if (line) {
        line.style.visibility = x < 0 ? 'hidden' : 'visible';
        line.style.transform = `translateX(${x}px)`;
      }
      if (playing) frame = requestAnimationFrame(move);
    };
    move();
    const stop = transport.subscribe(move);
    roll?.addEventListener('painted', move);
    return () => {
      cancelAnimationFrame(frame);
      stop();
      roll?.removeEventListener('painted', move);
    };
  }, [timeline, playing]);

  const resize = (event: PointerEvent<HTMLDivElement>) => {
    const [from, height] = [event.clientY, shown.height];
    const held = event.currentTarget;
    held.setPointerCapture(event.pointerId);
    const move = (now: globalThis.PointerEvent) =>
      onChange({ height: Math.min(MOST_HEIGHT, Math.max(LEAST_HEIGHT, height + now.clientY - from)) });
    const end = () => {
      held.removeEventListener('pointermove', move);
      held.removeEventListener('pointerup', end);
    };
    held.addEventListener('pointermove', move);
    held.addEventListener('pointerup', end);
  };

  return (
    <section
      ref={setNodeRef}
      aria-label={`Lane ${name}`}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className="shrink-0 border-b border-rule bg-sheet"
    >
      <header className="flex h-5.5 items-center gap-1.5 px-1.5 text-quiet">
        <button
          type="button"
          aria-label={shown.folded ? `Unfold ${name}` : `Fold ${name}`}
          aria-expanded={!shown.folded}
          onClick={() => onChange({ folded: !shown.folded })}
          className="text-ink-2 hover:text-ink"
        >
          {shown.folded ? (
            <ChevronRight size={13} aria-hidden="true" />
          ) : (
            <ChevronDown size={13} aria-hidden="true" />
          )}
        </button>
        <span {...listeners} className="cursor-grab font-semibold" title="Drag to another place">
          {name}
        </span>
        <span className="text-ink-2" data-testid={`points-${shown.lane}`}>
          {current ? pointsInWords(current.points.length, count) : ''}
        </span>
        <span className="ml-auto text-ink-2 tabular-nums">
          {point &&
            `${placeInWords(point.at, { timeline, time: bench.view.time })}: ${valueInWords(shown.lane, point.value)}${shown.lane === 'bend' ? ' semitones' : ''}`}
        </span>
        <button
          type="button"
          aria-label={`Close ${name}`}
          onClick={onClose}
          className="text-ink-2 hover:text-ink"
        >
          <X size={13} aria-hidden="true" />
        </button>
      </header>
      {!shown.folded && (
        <>
          <div className="relative overflow-hidden" style={{ height: shown.height }}>
            <canvas
              ref={canvas}
              tabIndex={0}
              role="img"
              data-testid={`lane-${shown.lane}`}
              aria-label={`${name}: ${current?.points.length ?? 0} points. Drawn and erased with the tools of the editor; Delete removes chosen points.`}
              className="absolute inset-0 h-full w-full touch-none focus-visible:outline-offset-[-2px]"
            />
            <div
              ref={playLine}
              aria-hidden="true"
              className="pointer-events-none absolute inset-y-0 left-0 w-px bg-accent"
            />
          </div>
          <div
            role="separator"
            aria-orientation="horizontal"
            aria-label={`Height of ${name}`}
            aria-valuenow={shown.height}
            aria-valuemin={LEAST_HEIGHT}
            aria-valuemax={MOST_HEIGHT}
            tabIndex={0}
            onPointerDown={resize}
            onKeyDown={(event) => {
              const by = event.key === 'ArrowDown' ? 12 : event.key === 'ArrowUp' ? -12 : 0;
              if (by === 0) return;
              event.preventDefault();
              event.stopPropagation();
              onChange({ height: Math.min(MOST_HEIGHT, Math.max(LEAST_HEIGHT, shown.height + by)) });
            }}
            className="h-1 cursor-ns-resize hover:bg-rule-strong"
          />
        </>
      )}
    </section>
  );
}

const pointsInWords = (points: number, chosen: number): string =>
  `${points === 1 ? '1 point' : `${points.toLocaleString('en')} points`}${chosen > 0 ? `, ${chosen} chosen` : ''}`;
