import { listOf, type Part, type PlaybackPart, type Session } from '@ordle/core';
import type { ScorePart } from '@ordle/sound';

/**
 * The parts of a session as they are heard; `playbacks` are in the session's order. The score has them in an order
 * that stays when parts are put elsewhere in the list, so that each goes on in its instrument.
 */
export function scoreParts(
  session: Session,
  playbacks: readonly PlaybackPart[],
  silent: Readonly<Record<string, readonly number[]>> = {},
): ScorePart[] {
  return listOf(session.parts)
    .map((part, index) => ({ part, playback: without(playbacks[index], silent[part.id] ?? []) }))
    .sort((a, b) => (a.part.id < b.part.id ? -1 : 1))
    .map(({ part, playback }) => ({
      program: part.sound.program,
      drums: part.sound.drums,
      channel: part.channel - 1,
      audible: isAudible(part, session),
      playback,
    }));
}

/** What is heard without some pitches. */
function without(playback: PlaybackPart, pitches: readonly number[]): PlaybackPart {
  const { notePitch, places } = playback;
  if (pitches.length === 0 || !notePitch.some((pitch) => pitches.includes(pitch))) return playback;
  const kept = <T extends Float64Array | Uint8Array>(column: T): T =>
    column.filter((_, row) => !pitches.includes(notePitch[row])) as T;
  return {
    ...playback,
    noteId: kept(playback.noteId),
    noteStart: kept(playback.noteStart),
    noteEnd: kept(playback.noteEnd),
    notePitch: kept(notePitch),
    noteVelocity: kept(playback.noteVelocity),
    ...(places && { places: { ...places, on: kept(places.on), off: kept(places.off) } }),
  };
}

function isAudible(part: Part, session: Session): boolean {
  if (listOf(session.parts).some(({ soloed }) => soloed)) return part.soloed;
  return !part.muted && !part.setAside;
}
