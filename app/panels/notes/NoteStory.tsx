import { listOf, kindOf, pitchName, ticksToSeconds, type Note } from '@ordle/core';
import { useEffect, useState } from 'react';
import { engine } from '@/engine/engineClient';
import { placeInWords } from './noteColumns';
import { useOpenBench, type BenchState } from '@/music/useBench';

/** A note's way from as played through each step to cleaned, a line a stop that changed it. */
export function NoteStory({ id }: { id: number }) {
  const bench = useOpenBench();
  const { session, part } = bench;
  const [story, setStory] = useState<{ id: number; part: unknown; notes: (Note | null)[] } | null>(null);
  useEffect(() => {
    if (!part) return;
    let wanted = true;
    const timer = setTimeout(() => {
      void engine.noteStory({ session, partId: part.id, id }).then(
        (notes) => wanted && setStory({ id, part, notes }),
        () => undefined,
      );
    }, 120);
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [session, part, id]);
  if (!part || !story || story.id !== id || story.part !== part) return null;
  const lines = story.notes.flatMap((note, index) => {
    const before = index === 0 ? null : story.notes[index - 1];
    const title = index === 0 ? 'As played' : kindOf(listOf(part.steps)[index - 1].step.kind).title;
    const words = lineOf(before, note, index, bench);
    return words === null ? [] : [{ index, title, words }];
  });
  return (
    <ol aria-label="How this note got here" className="mt-1 border-t border-rule pt-1">
      {lines.map(({ index, title, words }) => (
        <li key={index} className="flex gap-2">
          <span className="w-18 shrink-0 text-ink-2">{title}</span>
          <span>{words}</span>
        </li>
      ))}
    </ol>
  );
}

/** What a stop did to the note, or null when it did nothing. */
function lineOf(before: Note | null, note: Note | null, index: number, bench: BenchState): string | null {
  const { timeline, view } = bench;
  const place = (tick: number) => placeInWords(tick, { timeline, time: view.time });
  if (index === 0)
    return note
      ? `${place(note.start)}, ${pitchName(note.pitch, view.middleC)}, velocity ${Math.round(note.velocity)}`
      : null;
  if (!before) return note ? `added at ${place(note.start)}` : null;
  if (!note) return 'removed here';
  const words: string[] = [];
  const ms = (ticks: [number, number]) =>
    (ticksToSeconds(timeline.tempo, ticks[1]) - ticksToSeconds(timeline.tempo, ticks[0])) * 1000;
  const shift = (value: number) =>
    `${value > 0 ? '+' : '−'}${Math.abs(value).toFixed(Math.abs(value) < 10 ? 1 : 0)} ms`;
  if (note.start !== before.start) words.push(`start ${shift(ms([before.start, note.start]))}`);
  const lengthening = ms([note.start, note.end]) - ms([before.start, before.end]);
  if (Math.abs(lengthening) > 0.05) words.push(`length ${shift(lengthening)}`);
  if (note.pitch !== before.pitch)
    words.push(`${pitchName(before.pitch, view.middleC)} to ${pitchName(note.pitch, view.middleC)}`);
  if (Math.round(note.velocity) !== Math.round(before.velocity))
    words.push(`velocity ${Math.round(before.velocity)} to ${Math.round(note.velocity)}`);
  if (note.channel !== before.channel) words.push(`channel ${note.channel + 1}`);
  return words.length === 0 ? null : words.join(', ');
}
