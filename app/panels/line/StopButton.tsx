import type { PartView } from '@ordle/core';
import type { ReactNode } from 'react';
import { usePartViewValue } from '@/music/partViewStore';
import { changeInShort } from '@/words/changes';
import { msInWords } from '@/words/counts';

const offText = (ms: number | undefined) => (ms === undefined ? ' ' : `${msInWords(ms)} ms off the grid`);

/**
 * "28 → 12" ms where a step brings the notes nearer to the grid, or farther from it; else what it is about. Nothing
 * where nothing changed.
 */
function changeText({ offMs, changes }: PartView, index: number): string {
  const [before, after] = [offMs[index - 1], offMs[index]];
  if (before === undefined || after === undefined) return '';
  const [from, to] = [msInWords(before), msInWords(after)];
  if (from !== to) return `${from} → ${to}`;
  const reading = changes[index];
  return reading ? changeInShort(reading) : '';
}

/** The mark of the two ends of the line. */
export const EndMark = () => <span className="block h-2.5 w-2.5 border-[5px] border-current" />;

interface StopProps {
  id: string;
  isCurrent: boolean;
  name: string;
  words: string;
  partId: string;
  /** How many steps have been applied there, for its reading. */
  index: number;
  onStand(id: string): void;
}

/** A stop of the line: its name, its settings in a few words, and how far the notes are from the grid there. */
export function StopButton({
  id,
  isCurrent,
  end,
  name,
  words,
  partId,
  index,
  mark,
  faint = false,
  onStand,
}: StopProps & { end: 'first' | 'last' | 'none'; mark: ReactNode; faint?: boolean }) {
  const reading = usePartViewValue(partId, ({ offMs }) => offText(offMs[index])) ?? ' ';
  // What changed on the way here; nothing where nothing did.
  const change = usePartViewValue(partId, (view) => (end === 'none' ? changeText(view, index) : '')) ?? '';
  const line = end === 'first' ? 'left-1/2 right-0' : end === 'last' ? 'left-0 right-1/2' : 'left-0 right-0';
  return (
    <button
      type="button"
      data-stop={id}
      tabIndex={isCurrent ? 0 : -1}
      aria-pressed={isCurrent}
      aria-label={`${name}, ${words}, ${reading.trim()}`}
      title={`${name}: ${words}`}
      onClick={() => onStand(id)}
      className={`relative flex min-w-33 flex-[0_1_11rem] flex-col items-center px-2 pt-1 max-sm:min-w-20 max-sm:px-1 hover:bg-well/60 ${isCurrent ? 'text-accent' : faint ? 'text-ink-3' : 'text-ink'}`}
    >
      <span className={`h-5 truncate ${isCurrent ? 'font-semibold text-ink' : faint ? '' : 'font-semibold'}`}>
        {name}
      </span>
      <span className={`absolute top-[2.1rem] border-t border-ink ${line}`} aria-hidden="true" />
      {change !== '' && (
        <span className="absolute top-6.5 left-0 max-w-[calc(50%-0.6rem)] truncate bg-sheet pr-1 text-quiet text-ink-2">
          {change}
        </span>
      )}
      <span className="relative flex h-5 items-center">{mark}</span>
      <span className="max-w-full truncate text-quiet text-ink-2 short:hidden">{words}</span>
      {isCurrent && (
        <span aria-hidden="true" className="absolute inset-x-3 bottom-0 border-t-3 border-accent" />
      )}
    </button>
  );
}
