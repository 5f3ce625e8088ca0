import { secondsToTicks, ticksToSeconds, type Part } from '@ordle/core';
import { useEffect, useMemo, useRef } from 'react';
import { createTakesEditor, type Cell, type TakesContent, type TakesEditor } from '@/editor';
import { useOpenBench } from '@/music/useBench';
import { usePlayTick } from '@/playback/usePlayTick';
import { transport } from '@/sound/transport';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import type { TakesState } from './useTakes';

interface TakesCanvasProps {
  onEditor(editor: TakesEditor | null): void;
  part: Part;
  state: TakesState;
  proposal: Int32Array | null;
  seam: number;
  focus: Cell;
  selected: { from: number; to: number };
  playing: boolean;
  onChoose(row: number, from: number, to: number, layers: boolean): void;
  onFocus(cell: Cell): void;
  onSeam(index: number): void;
  onRows(scrolled: { top: number; height: number }): void;
}

const NONE = { start: new Float64Array(0), end: new Float64Array(0), pitch: new Uint8Array(0) };

/** The canvas of the Takes place, kept in step with what is known of the takes. */
export function TakesCanvas(props: TakesCanvasProps) {
  const { onEditor, part, state, proposal, seam, focus, selected, playing } = props;
  const editor = useRef<TakesEditor | null>(null);
  const { timeline, view } = useOpenBench();
  const dispatch = useAppDispatch();
  const canvas = useRef<HTMLCanvasElement>(null);
  const overlay = useRef<HTMLCanvasElement>(null);
  const playLine = useRef<HTMLDivElement>(null);
  const latest = useRef({ props, timeline });
  useEffect(() => {
    latest.current = { props, timeline };
  });

  useEffect(() => {
    if (!canvas.current || !overlay.current || !playLine.current) return;
    const elements = { canvas: canvas.current, overlay: overlay.current, playLine: playLine.current };
    const made = createTakesEditor(elements, {
      onChoose: (...choice) => latest.current.props.onChoose(...choice),
      onFocus: (cell) => latest.current.props.onFocus(cell),
      onSeam: (index) => latest.current.props.onSeam(index),
      onRows: (scrolled) => latest.current.props.onRows(scrolled),
      onLocate: (tick) => transport.locate(ticksToSeconds(latest.current.timeline.tempo, tick)),
      onLoop: (from, to) => dispatch(viewChanged({ loop: { on: true, from, to } })),
    });
    editor.current = made;
    onEditor(made);
    // The benchmark and the end-to-end tests read places and painting times from here.
    Object.assign(canvas.current, { ordleTakes: made });
    made.focus();
    return () => {
      made.destroy();
      editor.current = null;
      onEditor(null);
    };
  }, [dispatch, onEditor]);

  const { rows, assembled, lines, chosen } = state;
  const takes = useMemo(
    () =>
      (rows ?? []).map(({ take, notes, reading, missing, extra, fault }) => ({
        name: take.name,
        notes,
        spread: reading.bars.map(({ spreadMs }) => spreadMs),
        missing,
        extra,
        fault,
      })),
    [rows],
  );
  const seams = useMemo(
    () =>
      (assembled?.seams ?? []).map(({ facts, layerId }) => {
        const layer = Math.max(0, part.layers.order.indexOf(layerId));
        const bar = Math.max(0, lines.findIndex((line) => line > facts.at + 0.5) - 1);
        const row = (at: number) => chosen[layer]?.[at] ?? -1;
        return { at: facts.at, from: row(bar - 1), to: row(bar), isCutting: facts.cut > 0 };
      }),
    [assembled, lines, chosen, part.layers.order],
  );
  useEffect(() => {
    const content: TakesContent = {
      takes,
      lines,
      chosen,
      proposal,
      assembled: assembled?.notes ?? NONE,
      dropped: assembled?.dropped ?? NONE,
      seams,
      seam,
      focus,
      selected,
      loop: view.loop,
      ink: part.ink,
    };
    editor.current?.setContent(content);
  }, [takes, lines, chosen, proposal, assembled, seams, seam, focus, selected, view.loop, part.ink]);
  usePlayTick(timeline, playing, (tick) => editor.current?.setPlayTick(tick));
  useEffect(
    () => editor.current?.setPlayTick(secondsToTicks(timeline.tempo, transport.second())),
    [timeline],
  );

  const bars = lines.length - 1;
  return (
    <section aria-label="Takes and bars" className="relative min-w-0 grow overflow-hidden">
      <canvas
        ref={canvas}
        tabIndex={0}
        role="img"
        data-testid="takes"
        aria-label={`${part.name}: ${takes.length} takes, ${bars} bars. ${takes[focus.row]?.name ?? 'No take'}, bar ${focus.bar + 1}${(chosen.some((layer) => layer[focus.bar] === focus.row) && ', chosen') || ''}. Arrows go from cell to cell, Enter chooses, Shift and Enter layers.`}
        className="absolute inset-0 h-full w-full touch-none outline-none"
      />
      <canvas
        ref={overlay}
        aria-hidden="true"
        className="pointer-events-none absolute inset-0 h-full w-full"
      />
      <div
        ref={playLine}
        aria-hidden="true"
        className="pointer-events-none absolute top-0 bottom-0 left-0 w-px bg-accent"
      />
      {rows === null && (
        <p className="absolute inset-0 flex items-center justify-center text-ink-2">
          {state.error ?? 'Reading the takes ...'}
        </p>
      )}
      {rows !== null && state.error !== null && (
        <p
          role="alert"
          className="absolute inset-x-4 bottom-6 rounded-small border border-edge bg-sheet p-2 font-semibold"
        >
          {state.error}
        </p>
      )}
    </section>
  );
}
