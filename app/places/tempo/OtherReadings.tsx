import {
  NO_HINTS,
  bpmOfBeats,
  doubledBeats,
  halvedBeats,
  settledBeats,
  shiftedBeats,
  withBarsSaid,
  type FoundBeats,
  type OtherReading,
  type PlayedBeats,
  type PulseHints,
} from '@ordle/core';
import { useMemo } from 'react';
import { Button } from '@/ui';
import type { BeatActions } from './useBeatActions';
import type { TempoState } from './useFoundBeats';

/** The beats as they would be in another reading of the same playing. */
function readingOf({ found, strokes }: PlayedBeats, other: OtherReading): FoundBeats {
  const { laid = [] } =
    other === 'shift'
      ? shiftedBeats(NO_HINTS, found, strokes)
      : other === 'halve'
        ? halvedBeats(NO_HINTS, found)
        : doubledBeats(NO_HINTS, found, strokes);
  const beats = Float64Array.from(laid);
  const read: FoundBeats = {
    ...found,
    beats,
    bpm: bpmOfBeats(beats),
    sure: new Float32Array(beats.length).fill(1),
  };
  return withBarsSaid(read, [{ at: beats[0] ?? 0, beat: 1 }]);
}

/** What is shown and heard while another reading is tried. */
export function useTried(
  state: TempoState,
  tried: OtherReading | null,
  pulse: PulseHints | undefined,
): TempoState {
  const { view } = state;
  const settling = pulse?.settling ?? 'beats';
  const roundTo = pulse?.roundTo;
  return useMemo(() => {
    if (!view || tried === null) return state;
    const found = readingOf(view, tried);
    return { ...state, view: { ...view, found }, ...settledBeats(found, settling, roundTo) };
  }, [state, view, tried, settling, roundTo]);
}

const inWords = (other: OtherReading, bpm: number) =>
  other === 'shift'
    ? 'half a beat later'
    : other === 'halve'
      ? `half as fast, ${(bpm / 2).toFixed(0)} bpm`
      : `twice as fast, ${(2 * bpm).toFixed(0)} bpm`;

/** Other ways in which the playing may be meant: each is heard by a click, and taken by another. */
export function OtherReadings(props: {
  found: FoundBeats;
  /** The tempo of the beats that were found. */
  bpm: number;
  tried: OtherReading | null;
  mayWrite: boolean;
  actions: Pick<BeatActions, OtherReading>;
  onTry(other: OtherReading | null): void;
}) {
  const { found, bpm, tried, mayWrite, actions, onTry } = props;
  if (found.unsure.length === 0) return null;
  return (
    <div role="group" aria-label="It could also be" className="flex flex-col gap-1">
      <p className="text-ink-2">It could also be:</p>
      {found.unsure.map((other) => (
        <p key={other} className="flex items-center gap-2">
          <span className="grow">{inWords(other, bpm)}</span>
          <Button aria-pressed={tried === other} onClick={() => onTry(tried === other ? null : other)}>
            {tried === other ? 'Back' : 'Hear'}
          </Button>
          <Button
            disabled={!mayWrite}
            onClick={() => {
              onTry(null);
              actions[other]();
            }}
          >
            Use
          </Button>
        </p>
      ))}
    </div>
  );
}
