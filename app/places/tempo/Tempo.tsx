import {
  gridToPlaying,
  listOf,
  mapItems,
  pulseKeeper,
  recordedWith,
  timelineOf,
  type Part,
  type Session,
} from '@ordle/core';
import { useCallback, useMemo, useRef, useState } from 'react';
import type { TempoEditor } from '@/editor';
import { useBench, useOpenBench, type BenchState } from '@/music/useBench';
import { BarsZoom } from '@/panels/BarsZoom';
import { NoParts } from '@/panels/NoParts';
import { TransportBar } from '@/panels/transport/TransportBar';
import { usePlayback } from '@/playback/usePlayback';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { Button, Check, Segmented, Select } from '@/ui';
import { atLevel, changeHints, withBeat, withBeatOut, withBeatsKept, withoutBeat } from './tempoActions';
import { TempoMapView } from './map/TempoMapView';
import { TempoCanvas } from './TempoCanvas';
import { TempoPanel } from './TempoPanel';
import { useFoundBeats, type TempoState } from './useFoundBeats';
import { useTempoCommands } from './useTempoCommands';

/** The pulse of a performance: found, put right by hand, and settled, by the grid or by the playing. */
export function Tempo() {
  const bench = useBench();
  if (!bench) return null;
  if (!bench.part) return <NoParts>This session has no part with a tempo to find.</NoParts>;
  return <TempoOfPart part={bench.part} />;
}

const NONE: readonly number[] = [];

function TempoOfPart({ part }: { part: Part }) {
  const bench = useOpenBench();
  const { session, mayWrite } = bench;
  const dispatch = useAppDispatch();
  const editor = useRef<TempoEditor | null>(null);
  const keepEditor = useCallback((made: TempoEditor | null) => {
    editor.current = made;
  }, []);
  const state = useFoundBeats(session, part);
  const [focus, setFocus] = useState(-1);
  const [withClick, setWithClick] = useState(false);
  const [looksAt, setLooksAt] = useState<'beats' | 'map'>('beats');
  const isMap = looksAt === 'map';
  const heard = useHeardBeats(bench, part, state, withClick && !isMap);
  const playback = usePlayback(heard, bench.timeline);
  const [pointed, setPointed] = useState<number | null>(null);
  const found = state.view?.found;
  const bpm = found?.bpm ?? 120;
  const set = pulseKeeper(part, session).pulse?.beats ?? NONE;
  const at = found?.beats[focus];
  const change = (label: string, make: Parameters<typeof changeHints>[3]) => {
    if (mayWrite) changeHints(dispatch, label, part.id, make);
  };
  const actions = {
    move: (from: number, to: number) => change('Move a beat', (hints) => withBeat(hints, to, from)),
    insert: (second: number) => change('A beat here', (hints) => withBeat(hints, second)),
    out: () => {
      if (at === undefined) return;
      change('Take a beat out', (hints) => withBeatOut(hints, at));
      setFocus(-1);
    },
    keep: () => {
      const [from, to] = editor.current?.inSight() ?? [0, 0];
      const kept = [...(found?.beats ?? [])].filter((each) => each * 1000 >= from && each * 1000 <= to);
      change('Keep the beats in sight', (hints) => withBeatsKept(hints, kept));
    },
    /** The beat is so many beats into its bar, from 1. */
    place: (second: number, beat: number, bar?: number) =>
      change(`This is beat ${beat} of ${bar === undefined ? 'a bar' : `bar ${bar}`}`, (hints) => {
        const set = withBeat(hints, second);
        const period = 60 / bpm;
        return {
          ...set,
          barAt: Math.max(0, second - (beat - 1) * period),
          ...(bar !== undefined && { barNumber: bar }),
        };
      }),
    forget: () =>
      void (at !== undefined && change('Leave a beat to be found', (hints) => withoutBeat(hints, at))),
    bar: () =>
      void (at !== undefined && change('A bar begins at this beat', (hints) => ({ ...hints, barAt: at }))),
    level: (factor: number) =>
      change(factor < 1 ? 'Twice as many beats' : 'Half as many beats', (hints) =>
        atLevel(hints, bpm, factor),
      ),
    off: () =>
      found &&
      found.beats.length > 1 &&
      change('Shift by half a beat', (hints) => {
        const middle = found.beats.length >> 1;
        return withBeat(hints, (found.beats[middle - 1] + found.beats[middle]) / 2);
      }),
  };
  const told = isMap ? { ...state, view: null } : state;
  useTempoCommands({
    playback,
    editor,
    state: told,
    focus,
    mayWrite: mayWrite && !isMap,
    onFocus: setFocus,
    actions,
  });
  return (
    <main className="flex min-w-0 grow flex-col">
      <div
        role="toolbar"
        aria-label="Tempo"
        className="flex h-10 shrink-0 items-center gap-3 border-b border-rule-strong bg-ground px-3"
      >
        <span className="w-44 shrink-0">
          <Segmented
            label="What is looked at"
            value={looksAt}
            options={[
              { value: 'beats', label: 'beats' },
              { value: 'map', label: 'tempo and meter' },
            ]}
            onChange={setLooksAt}
          />
        </span>
        <Select
          label="Part"
          value={part.id}
          className="max-w-44"
          onChange={(partId) => {
            setFocus(-1);
            dispatch(viewChanged({ partId }));
          }}
        >
          {listOf(session.parts).map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </Select>
        <span className="truncate text-ink-2" data-testid="tempo-summary">
          {isMap
            ? 'The tempo and meter of the session'
            : state.isFinding
              ? 'Finding the beats ...'
              : found
                ? `${found.beats.length} beats, ${part.lockedTo === 'seconds' ? 'locked to real time' : 'lies by its beats'}`
                : ''}
        </span>
        <span className="grow" />
        {!isMap && (
          <>
            <Check
              checked={withClick}
              onChange={(on) => {
                setWithClick(on);
                dispatch(viewChanged({ click: on }));
              }}
            >
              hear the beats
            </Check>
            <Button disabled={!mayWrite || !found} onClick={() => actions.level(0.5)}>
              double
            </Button>
            <Button disabled={!mayWrite || !found} onClick={() => actions.level(2)}>
              halve
            </Button>
            <Button disabled={!mayWrite || !found} onClick={() => void actions.off()}>
              shift ½
            </Button>
            <Button disabled={!mayWrite || at === undefined} onClick={() => void actions.bar()}>
              Bar begins here
            </Button>
            <BarsZoom editor={editor} />
          </>
        )}
      </div>
      {isMap ? (
        <TempoMapView />
      ) : (
        <div className="flex min-h-0 grow">
          <TempoCanvas
            state={state}
            partId={part.id}
            ink={part.ink}
            set={set}
            focus={focus}
            playing={playback.playing}
            onEditor={keepEditor}
            onBeat={actions.move}
            onInsert={actions.insert}
            onFocus={(beat) => {
              setFocus(beat);
              setPointed(null);
            }}
            onNote={(second) => {
              setFocus(-1);
              setPointed(second);
            }}
          />
          <TempoPanel
            part={part}
            state={state}
            pointed={pointed ?? at ?? null}
            isBeat={pointed === null}
            actions={actions}
          />
        </div>
      )}
      <TransportBar playback={playback} />
    </main>
  );
}

/**
 * With the beats heard, what was recorded together is played alone under the map of its beats, with a click on each:
 * the document that is played, not the one that is kept.
 */
function useHeardBeats(bench: BenchState, part: Part, { settled }: TempoState, isOn: boolean): BenchState {
  const { session } = bench;
  const played = useMemo((): Session | null => {
    if (!isOn || !settled) return null;
    const ids = new Set(recordedWith(part, session).map(({ id }) => id));
    const under = gridToPlaying(session, [...ids], settled, timelineOf(session));
    const parts = mapItems(under.parts, (own) => ({ ...own, soloed: ids.has(own.id), muted: false }));
    return { ...under, parts };
  }, [session, part, settled, isOn]);
  return useMemo(
    () =>
      played
        ? {
            ...bench,
            session: played,
            timeline: timelineOf(played),
            part: listOf(played.parts).find(({ id }) => id === part.id) ?? null,
            stop: null,
          }
        : bench,
    [bench, played, part.id],
  );
}
