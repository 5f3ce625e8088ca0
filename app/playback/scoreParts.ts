import { listOf, type Part, type PlaybackPart, type Session } from '@ordle/core';
import type { ScorePart } from '@/sound/player';

/**
 * The parts of a session as they are heard; `playbacks` are in the session's order. The score has them in an order
 * that stays when parts are put elsewhere in the list, so that each goes on in its instrument.
 */
export function scoreParts(session: Session, playbacks: readonly PlaybackPart[]): ScorePart[] {
  return listOf(session.parts)
    .map((part, index) => ({ part, playback: playbacks[index] }))
    .sort((a, b) => (a.part.id < b.part.id ? -1 : 1))
    .map(({ part, playback }) => ({
      program: part.sound.program,
      drums: part.sound.drums,
      channel: part.channel - 1,
      audible: isAudible(part, session),
      playback,
    }));
}

function isAudible(part: Part, session: Session): boolean {
  if (listOf(session.parts).some(({ soloed }) => soloed)) return part.soloed;
  return !part.muted && !part.setAside;
}
