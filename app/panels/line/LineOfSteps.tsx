import { takesIn, listOf, type Part } from '@ordle/core';
import { Button, Menu } from '@/ui';
import { NARROW, useMedia } from '@/ui/useMedia';
import { useCallback, useEffect, useRef, type KeyboardEvent } from 'react';
import { run } from '@/commands';
import { useAppDispatch } from '@/state/store';
import { currentStopSet } from '@/state/viewSlice';
import { moveStep, removeStep, switchStep } from '@/steps/stepActions';
import { EndMark, StopButton } from './StopButton';
import { StepStops } from './StepStops';
import { AddStepMenu } from './AddStepMenu';
import { stepsTogether } from '@/steps/partsTogether';
import { stopsOf, type Stop } from '@/music/stops';
import { useOpenBench } from '@/music/useBench';

interface LineProps {
  part: Part;
  stop: Stop;
}

/** The part's line of steps, from as played to cleaned. */
export function LineOfSteps({ part, stop }: LineProps) {
  const bench = useOpenBench();
  const { together, mayWrite } = bench;
  const targets = stepsTogether(part, stop.id, together);
  const dispatch = useAppDispatch();
  const isNarrow = useMedia(NARROW);
  const scroller = useRef<HTMLDivElement>(null);
  const place = stop.id === 'cleaned' ? part.steps.order.length : stop.index;
  const stand = useCallback(
    (id: string) => dispatch(currentStopSet({ partId: part.id, stop: id })),
    [dispatch, part.id],
  );

  useEffect(() => {
    scroller.current
      ?.querySelector(`[data-stop="${escapeId(stop.id)}"]`)
      ?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [stop.id]);

  function onKeyDown(event: KeyboardEvent) {
    // With these keys a press is a command, not a walk along the line.
    if (event.shiftKey || event.ctrlKey || event.metaKey) return;
    const stops = stopsOf(part);
    const at = stops.findIndex(({ id }) => id === stop.id);
    const isStep = stop.id !== 'played' && stop.id !== 'cleaned';
    const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (by !== 0 && event.altKey && isStep && mayWrite)
      moveStep(dispatch, part, stop.id, stop.index - 1 + by);
    else if (by !== 0) {
      const next = stops[Math.min(stops.length - 1, Math.max(0, at + by))];
      stand(next.id);
      scroller.current?.querySelector<HTMLElement>(`[data-stop="${escapeId(next.id)}"]`)?.focus();
    } else if ((event.key === 'Delete' || event.key === 'Backspace') && isStep && mayWrite)
      removeStep(dispatch, part, targets);
    else if (event.key.toLowerCase() === 'o' && isStep && mayWrite) switchStep(dispatch, targets);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  return (
    <section
      aria-label="Line of steps"
      className="flex h-16 shrink-0 items-stretch border-b border-rule bg-sheet short:h-11"
    >
      <div
        ref={scroller}
        role="toolbar"
        aria-label="Steps: arrow keys walk, Alt and arrow moves one, O switches it off, Delete removes it"
        onKeyDown={onKeyDown}
        className="flex min-w-0 grow px-2 narrow:px-0"
      >
        <StopButton
          id="played"
          isCurrent={stop.id === 'played'}
          end="first"
          name="As played"
          words={takesInWords(part)}
          partId={part.id}
          index={0}
          onStand={stand}
          mark={<EndMark />}
        />
        <div
          className="flex min-w-0 shrink overflow-x-auto overflow-y-hidden [scrollbar-width:thin]"
          onWheel={(event) => {
            // A wheel that turns downward goes along the line.
            if (event.deltaX === 0 && !event.ctrlKey) event.currentTarget.scrollLeft += event.deltaY;
          }}
        >
          <StepStops
            partId={part.id}
            order={part.steps.order}
            currentId={stop.id}
            mayWrite={mayWrite}
            onStand={stand}
          />
        </div>
        {mayWrite && <AddStepMenu part={part} after={place} />}
        <StopButton
          id="cleaned"
          isCurrent={stop.id === 'cleaned'}
          end="last"
          name="Cleaned"
          words={
            part.steps.order.length === 0
              ? part.folded.length > 0
                ? 'steps made permanent'
                : 'no steps yet'
              : `${listOf(part.steps).filter(({ step }) => step.on).length} of ${part.steps.order.length} steps on`
          }
          partId={part.id}
          index={part.steps.order.length}
          onStand={stand}
          mark={<EndMark />}
        />
        {isNarrow ? (
          <Menu
            trigger={
              <Button className="ml-1.5 shrink-0 self-center" aria-label="Suggested clean-up and recipes">
                ▾
              </Button>
            }
            items={[
              { label: 'Suggested clean-up', onSelect: () => void run('go-clean-up') },
              { label: 'Recipes', onSelect: () => setTimeout(() => run('recipes'), 60) },
            ]}
          />
        ) : (
          <>
            <Button
              className="ml-3 shrink-0 self-center"
              onClick={() => run('go-clean-up')}
              title="What would clean up all parts, and why; one button does it (Ctrl+Alt+0)"
            >
              Suggested clean-up
            </Button>
            <Button
              className="ml-1.5 shrink-0 self-center"
              onClick={() => run('recipes')}
              title="Save this list of steps, or apply a saved one (R)"
            >
              Recipes ▾
            </Button>
          </>
        )}
      </div>
    </section>
  );
}

/** Ids are UUIDs or our own words; escaped all the same where they meet a selector. */
const escapeId = (id: string) => globalThis.CSS?.escape(id) ?? id;

function takesInWords(part: Part): string {
  const takes = takesIn(part).length;
  if (part.layers.order.length > 1) return `${part.layers.order.length} layers`;
  return takes === 1 ? '1 take' : `${takes} takes, bars combined`;
}
