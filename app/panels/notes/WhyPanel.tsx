import { X } from 'lucide-react';
import { useSelection } from '@/state/selection';
import { useOpenBench } from '@/music/useBench';
import { NoteStory } from './NoteStory';
import { tellWhy, useWhyTold } from './whyStore';

/**
 * Why a note is where it is: beside the music, so that the note itself stays in sight; it goes with the selection
 * until it is closed.
 */
export function WhyPanel() {
  const isTold = useWhyTold();
  const { part } = useOpenBench();
  const selection = useSelection();
  if (!isTold) return null;
  const id = selection.partId === part?.id ? (selection.focus ?? [...selection.ids][0] ?? null) : null;
  return (
    <section
      aria-label="Why is this note here?"
      className="shrink-0 border-b border-rule-strong bg-sheet px-3.5 pt-2 pb-2.5"
    >
      <header className="flex items-center justify-between">
        <h2 className="font-semibold">Why is this note here?</h2>
        <button
          type="button"
          aria-label="Close"
          title="Close (W)"
          onClick={() => tellWhy(false)}
          className="flex h-6 w-6 items-center justify-center text-ink-2 hover:text-ink"
        >
          <X size={14} aria-hidden="true" />
        </button>
      </header>
      {id === null ? <p className="text-ink-2">Select a note.</p> : <NoteStory id={id} />}
    </section>
  );
}
