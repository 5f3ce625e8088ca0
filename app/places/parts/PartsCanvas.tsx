import { secondsToTicks, ticksToSeconds } from '@ordle/core';
import { useEffect, useRef } from 'react';
import { createPartsEditor, type BlocksDrag, type PartsEditor } from '@/editor';
import { useOpenBench } from '@/music/useBench';
import { usePlayTick } from '@/playback/usePlayTick';
import { transport } from '@/sound/transport';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import type { PartsState } from './useParts';

interface PartsCanvasProps {
  onEditor(editor: PartsEditor | null): void;
  state: PartsState;
  selected: ReadonlySet<string>;
  active: string | null;
  snap: number;
  playing: boolean;
  onSelect(keys: readonly string[], adds: boolean): void;
  onDrag(drag: BlocksDrag): void;
  onActive(part: string): void;
  onOpen(part: string): void;
  onRows(scrolled: { top: number; height: number }): void;
}

/** The canvas of the Parts place, kept in step with the session. */
export function PartsCanvas(props: PartsCanvasProps) {
  const { onEditor, state, selected, active, snap, playing } = props;
  const { timeline, view } = useOpenBench();
  const dispatch = useAppDispatch();
  const editor = useRef<PartsEditor | null>(null);
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
    const made = createPartsEditor(elements, {
      onSelect: (...chosen) => latest.current.props.onSelect(...chosen),
      onDrag: (drag) => latest.current.props.onDrag(drag),
      onActive: (id) => latest.current.props.onActive(id),
      onOpen: (id) => latest.current.props.onOpen(id),
      onRows: (scrolled) => latest.current.props.onRows(scrolled),
      onLocate: (tick) => transport.locate(ticksToSeconds(latest.current.timeline.tempo, tick)),
      onLoop: (from, to) => dispatch(viewChanged({ loop: { on: true, from, to } })),
    });
    editor.current = made;
    onEditor(made);
    // The benchmark and the end-to-end tests read places and painting times from here.
    Object.assign(canvas.current, { ordleParts: made });
    made.focus();
    return () => {
      made.destroy();
      editor.current = null;
      onEditor(null);
    };
  }, [dispatch, onEditor]);
  const { seen, lines } = state;
  useEffect(
    () => editor.current?.setContent({ parts: seen, lines, selected, active, loop: view.loop, snap }),
    [seen, lines, selected, active, view.loop, snap],
  );
  usePlayTick(timeline, playing, (tick) => editor.current?.setPlayTick(tick));
  useEffect(
    () => editor.current?.setPlayTick(secondsToTicks(timeline.tempo, transport.second())),
    [timeline],
  );
  return (
    <section aria-label="Parts along the bars" className="relative min-w-0 grow overflow-hidden">
      <canvas
        ref={canvas}
        tabIndex={0}
        role="img"
        data-testid="parts"
        data-read={state.isRead}
        aria-label={`${seen.length} parts, ${seen.reduce((sum, { blocks }) => sum + blocks.length, 0)} blocks, ${selected.size} selected. Drag blocks to move them, their ends to trim, with Alt the end to stretch; a double click opens the part on the Bench.`}
        className="absolute inset-0 h-full w-full touch-none focus-visible:outline-offset-[-2px]"
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
      {!state.isRead && (
        <p className="absolute inset-0 flex items-center justify-center text-ink-2">
          {state.error ?? 'Working out the parts ...'}
        </p>
      )}
    </section>
  );
}
