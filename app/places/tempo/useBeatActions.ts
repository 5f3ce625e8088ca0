import {
  NO_HINTS,
  doubledBeats,
  foundAnew,
  halvedBeats,
  shiftedBeats,
  withBeatAt,
  withBeatDragged,
  withBeatFree,
  withBeatOut,
  withBeatsKept,
  withPlaceSaid,
  withTaps,
  type FoundBeats,
  type Part,
  type PulseHints,
  type Strokes,
} from '@ordle/core';
import { useRef } from 'react';
import { toast } from 'sonner';
import { useAppDispatch } from '@/state/store';
import { counted } from '@/words/counts';
import { changeHints } from './tempoActions';
import type { TempoState } from './useFoundBeats';

/** A lag that is told, in seconds: less is nobody's delay. */
const TOLD = 0.015;

type Standing = FoundBeats & { strokes: Strokes };

/** All that can be said of the beats that stand there, each as one action. */
export function useBeatActions(part: Part, state: TempoState, mayWrite: boolean) {
  const dispatch = useAppDispatch();
  /** The lag of the last taps it could be measured of. */
  const lag = useRef(0);
  const { view, isFinding } = state;
  const say = (
    label: string,
    make: (hints: PulseHints, found: Standing) => PulseHints,
    { whateverStands = false } = {},
  ): boolean => {
    if (!mayWrite || !view) return false;
    return changeHints(dispatch, label, part.id, (hints) => {
      // What was just laid stands, though it has not come back from the worker yet; what is being found does not.
      if (isFinding && !hints.laid && !whateverStands) {
        toast('The beats are still being found: say it once they stand.');
        return hints;
      }
      const beats = hints.laid ? Float64Array.from(hints.laid) : view.found.beats;
      return make(hints, { ...view.found, beats, strokes: view.strokes });
    });
  };
  return {
    move: (from: number, to: number, alone: boolean) =>
      say('Move a beat', (hints, found) => withBeatDragged(hints, found, from, to, alone)),
    insert: (at: number) => say('A beat here', (hints, found) => withBeatAt(hints, found, at)),
    out: (at: number) => say('Take a beat out', (hints, found) => withBeatOut(hints, found, at)),
    forget: (at: number) =>
      say('Leave a beat to be found', (hints, found) => withBeatFree(hints, found, found.strokes, at)),
    keep: (from: number, to: number) =>
      say('Fix the beats shown', (hints, found) => withBeatsKept(hints, found, from, to)),
    /** The beat is so many beats into its bar, from 1, and the bar has a number where one is said. */
    place: (at: number, beat: number, bar?: number) =>
      say(`This is beat ${beat} of ${bar === undefined ? 'a bar' : `bar ${bar}`}`, (hints, found) =>
        withPlaceSaid(hints, found, { at, beat, ...(bar !== undefined && { bar }) }),
      ),
    double: () => say('Twice as many beats', (hints, found) => doubledBeats(hints, found, found.strokes)),
    halve: () => say('Half as many beats', halvedBeats),
    /** Once more, where halving again would take the other half. */
    halveMore: () =>
      say('Half as many beats once more', (hints, found) => halvedBeats({ ...hints, was: undefined }, found)),
    shift: () => say('Shift by half a beat', (hints, found) => shiftedBeats(hints, found, found.strokes)),
    restAnew: () => say('Find the rest again', foundAnew, { whateverStands: true }),
    allAnew: () =>
      say(
        'Find all beats again',
        ({ settling, roundTo }) => ({ ...NO_HINTS, settling, ...(roundTo !== undefined && { roundTo }) }),
        { whateverStands: true },
      ),
    /** Beats tapped along with the playing, in seconds; their lag is taken off and told. */
    tap(taps: readonly number[]) {
      const tapped = (hints: PulseHints, found: Standing) => {
        const meant = withTaps(hints, found, taps, found.strokes, lag.current);
        lag.current = meant.lag;
        return meant.pulse;
      };
      // Taps go by the strokes, which stand whatever is being found of them.
      const isLaid = say(`Tap ${counted(taps.length, 'beat')}`, tapped, { whateverStands: true });
      if (!isLaid || Math.abs(lag.current) < TOLD) return;
      const ms = Math.round(Math.abs(1000 * lag.current));
      const how = lag.current > 0 ? 'lag' : 'are early by';
      toast(`${counted(taps.length, 'tap')}: your taps ${how} ${ms} ms; taken off.`, { duration: 8000 });
    },
  };
}

export type BeatActions = ReturnType<typeof useBeatActions>;
