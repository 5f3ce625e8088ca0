import {
  gridToPlaying,
  listOf,
  mapItems,
  pulseKeeper,
  recordedWith,
  timelineOf,
  type OtherReading,
  type Part,
  type PulseHints,
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
import { useRoving } from '@/ui/useRoving';
import { counted } from '@/words/counts';
import { TempoMapView } from './map/TempoMapView';
import { TempoCanvas } from './TempoCanvas';
import { TempoPanel } from './TempoPanel';
import { useTried } from './OtherReadings';
import { useBeatActions } from './useBeatActions';
import { useFoundBeats, type TempoState } from './useFoundBeats';
import { useTaps } from './useTaps';
import { useTempoCommands } from './useTempoCommands';

/** The pulse of a performance: found, put right by hand, and settled, by the grid or by the playing. */
export function Tempo() {
  const bench = useBench();
  if (!bench) return null;
  if (!bench.part) return <NoParts>This session has no part with a tempo to find.</NoParts>;
  return <TempoOfPart part={bench.part} />;
}

const NONE: readonly number[] = [];

type Was = Pick<PulseHints, 'was'> | undefined;

/** What the presses that work on all beats do now: the same press takes back or goes on with what was done last. */
const LEVELS = {
  double: (pulse: Was) =>
    pulse?.was?.by === 'halve'
      ? 'All beats again, as before they were halved'
      : 'A beat more between each two, on the strokes there',
  halve: (pulse: Was) =>
    pulse?.was?.by === 'halve'
      ? 'The other half of the beats'
      : pulse?.was?.by === 'double'
        ? 'The beats as before they were doubled'
        : 'Every second beat; press again for the other half',
  shift: (pulse: Was) =>
    pulse?.was?.by === 'shift'
      ? 'Back to where the beats were'
      : 'Every beat half a beat later; press again to take it back',
};

function TempoOfPart({ part }: { part: Part }) {
  const bench = useOpenBench();
  const { session, mayWrite } = bench;
  const bar = useRoving<HTMLDivElement>();
  const dispatch = useAppDispatch();
  const editor = useRef<TempoEditor | null>(null);
  const keepEditor = useCallback((made: TempoEditor | null) => {
    editor.current = made;
  }, []);
  const pulse = pulseKeeper(part, session).pulse;
  const stands = useFoundBeats(session, part);
  const [tried, setTried] = useState<OtherReading | null>(null);
  const state = useTried(stands, tried, pulse);
  const [focus, setFocus] = useState(-1);
  const [withClick, setWithClick] = useState(false);
  const [looksAt, setLooksAt] = useState<'beats' | 'map'>('beats');
  const isMap = looksAt === 'map';
  const heard = useHeardBeats(bench, part, state, withClick && !isMap);
  const playback = usePlayback(heard, bench.timeline);
  const [pointed, setPointed] = useState<number | null>(null);
  const found = state.view?.found;
  const at = found?.beats[focus];
  const beats = useBeatActions(part, stands, mayWrite);
  const { taps, tap } = useTaps(playback.playing, beats.tap);
  const actions = {
    ...beats,
    out: () => {
      if (at === undefined) return;
      beats.out(at);
      setFocus(-1);
    },
    keep: () => {
      const [from, to] = editor.current?.inSight() ?? [0, 0];
      beats.keep(from / 1000, to / 1000);
    },
    forget: () => void (at !== undefined && beats.forget(at)),
    bar: () => void (at !== undefined && beats.place(at, 1)),
    tap,
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
        ref={bar}
        role="toolbar"
        aria-label="Tempo"
        className="flex min-h-10 shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule-strong bg-ground px-3 narrow:max-h-[30vh] narrow:overflow-y-auto narrow:gap-x-2 narrow:py-1"
      >
        <span className="shrink-0">
          <Segmented
            label="What is looked at"
            value={looksAt}
            options={[
              {
                value: 'beats',
                label: 'beats',
                title: 'The beats of a free recording: found, tapped, moved by hand',
              },
              {
                value: 'map',
                label: 'tempo and meter',
                title: 'The tempo and the meter of the session, bar by bar',
              },
            ]}
            onChange={setLooksAt}
          />
        </span>
        <Select
          label="Part"
          tip="The part in which beats are looked for."
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
                ? taps.length > 0
                  ? `${counted(taps.length, 'tap')}: pause or stop to lay the beats`
                  : `${found.beats.length} beats, ${part.lockedTo === 'seconds' ? 'keeps its real time' : 'follows the tempo'}`
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
              <span className="whitespace-nowrap">hear the beats</span>
            </Check>
            <Button disabled={!mayWrite || !found} title={LEVELS.double(pulse)} onClick={actions.double}>
              double
            </Button>
            <Button disabled={!mayWrite || !found} title={LEVELS.halve(pulse)} onClick={actions.halve}>
              halve
            </Button>
            <Button disabled={!mayWrite || !found} title={LEVELS.shift(pulse)} onClick={actions.shift}>
              move half a beat
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
            set={pulse?.beats ?? NONE}
            taps={taps}
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
            tried={tried}
            bpm={stands.view?.found.bpm ?? 120}
            onTry={(other) => {
              setTried(other);
              setWithClick(other !== null || withClick);
              if (other !== null && !playback.playing) void playback.toggle();
            }}
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
