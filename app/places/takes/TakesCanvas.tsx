import { lastAtOrBefore, type Part } from '@ordle/core';
import { useCallback, useEffect, useMemo, useRef } from 'react';
import { NO_NOTES, createTakesEditor, type Cell, type TakesContent, type TakesEditor } from '@/editor';
import { useOpenBench } from '@/music/useBench';
import { useMarkers } from '@/music/useMarkers';
import { commandItems } from '@/commands';
import { BarsCanvas } from '@/panels/BarsCanvas';
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

/** The canvas of the Takes place, kept in step with what is known of the takes. */
export function TakesCanvas(props: TakesCanvasProps) {
  const { onEditor, part, state, proposal, seam, focus, selected, playing } = props;
  const editor = useRef<TakesEditor | null>(null);
  const { view } = useOpenBench();
  const keepEditor = useCallback(
    (made: TakesEditor | null) => {
      editor.current = made;
      onEditor(made);
    },
    [onEditor],
  );
  const latest = useRef(props);
  useEffect(() => {
    latest.current = props;
  });
  const markers = useMarkers();
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
        const bar = Math.max(0, Math.min(lines.length - 2, lastAtOrBefore(lines, facts.at + 0.5)));
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
      assembled: assembled?.notes ?? NO_NOTES,
      dropped: assembled?.dropped ?? NO_NOTES,
      seams,
      seam,
      focus,
      selected,
      loop: view.loop,
      markers,
      ink: part.ink,
    };
    editor.current?.setContent(content);
  }, [takes, lines, chosen, proposal, assembled, seams, seam, focus, selected, view.loop, markers, part.ink]);
  const bars = lines.length - 1;
  return (
    <BarsCanvas
      label="Takes and bars"
      words={`${part.name}: ${takes.length} takes, ${bars} bars. ${takes[focus.row]?.name ?? 'No take'}, bar ${focus.bar + 1}${(chosen.some((layer) => layer[focus.bar] === focus.row) && ', chosen') || ''}. Arrows go from cell to cell, Enter chooses, Shift and Enter layers.`}
      testId="takes"
      shows={part.id}
      isRead={rows !== null}
      className="focus-visible:outline-offset-[-2px]"
      playing={playing}
      endTick={lines.at(-1) ?? 0}
      onEditor={keepEditor}
      onRows={props.onRows}
      onMenu={(x, y) => {
        const cell = editor.current?.cellAt(x, y);
        if (cell) props.onFocus(cell);
      }}
      menu={() =>
        commandItems(
          ['choose-take', 'layer-take', 'clear-bars'],
          ['cells-more', 'cells-fewer'],
          ['next-loose', 'next-seam', 'play-seam', 'propose'],
          ['play', 'loop', 'marker-new', 'fit-takes'],
        )
      }
      create={(elements, events) =>
        createTakesEditor(elements, {
          ...events,
          onChoose: (...choice) => latest.current.onChoose(...choice),
          onFocus: (cell) => latest.current.onFocus(cell),
          onSeam: (index) => latest.current.onSeam(index),
        })
      }
    >
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
    </BarsCanvas>
  );
}
