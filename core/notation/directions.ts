import type { Harmony } from '../analysis';
import { bpmOf, type Timeline } from '../time';
import type { Frame } from './frame';
import type { Mark, NotationOptions } from './options';
import { QUARTER } from './units';
import type { Direction } from './written';

/** Tempo, markers, dynamics, pedal and swing, by bar. */
export function directionsOf(
  { timeline, marks = [] }: { timeline: Timeline; marks?: readonly Mark[] },
  { straightSwing, chordNames, transposition }: NotationOptions,
  frame: Frame,
  swing: number,
  { chords }: Harmony,
): Direction[][] {
  const byBar = frame.bars.map((): Direction[] => []);
  const end = frame.bars[frame.bars.length - 1].endTick;
  const put = (tick: number, make: (at: number) => Direction) => {
    if (tick >= end && tick > 0) return;
    const bar = frame.barAt(frame.unitsAt(tick));
    // Directions stand at the places notes may: a sixteenth is as near as a reader looks.
    const at = Math.round((frame.unitsAt(tick) - bar.at) / (QUARTER / 4)) * (QUARTER / 4);
    byBar[bar.number - 1].push(make(Math.max(0, Math.min(bar.units - 1, at))));
  };
  timeline.tempo.tick.forEach((tick, row) => {
    const bpm = Math.round(10 * bpmOf(timeline.tempo.microsecondsPerQuarter[row])) / 10;
    const before = row === 0 ? null : bpmOf(timeline.tempo.microsecondsPerQuarter[row - 1]);
    // A tempo map of a free performance has one a beat: only what is heard as another tempo is written.
    if (before === null || Math.abs(bpm / before - 1) > 0.08)
      put(tick, (at) => ({ what: 'tempo', at, staff: 0, bpm }));
  });
  if (swing !== 50 && straightSwing)
    put(0, (at) => ({ what: 'words', at, staff: 0, words: `swing ${Math.round(swing)} %` }));
  // Names of chords are of what sounds: over a part that is written elsewhere they would mislead.
  if (chordNames && transposition % 12 === 0)
    for (const { from, name } of chords) put(from, (at) => ({ what: 'chord', at, staff: 0, name }));
  for (const { tick, kind, words = '' } of marks)
    put(tick, (at): Direction => {
      const place = { at, staff: 0 };
      if (kind === 'rehearsal') return { ...place, what: kind, words };
      if (kind === 'dynamic') return { ...place, what: kind, mark: words };
      if (kind === 'pedal-down') return { ...place, what: 'pedal', is: 'start' };
      if (kind === 'pedal-up') return { ...place, what: 'pedal', is: 'stop' };
      return { ...place, what: 'hairpin', is: kind === 'hairpin-end' ? 'stop' : kind };
    });
  return byBar.map((list) => list.sort((a, b) => a.at - b.at));
}
