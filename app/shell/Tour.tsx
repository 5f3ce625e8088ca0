import { Button } from '@/ui';
import { leaveTour, tourTo, useTour } from '@/ui/tourStore';

/** The one idea, a sentence at a time. */
const SENTENCES = [
  'What was played is never changed. Whatever you do here can be heard, changed or taken back months later.',
  'A part is a line of steps, from as played to cleaned. Each step does one thing; press + on the line to add one.',
  'Press Space to hear it, and hold B while it plays to hear it as it was played.',
  'Suggested clean-up says what would be done to every part and why; one button does all of it.',
  'Export writes the cleaned parts as a MIDI file. Ctrl+K finds everything by everyday words.',
];

/** Five sentences over a place of a session; left by one press, and then gone for good. */
export function Tour() {
  const at = useTour();
  if (at === null) return null;
  const isLast = at === SENTENCES.length - 1;
  return (
    <section
      aria-label="The idea in five sentences"
      className="flex shrink-0 flex-wrap items-center gap-3 border-b border-rule-strong bg-sheet px-4 py-1.5"
    >
      <span className="text-ink-2">
        {at + 1} of {SENTENCES.length}
      </span>
      <p role="status" className="min-w-40 flex-1 font-serif text-[1rem]">
        {SENTENCES[at]}
      </p>
      {at > 0 && <Button onClick={() => tourTo(at - 1)}>Back</Button>}
      <Button look={isLast ? 'plain' : 'main'} onClick={() => (isLast ? leaveTour() : tourTo(at + 1))}>
        {isLast ? 'Done' : 'Next'}
      </Button>
      {!isLast && <Button onClick={leaveTour}>Leave the tour</Button>}
    </section>
  );
}
