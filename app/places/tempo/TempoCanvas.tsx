import { useCallback, useEffect, useMemo, useRef } from 'react';
import { createTempoEditor, type TempoContent, type TempoEditor } from '@/editor';
import { BarsCanvas } from '@/panels/BarsCanvas';
import type { TempoState } from './useFoundBeats';

interface TempoCanvasProps {
  state: TempoState;
  ink: number;
  /** Times a person set, in seconds. */
  set: readonly number[];
  focus: number;
  playing: boolean;
  onEditor(editor: TempoEditor | null): void;
  /** Seconds. */
  onBeat(from: number, to: number): void;
  onInsert(at: number): void;
  onFocus(beat: number): void;
}

/** The canvas measures in milliseconds. */
const TIME = { toSecond: (ms: number) => ms / 1000, fromSecond: (second: number) => second * 1000 };
const inMs = (seconds: Float64Array) => seconds.map((second) => second * 1000);
const NO_MARKERS: TempoContent['markers'] = [];
const NO_LOOP = { on: false, from: 0, to: 0 };

/** The canvas of the Tempo place, kept in step with the beats. */
export function TempoCanvas(props: TempoCanvasProps) {
  const { state, ink, set, focus, playing, onEditor } = props;
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
      lines: inMs(Float64Array.from(lines)),
      beats: inMs(found.beats),
      downbeats: new Set(found.downbeats),
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
      settled: settled ? inMs(settled.beats) : new Float64Array(0),
      loop: NO_LOOP,
      markers: NO_MARKERS,
    });
  }, [content, ink, set, settled, focus]);
  const beats = view?.found.beats.length ?? 0;
  return (
    <BarsCanvas
      label="Performance in real time"
      words={`${view?.start.length ?? 0} notes, ${beats} beats. Drag a beat onto a note, double-click for a beat; arrows go from beat to beat.`}
      testId="tempo"
      isRead={view !== null}
      className="focus-visible:outline-offset-[-2px]"
      playing={playing}
      endTick={0}
      time={TIME}
      onEditor={keepEditor}
      onRows={() => undefined}
      create={(elements, events) =>
        createTempoEditor(elements, {
          ...events,
          onBeat: (from, to) => latest.current.onBeat(from / 1000, to / 1000),
          onInsert: (at) => latest.current.onInsert(at / 1000),
          onFocus: (beat) => latest.current.onFocus(beat),
        })
      }
    >
      {!view && (
        <p className="absolute inset-0 flex items-center justify-center text-ink-2">
          {state.error ?? 'Finding the beats ...'}
        </p>
      )}
      {view && view.start.length === 0 && (
        <p className="pointer-events-none absolute inset-x-0 top-1/3 text-center text-ink-2">
          This part has no notes, so there is no beat to find.
        </p>
      )}
    </BarsCanvas>
  );
}
