import type { ScorePart } from './player';

/** A note that sounds. */
export interface Sounding {
  id: number;
  pitch: number;
  endFrame: number;
  /** Where its release comes among what is due with it. */
  place: number;
}

/** What may be due, in the usual order. */
export const [RELEASE, MESSAGE, STROKE] = [0, 1, 2];

/** Something due: a note to be let go, by its id, or a message or a stroke, by its row. */
interface Due {
  kind: number;
  row: number;
  place: number;
}

/** A part while it plays: what comes next, and what sounds. */
export interface Voice {
  part: ScorePart;
  nextNote: number;
  nextEvent: number;
  sounding: Sounding[];
  /** Note id -> the frame it was last struck at, so that a change does not strike it again. */
  struck: Map<number, number>;
}

/**
 * What is due now in the order in which it is sent: releases, messages, strokes, or as it is written where that is
 * known.
 */
export function dueOf(voice: Voice, now: number, frameOf: (second: number) => number): Due[] {
  const { playback } = voice.part;
  const { places } = playback;
  const due: Due[] = [];
  for (const { id, endFrame, place } of voice.sounding)
    if (endFrame <= now) due.push({ kind: RELEASE, row: id, place });
  while (voice.nextEvent < playback.eventTime.length && frameOf(playback.eventTime[voice.nextEvent]) <= now) {
    const row = voice.nextEvent++;
    due.push({ kind: MESSAGE, row, place: places?.event[row] ?? 0 });
  }
  while (voice.nextNote < playback.noteStart.length && frameOf(playback.noteStart[voice.nextNote]) <= now) {
    const row = voice.nextNote++;
    due.push({ kind: STROKE, row, place: places?.on[row] ?? Infinity });
  }
  if (!places || due.length < 2) return due;
  // What other parts of the channel send holds for every stroke here.
  const first = due.reduce(
    (least, { kind, place }) => (kind === STROKE ? Math.min(least, place) : least),
    Infinity,
  );
  const placeOf = ({ place }: Due) => (Number.isNaN(place) ? first : place);
  const compare = (a: Due, b: Due) => (placeOf(a) === placeOf(b) ? 0 : placeOf(a) - placeOf(b));
  return due.sort((a, b) => compare(a, b) || a.kind - b.kind);
}
