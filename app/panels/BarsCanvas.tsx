import { secondsToTicks, ticksToSeconds } from '@ordle/core';
import { useEffect, useRef, type ReactNode } from 'react';
import type { BarsElements, BarsEvents, BarsFace } from '@/editor';
import { moveMarker } from '@/edits/markerActions';
import { useOpenBench } from '@/music/useBench';
import { useMarkers, useSections } from '@/music/useMarkers';
import { usePlayTick } from '@/playback/usePlayTick';
import { transport } from '@/sound/transport';
import { store, useAppDispatch } from '@/state/store';
import { barsWindowMoved, viewChanged } from '@/state/viewSlice';
import { WithMenu, type MenuItem } from '@/ui';

interface BarsCanvasProps<E extends BarsFace> {
  /** What the section and its canvas are called, and what the canvas says of itself. */
  label: string;
  words: string;
  testId: string;
  /** What is shown, where the place shows one thing after another: what is in sight is kept for each. */
  shows?: string;
  /** Whether everything that is shown has been read. */
  isRead: boolean;
  className: string;
  playing: boolean;
  /** Where the music ends, in ticks: the last section does too. */
  endTick: number;
  /** How the canvas measures time, where it is not in the session's ticks. */
  time?: { toSecond(at: number): number; fromSecond(second: number): number };
  /** Makes the editor, once. */
  create(elements: BarsElements, events: BarsEvents): E;
  onEditor(editor: E | null): void;
  onRows(scrolled: { top: number; height: number }): void;
  /** Selects what is pointed at before its menu opens: places of the canvas, in CSS pixels. */
  onMenu?(x: number, y: number): void;
  /** What can be done with what is pointed at, or stood on. */
  menu?(): readonly (MenuItem | null)[];
  /** What lies over the canvas. */
  children?: ReactNode;
}

/**
 * A canvas of rows along the bars with its play line: where it is clicked music plays from, and what the ruler loops.
 */
export function BarsCanvas<E extends BarsFace>(props: BarsCanvasProps<E>) {
  const { onEditor, testId, shows = '', isRead, playing, endTick } = props;
  const { timeline, mayWrite } = useOpenBench();
  const dispatch = useAppDispatch();
  const markers = useMarkers();
  const sections = useSections(endTick);
  const own = useRef<E | null>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const overlay = useRef<HTMLCanvasElement>(null);
  const playLine = useRef<HTMLDivElement>(null);
  const latest = useRef({ props, timeline, mayWrite, markers, sections });
  useEffect(() => {
    latest.current = { props, timeline, mayWrite, markers, sections };
  });
  useEffect(() => {
    if (!canvas.current || !overlay.current || !playLine.current) return;
    const elements = { canvas: canvas.current, overlay: overlay.current, playLine: playLine.current };
    const key = [testId, shows].join(' ');
    const made = latest.current.props.create(elements, {
      onRows: (scrolled) => latest.current.props.onRows(scrolled),
      onWindow: (window) => dispatch(barsWindowMoved({ key, window })),
      onLocate(at) {
        const { props: own, timeline: now } = latest.current;
        transport.locate(own.time ? own.time.toSecond(at) : ticksToSeconds(now.tempo, at));
      },
      onLoop(from, to) {
        const { props: own, timeline: now } = latest.current;
        const tick = (at: number) =>
          own.time ? Math.round(secondsToTicks(now.tempo, own.time.toSecond(at))) : at;
        dispatch(viewChanged({ loop: { on: true, from: tick(from), to: tick(to) } }));
      },
      onMarker(id, tick) {
        if (latest.current.mayWrite) moveMarker(dispatch, latest.current.markers, id, tick);
      },
      onSection(marker) {
        const section = latest.current.sections.find(({ id }) => id === marker);
        if (section) dispatch(viewChanged({ loop: { on: true, from: section.start, to: section.end } }));
      },
    });
    const before = store.getState().barsWindows[key];
    if (before) made.restore(before);
    own.current = made;
    onEditor(made);
    // The benchmark and the end-to-end tests read places and painting times from here.
    Object.assign(canvas.current, { ordleEditor: made });
    made.focus();
    return () => {
      made.destroy();
      own.current = null;
      onEditor(null);
    };
  }, [dispatch, onEditor, testId, shows]);
  const { time } = props;
  usePlayTick(timeline, playing, (tick) =>
    own.current?.setPlayTick(time ? time.fromSecond(transport.second()) : tick),
  );
  return (
    <section aria-label={props.label} className="relative min-w-0 grow overflow-hidden bg-sheet">
      <WithMenu
        items={() => latest.current.props.menu?.() ?? []}
        onAsk={({ x, y, byKey }) => {
          const box = canvas.current?.getBoundingClientRect();
          if (box && !byKey) latest.current.props.onMenu?.(x - box.left, y - box.top);
        }}
      >
        <canvas
          ref={canvas}
          tabIndex={0}
          role="application"
          aria-roledescription={props.label}
          data-testid={testId}
          data-read={isRead}
          aria-label={props.words}
          className={`absolute inset-0 h-full w-full touch-none ${isRead ? '' : 'opacity-0'} ${props.className}`}
        />
      </WithMenu>
      <p role="status" className="sr-only">
        {props.words}
      </p>
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
      {props.children}
    </section>
  );
}
