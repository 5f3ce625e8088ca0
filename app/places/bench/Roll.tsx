import { barNumbered, drumName, pitchName, positionAt, secondsToTicks, ticksToSeconds } from '@ordle/core';
import { Maximize2, ZoomIn, ZoomOut } from 'lucide-react';
import { useEffect, useRef, useState, type KeyboardEvent } from 'react';
import { createRollEditor, type RollEditor, type WhereSpan } from '@/editor';
import { transport } from '@/sound/transport';
import { useAppDispatch } from '@/state/store';
import { viewChanged, windowMoved } from '@/state/viewSlice';
import { usePartView } from './partViewStore';
import type { BenchState } from './useBench';

interface RollProps {
  bench: BenchState;
  playing: boolean;
}

/** Steps of a panning key, in pixels and keyboard rows. */
const PAN_PIXELS = 80;
const PAN_ROWS = 3;

/** The canvas with its play line, its zoom buttons and the note under the pointer. */
export function Roll({ bench, playing }: RollProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const playLine = useRef<HTMLDivElement>(null);
  const editor = useRef<RollEditor | null>(null);
  const [hover, setHover] = useState<{ row: number; x: number; y: number; width: number } | null>(null);
  const dispatch = useAppDispatch();
  const { view, busy, error } = usePartView();
  const { part, stop, timeline } = bench;
  const latest = useRef(bench);
  useEffect(() => {
    latest.current = bench;
  });

  useEffect(() => {
    if (!canvas.current || !playLine.current) return;
    const made = createRollEditor(canvas.current, playLine.current, {
      onWindow: (window) => {
        const id = latest.current.part?.id;
        if (id) dispatch(windowMoved({ partId: id, window }));
      },
      onLocate: (tick) => transport.locate(ticksToSeconds(latest.current.timeline.tempo, tick)),
      onLoop: (from, to) => dispatch(viewChanged({ loop: { on: true, from, to } })),
      onHover: (row, x, y) =>
        setHover(row < 0 ? null : { row, x, y, width: canvas.current?.clientWidth ?? 0 }),
    });
    editor.current = made;
    // The benchmark reads painting times from here.
    Object.assign(canvas.current, { ordleEditor: made });
    return () => {
      made.destroy();
      editor.current = null;
    };
  }, [dispatch]);

  useEffect(() => {
    if (!part || !stop) return;
    const spans = part.steps.flatMap(({ id, step }): WhereSpan[] =>
      step.where.bars && step.on
        ? [
            {
              from: barNumbered(timeline.meter, step.where.bars[0]).start,
              to: barNumbered(timeline.meter, step.where.bars[1]).start,
              chosen: id === stop.id,
            },
          ]
        : [],
    );
    const chosen = part.steps.find(({ id }) => id === stop.id)?.step;
    const grid = chosen
      ? { values: Array.isArray(chosen.grid) ? chosen.grid : [chosen.grid], swing: chosen.swing }
      : { values: [bench.view.grid], swing: 50 };
    editor.current?.setContent({
      timeline,
      grid,
      spans,
      loop: bench.view.loop,
      ink: part.ink,
      drums: part.sound.drums,
      middleC: bench.view.middleC,
    });
  }, [part, stop, timeline, bench.view.grid, bench.view.loop, bench.view.middleC]);

  useEffect(() => {
    const current = view?.partId === part?.id ? view : null;
    editor.current?.setView(current, current ? (latest.current.view.windows[current.partId] ?? null) : null);
  }, [view, part?.id]);

  useEffect(() => {
    let frame = 0;
    const move = () => {
      editor.current?.setPlayTick(
        secondsToTicks(timeline.tempo, transport.second()),
        playing && latest.current.view.follow,
      );
      if (playing) frame = requestAnimationFrame(move);
    };
    move();
    const stop = transport.subscribe(move);
    const element = canvas.current;
    element?.addEventListener('painted', move);
    return () => {
      cancelAnimationFrame(frame);
      stop();
      element?.removeEventListener('painted', move);
    };
  }, [timeline, playing]);

  function onKeyDown(event: KeyboardEvent) {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const keys: Record<string, () => void> = {
      ArrowLeft: () => editor.current?.pan(-PAN_PIXELS, 0),
      ArrowRight: () => editor.current?.pan(PAN_PIXELS, 0),
      ArrowUp: () => editor.current?.pan(0, PAN_ROWS),
      ArrowDown: () => editor.current?.pan(0, -PAN_ROWS),
      '+': () => editor.current?.zoom(1 / 1.3),
      '=': () => editor.current?.zoom(1 / 1.3),
      '-': () => editor.current?.zoom(1.3),
      f: () => editor.current?.fit(),
    };
    const act = keys[event.key];
    if (!act) return;
    act();
    event.preventDefault();
  }

  return (
    <section aria-label="Editor" className="relative min-w-0 grow overflow-hidden">
      <canvas
        ref={canvas}
        tabIndex={0}
        role="img"
        data-testid="roll"
        data-busy={busy}
        aria-label={
          part
            ? `${part.name}: ${view?.notes.length ?? 0} notes. Arrow keys scroll, plus and minus zoom, F fits the part.`
            : 'No part'
        }
        onKeyDown={onKeyDown}
        className="absolute inset-0 h-full w-full touch-none focus-visible:outline-offset-[-2px]"
      />
      <div
        ref={playLine}
        aria-hidden="true"
        className="pointer-events-none absolute top-7.5 bottom-0 left-0 w-px bg-accent"
        style={{ visibility: 'hidden' }}
      />
      <div className="absolute right-2 bottom-2 flex overflow-hidden rounded-medium border border-rule-strong bg-sheet">
        <ZoomButton
          label="Zoom out (−)"
          onClick={() => editor.current?.zoom(1.3)}
          icon={<ZoomOut size={15} />}
        />
        <ZoomButton
          label="Zoom in (+)"
          onClick={() => editor.current?.zoom(1 / 1.3)}
          icon={<ZoomIn size={15} />}
        />
        <ZoomButton
          label="Fit the part (F)"
          onClick={() => editor.current?.fit()}
          icon={<Maximize2 size={14} />}
        />
      </div>
      {view && view.notes.length === 0 && part && !busy && (
        <p className="absolute inset-x-0 top-1/2 text-center text-ink-2">
          This part has no notes. Its other events are kept and exported.
        </p>
      )}
      {error && (
        <p role="alert" className="absolute inset-x-6 top-20 border border-accent bg-accent-soft px-4 py-2">
          {error}
        </p>
      )}
      {hover && view && hover.row < view.notes.length && (
        <NoteTip bench={bench} row={hover.row} x={hover.x} y={hover.y} width={hover.width} />
      )}
    </section>
  );
}

function ZoomButton({ label, icon, onClick }: { label: string; icon: React.ReactNode; onClick(): void }) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      onClick={onClick}
      className="flex h-6.5 w-7 items-center justify-center border-r border-rule text-ink-2 last:border-r-0 hover:bg-well hover:text-ink"
    >
      {icon}
    </button>
  );
}

/** The note under the pointer in words: what it is, where it was played, how far it was moved. */
function NoteTip({
  bench,
  row,
  x,
  y,
  width,
}: {
  bench: BenchState;
  row: number;
  x: number;
  y: number;
  width: number;
}) {
  const { view } = usePartView();
  const { part, timeline } = bench;
  if (!view || !part) return null;
  const { notes, late, traceStart } = view;
  const pitch = notes.pitch[row];
  const name = part.sound.drums
    ? (drumName(pitch) ?? pitchName(pitch, bench.view.middleC))
    : pitchName(pitch, bench.view.middleC);
  const position = (tick: number) => {
    const { bar, beat, tick: rest } = positionAt(timeline.meter, Math.max(0, tick));
    return `${bar}.${beat}.${String(rest).padStart(3, '0')}`;
  };
  const offset = Math.round(late[row]);
  const from = traceStart?.[row] ?? NaN;
  const movedMs = Number.isNaN(from)
    ? 0
    : (ticksToSeconds(timeline.tempo, notes.start[row]) - ticksToSeconds(timeline.tempo, from)) * 1000;
  return (
    <div
      className="pointer-events-none absolute z-10 rounded-medium border border-rule-strong bg-sheet px-2.5 py-1.5 text-quiet"
      style={{ left: Math.min(x + 14, width - 210), top: y > 110 ? y - 70 : y + 18 }}
    >
      <p className="font-semibold">
        {name}, velocity {Math.round(notes.velocity[row])}
      </p>
      <p className="text-ink-2">
        at {position(notes.start[row])},{' '}
        {offset === 0 ? 'on the grid' : `${Math.abs(offset)} ms ${offset > 0 ? 'late' : 'early'}`}
      </p>
      {Math.abs(movedMs) >= 0.5 && (
        <p className="text-ink-2">
          was at {position(from)}, moved {movedMs > 0 ? '+' : '−'}
          {Math.abs(movedMs).toFixed(0)} ms
        </p>
      )}
    </div>
  );
}
