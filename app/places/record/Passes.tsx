import { ticksToSeconds, type Timeline } from '@ordle/core';
import { useEffect, useState } from 'react';
import { placedNotes } from '@/recording/clicks';
import { currentTake, usePhase } from '@/recording/recorder';
import { Button } from '@/ui';
import { counted } from '@/words/counts';

interface Pass {
  pass: number;
  notes: { at: number; length: number; pitch: number }[];
  thrown: boolean;
}

const SHOWN = 4;
const HEIGHT = 22;

/** The passes of a loop so far, newest first; without a loop there are none to tell apart. */
function passesSoFar(timeline: Timeline): Pass[] {
  const take = currentTake();
  if (!take?.plan.loop) return [];
  const { loop } = take.plan;
  const second = (tick: number) => ticksToSeconds(timeline.tempo, tick);
  const [from, length] = [second(loop.from), second(loop.to) - second(loop.from)];
  const passes = new Map<number, Pass>();
  for (const target of take.targets)
    for (const note of placedNotes(take, target)) {
      const own = passes.get(note.pass) ?? { pass: note.pass, notes: [], thrown: take.thrown.has(note.pass) };
      const end = note.end === Infinity ? note.start : note.end;
      own.notes.push({
        at: (second(note.start) - from) / length,
        length: (second(end) - second(note.start)) / length,
        pitch: note.pitch,
      });
      passes.set(note.pass, own);
    }
  return [...passes.values()].sort((a, b) => b.pass - a.pass);
}

/** Throws a pass back, or takes it in again. */
export function throwBack(pass: number | null): void {
  const take = currentTake();
  if (!take || pass === null) return;
  if (take.thrown.has(pass)) take.thrown.delete(pass);
  else take.thrown.add(pass);
}

/** The newest pass that was not thrown back; null where there is none. */
export const newestPass = (timeline: Timeline): number | null =>
  passesSoFar(timeline).find(({ thrown }) => !thrown)?.pass ?? null;

/** Passes of a loop as thin strips, newest on top; each can be thrown back, and taken in again. */
export function Passes({ timeline }: { timeline: Timeline }) {
  const isOn = usePhase() === 'recording';
  const [passes, setPasses] = useState<Pass[]>([]);
  useEffect(() => {
    if (!isOn) return;
    const show = () => setPasses(passesSoFar(timeline));
    const watch = setInterval(show, 300);
    return () => clearInterval(watch);
  }, [isOn, timeline]);
  if (!isOn || passes.length === 0) return null;
  const pitches = passes.flatMap(({ notes }) => notes.map(({ pitch }) => pitch));
  const lowest = pitches.reduce((least, pitch) => Math.min(least, pitch), 127);
  const rows = Math.max(12, pitches.reduce((most, pitch) => Math.max(most, pitch), 0) - lowest);
  return (
    <ul aria-label="Passes" className="shrink-0 border-t border-rule px-3 py-1">
      {passes.slice(0, SHOWN).map(({ pass, notes, thrown }) => (
        <li key={pass} className="flex h-7 items-center gap-3">
          <span className={`w-28 shrink-0 ${thrown ? 'text-ink-3 line-through' : ''}`}>
            Pass {pass + 1}, {counted(notes.length, 'note')}
          </span>
          <svg
            aria-hidden="true"
            preserveAspectRatio="none"
            viewBox={`0 0 1000 ${HEIGHT}`}
            className={`h-5 min-w-0 grow bg-ground ${thrown ? 'opacity-35' : ''}`}
          >
            {notes.map(({ at, length, pitch }, index) => (
              <rect
                key={index}
                x={at * 1000}
                y={(HEIGHT - 2) * (1 - (pitch - lowest) / rows)}
                width={Math.max(2, length * 1000)}
                height={2}
                className="fill-ink"
              />
            ))}
          </svg>
          <Button look="quiet" onClick={() => (throwBack(pass), setPasses(passesSoFar(timeline)))}>
            {thrown ? 'Take in again' : 'Throw back'}
          </Button>
        </li>
      ))}
      {passes.length > SHOWN && <li className="text-quiet text-ink-2">and {passes.length - SHOWN} before</li>}
    </ul>
  );
}
