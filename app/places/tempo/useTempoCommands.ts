import { firstAtOrAfter } from '@ordle/core';
import type { RefObject } from 'react';
import { useCommands } from '@/commands';
import type { TempoEditor } from '@/editor';
import type { usePlayback } from '@/playback/usePlayback';
import { transport } from '@/sound/transport';
import { useAppDispatch, useAppSelector } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import type { BeatActions } from './useBeatActions';
import type { TempoState } from './useFoundBeats';

interface TempoCommandsOptions {
  playback: ReturnType<typeof usePlayback>;
  editor: RefObject<TempoEditor | null>;
  state: TempoState;
  focus: number;
  mayWrite: boolean;
  onFocus(beat: number): void;
  actions: Pick<BeatActions, 'move' | 'insert' | 'double' | 'halve' | 'halveMore' | 'shift'> & {
    forget(): void;
    out(): void;
    keep(): void;
    bar(): void;
    tap(): void;
  };
}

/** How far a beat goes by key, and within what a tap means the stroke beside it; seconds. */
const [STEP, TAP] = [0.005, 0.09];
/** Beats less sure than this are gone to one by one. */
const DOUBTFUL = 0.55;

/** What can be done on Tempo by key. */
export function useTempoCommands(options: TempoCommandsOptions) {
  const { playback, editor, state, focus, mayWrite, onFocus, actions } = options;
  const dispatch = useAppDispatch();
  const { click } = useAppSelector(({ view }) => view);
  const found = state.view?.found;
  const count = found?.beats.length ?? 0;
  const at = found?.beats[focus];
  const go = (beat: number) => {
    const next = Math.max(0, Math.min(count - 1, beat));
    onFocus(next);
    if (found) transport.locate(found.beats[next]);
  };
  /** The stroke nearest to a time, if there is one near. */
  const onto = (second: number) => {
    const start = state.view?.start ?? new Float64Array(0);
    const next = firstAtOrAfter(start, second, start.length);
    const near = [start[next - 1], start[next]]
      .filter((each) => Number.isFinite(each))
      .sort((one, other) => Math.abs(one - second) - Math.abs(other - second))[0];
    return near !== undefined && Math.abs(near - second) <= TAP ? near : second;
  };
  const may = (does: () => void) => (mayWrite && at !== undefined ? does : undefined);
  useCommands({
    play: () => void playback.toggle(),
    click: () => dispatch(viewChanged({ click: !click })),
    'to-start': () => transport.locate(0),
    'beat-next': count > 0 ? () => go(focus + 1) : undefined,
    'beat-previous': count > 0 ? () => go(focus - 1) : undefined,
    'beat-later': may(() => at !== undefined && actions.move(at, at + STEP, true)),
    'beat-earlier': may(() => at !== undefined && actions.move(at, Math.max(0, at - STEP), true)),
    'beat-here': mayWrite ? () => void actions.insert(onto(transport.second())) : undefined,
    'beat-tap': mayWrite
      ? () => void (playback.playing ? actions.tap() : actions.insert(onto(transport.second())))
      : undefined,
    'beat-forget': may(actions.forget),
    'beat-out': may(actions.out),
    'beats-keep': mayWrite && count > 0 ? actions.keep : undefined,
    'bar-here': may(actions.bar),
    'level-double': mayWrite && count > 1 ? () => void actions.double() : undefined,
    'level-half': mayWrite && count > 1 ? () => void actions.halve() : undefined,
    'level-half-more': mayWrite && count > 1 ? () => void actions.halveMore() : undefined,
    'beats-shift': mayWrite && count > 1 ? () => void actions.shift() : undefined,
    'next-doubt': found
      ? () => {
          const doubts = Array.from(found.sure.keys()).filter((beat) => found.sure[beat] < DOUBTFUL);
          const next = doubts.find((beat) => beat > focus) ?? doubts[0];
          if (next !== undefined) go(next);
        }
      : undefined,
    'fit-tempo': () => editor.current?.fit(),
  });
}
