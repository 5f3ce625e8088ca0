import { ticksToSeconds } from '@ordle/core';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { createTempoEditor, type TempoContent, type TempoEditor } from '@/editor';
import { onProgress } from '@/engine/progress';
import { useOpenBench } from '@/music/useBench';
import { commandItems } from '@/commands';
import { BarsCanvas } from '@/panels/BarsCanvas';
import { Button, Progress } from '@/ui';
import type { TempoState } from './useFoundBeats';

interface TempoCanvasProps {
  state: TempoState;
  partId: string;
  ink: number;
  /** Times a person set, in seconds. */
  set: readonly number[];
  /** Taps that are being gathered, in seconds. */
  taps: readonly number[];
  focus: number;
  playing: boolean;
  onEditor(editor: TempoEditor | null): void;
  /** Seconds. */
  onBeat(from: number, to: number, alone: boolean): void;
  onInsert(at: number): void;
  onFocus(beat: number): void;
  onNote(at: number): void;
}

/** The canvas measures in milliseconds. */
const TIME = { toSecond: (ms: number) => ms / 1000, fromSecond: (second: number) => second * 1000 };
const inMs = (seconds: Float64Array) => seconds.map((second) => second * 1000);
const NO_MARKERS: TempoContent['markers'] = [];

/** Shorter than this, in ms, nothing needs to be said of it. */
const SOON = 700;

/** What is going on while there is nothing to see, with a way out of it. */
function Finding({ state }: { state: TempoState }) {
  const [isLong, setLong] = useState(false);
  const [share, setShare] = useState(0);
  useEffect(() => onProgress(setShare), []);
  useEffect(() => {
    const timer = setTimeout(() => setLong(true), SOON);
    return () => clearTimeout(timer);
  }, []);
  return (
    <div className="absolute inset-x-0 top-1/3 flex flex-col items-center gap-3 text-ink-2">
      <p role={state.error ? 'alert' : 'status'} className="bg-sheet px-2">
        {state.isFinding || !state.error ? 'Finding the beats ...' : state.error}
      </p>
      {state.isFinding && isLong && <Progress label="Finding the beats" share={share} className="w-48" />}
      {state.isFinding && isLong && <Button onClick={state.cancel}>Cancel</Button>}
      {!state.isFinding && state.error && <Button onClick={state.again}>Find the beats</Button>}
    </div>
  );
}

/** The canvas of the Tempo place, kept in step with the beats. */
export function TempoCanvas(props: TempoCanvasProps) {
  const { state, ink, set, taps, focus, playing, onEditor, onFocus } = props;
  const editor = useRef<TempoEditor | null>(null);
  const latest = useRef(props);
  useEffect(() => {
    latest.current = props;
  });
  const keepEditor = useCallback(
    (made: TempoEditor | null) => {
      editor.current = made;
      onEditor(made);
    },
    [onEditor],
  );
  const { view, settled } = state;
  const { timeline, view: seen } = useOpenBench();
  const loop = useMemo(() => {
    const ms = (tick: number) => 1000 * ticksToSeconds(timeline.tempo, tick);
    return { on: seen.loop.on, from: ms(seen.loop.from), to: ms(seen.loop.to) };
  }, [seen.loop, timeline]);
  const content = useMemo(() => {
    if (!view) return null;
    const { found } = view;
    const end = Math.max(
      1,
      view.end.reduce((most, at) => Math.max(most, at), 0),
    );
    const lines = [0, ...found.downbeats.map((beat) => found.beats[beat]).filter((at) => at > 0), end + 1];
    return {
      notes: { start: inMs(view.start), end: inMs(view.end), pitch: view.pitch },
      strokes: view.strokes,
      lines: inMs(Float64Array.from(lines)),
      beats: inMs(found.beats),
      downbeats: new Set(found.downbeats),
      firstBar: found.firstBar ?? 1,
      sure: found.sure,
    };
  }, [view]);
  useEffect(() => {
    if (!content) return;
    editor.current?.setContent({
      ...content,
      ink,
      focus,
      set: set.map((second) => second * 1000),
      taps: taps.map((second) => second * 1000),
      settled: settled ? inMs(settled.beats) : new Float64Array(0),
      loop,
      markers: NO_MARKERS,
    });
  }, [content, ink, set, taps, settled, focus, loop]);
  const beats = view?.found.beats.length ?? 0;
  return (
    <BarsCanvas
      label="Performance in real time"
      words={`${view?.start.length ?? 0} notes, ${beats} beats. Drag a beat and those beside it go along, with Alt it goes alone; double-click for a beat; arrows go from beat to beat.`}
      testId="tempo"
      shows={props.partId}
      isRead={view !== null}
      className="focus-visible:outline-offset-[-2px]"
      playing={playing}
      endTick={0}
      time={TIME}
      onEditor={keepEditor}
      onRows={() => undefined}
      onMenu={(x, y) => {
        const beat = editor.current?.beatAt(x, y) ?? -1;
        if (beat >= 0) onFocus(beat);
      }}
      menu={() =>
        commandItems(
          ['bar-here', 'beat-later', 'beat-earlier', 'beat-forget', 'beat-out'],
          ['beat-here', 'beats-keep', 'next-doubt'],
          ['level-double', 'level-half', 'beats-shift'],
          ['play', 'loop', 'fit-tempo'],
        )
      }
      create={(elements, events) =>
        createTempoEditor(elements, {
          ...events,
          onBeat: (from, to, alone) => latest.current.onBeat(from / 1000, to / 1000, alone),
          onInsert: (at) => latest.current.onInsert(at / 1000),
          onFocus: (beat) => latest.current.onFocus(beat),
          onNote: (at) => latest.current.onNote(at / 1000),
        })
      }
    >
      {(!view || state.error) && <Finding state={state} />}
      {view && view.start.length === 0 && (
        <p className="pointer-events-none absolute inset-x-0 top-1/3 text-center text-ink-2">
          This part has no notes, so there is no beat to find.
        </p>
      )}
    </BarsCanvas>
  );
}
