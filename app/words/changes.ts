import type { ChangeReading } from '@ordle/core';
import { counted, figures } from './counts';

/** What a step changed, in words, what matters most first; moves and lengths are told by figures of their own. */
export function changesInWords(reading: ChangeReading): string[] {
  const { removed, added, repitched, velocities, presses, points } = reading;
  const others = points[0] - presses[0] !== points[1] - presses[1] || presses[0] === presses[1];
  return [
    ...(removed > 0 ? [`${counted(removed, 'note')} removed`] : []),
    ...(added > 0 ? [`${counted(added, 'note')} added`] : []),
    ...(repitched > 0 ? [`${counted(repitched, 'pitch', 'pitches')} changed`] : []),
    ...(velocities > 0 ? [`${counted(velocities, 'velocity', 'velocities')} changed`] : []),
    ...(presses[0] !== presses[1] ? [`${fromTo(presses)} presses`] : []),
    ...(points[0] !== points[1] && others ? [`${fromTo(points)} points`] : []),
  ];
}

const fromTo = ([before, after]: readonly [number, number]) => `${figures(before)} → ${figures(after)}`;

const signed = (value: number) => `${value < 0 ? '−' : '+'}${figures(Math.abs(value))}`;

/** The same for the narrow room of a segment of the line: only what matters most. */
export function changeInShort({
  removed,
  added,
  repitched,
  velocities,
  presses,
  points,
}: ChangeReading): string {
  if (removed > 0) return `−${figures(removed)}`;
  if (added > 0) return `+${figures(added)}`;
  if (repitched > 0) return counted(repitched, 'pitch', 'pitches');
  if (velocities > 0) return `${figures(velocities)} vel`;
  if (presses[0] !== presses[1]) return fromTo(presses);
  return points[0] !== points[1] ? `${signed(points[1] - points[0])} pts` : '';
}
