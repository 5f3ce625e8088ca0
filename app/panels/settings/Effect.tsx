import { kindOf, type Step } from '@ordle/core';
import { run } from '@/commands';
import { usePartView } from '@/music/partViewStore';
import { changesInWords } from '@/words/changes';
import { CurveReading } from './CurveReading';
import { Reading } from './Reading';
import { measureOf, StepMeasure } from './StepMeasure';
import { ValueReadingSection } from './ValueReading';

/**
 * What a step does, apart from its settings: it changes whenever the engine has worked out another view. The room for
 * it is there before the figures are, so that no control under it moves once it can be pressed.
 */
export function Effect(props: { partId: string; ink: number; step: Step; isFree: boolean }) {
  const { partId, ink, step, isFree } = props;
  return (
    <div className="flex shrink-0 flex-col gap-1.5 border-b border-rule pb-2.5">
      <div className="min-h-13">
        <StepMeasure partId={partId} step={step} />
      </div>
      <div className={`flex flex-col gap-1 ${roomOf(step)}`}>
        <Pictures partId={partId} ink={ink} step={step} isFree={isFree} />
      </div>
    </div>
  );
}

/** Whether it is told by how far notes are from the lines. */
const isAboutLines = (step: Step) => ['grid', 'lateness'].includes(measureOf(step));

/** The height that the pictures of a kind of step take, so many lines of text with them. */
function roomOf(step: Step): string {
  if (kindOf(step.kind).values?.(step) || isAboutLines(step)) return 'min-h-36';
  return measureOf(step) === 'points' ? 'min-h-17' : 'min-h-5';
}

function Pictures({ partId, ink, step, isFree }: Parameters<typeof Effect>[0]) {
  const { view } = usePartView();
  if (view?.partId !== partId) return null;
  const changed = view.changes[view.stop];
  // What a picture of its own tells is not told again.
  const changes = changed && !view.values && !view.curve ? changesInWords(changed) : [];
  return (
    <>
      {!view.values && (
        <Reading
          reading={isAboutLines(step) ? view.reading : null}
          squeezed={view.squeezed}
          ink={ink}
          instead={isFree && <NoBars />}
        />
      )}
      <ValueReadingSection reading={view.values} ink={ink} />
      <CurveReading reading={view.curve} />
      {changes.length > 0 && (
        <p className="text-ink-2" data-testid="changes">
          {changes.join(', ')}.
        </p>
      )}
    </>
  );
}

/** In place of a picture about lines that nobody meant: where to go first. */
function NoBars() {
  return (
    <p className="border-l-2 border-ink pl-2">
      This part follows no bars of the session: a grid takes its notes to lines nobody meant.{' '}
      <button type="button" className="underline hover:text-ink" onClick={() => run('go-tempo')}>
        Find its beats on Tempo
      </button>
    </p>
  );
}
