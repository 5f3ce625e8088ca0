import { listOf, STEP_KINDS, WORKS, type Part, type Step, type StepKind } from '@ordle/core';
import { Check as Tick, Plus } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { useSelection } from '@/state/selection';
import { useAppDispatch } from '@/state/store';
import { onlyInWords, selectedForSteps } from '@/steps/selectedNotes';
import { addStep } from '@/steps/stepActions';
import { useOpenBench } from '@/music/useBench';

const ITEM = 'flex cursor-pointer items-baseline gap-2 px-3 py-0.5 outline-none data-[highlighted]:bg-well';

/** The kinds of steps in the order of the work. With notes selected the step can be for just these. */
export function AddStepMenu({ part, after }: { part: Part; after: number }) {
  const bench = useOpenBench();
  const dispatch = useAppDispatch();
  const selection = useSelection();
  const [isWhole, setWhole] = useState(false);
  const { session, together } = bench;
  const selected = selectedForSteps(part, selection);
  const only = !isWhole && selected.size > 0;
  const there = new Set(listOf(part.steps).map(({ step }) => step.kind));
  const isOffered = ({ kind, partWide, byHand, oncePerPart }: StepKind<Step>) =>
    !(only && (partWide || byHand)) && !(oncePerPart && there.has(kind));
  return (
    // What is selected is meant, until something else is said; each time anew.
    <DropdownMenu.Root onOpenChange={(open) => open && setWhole(false)}>
      <DropdownMenu.Trigger asChild>
        <button
          type="button"
          aria-label="Add a step"
          className="relative flex w-16 shrink-0 flex-col items-center pt-6 text-ink-2 hover:text-ink"
        >
          <span className="absolute top-[2.1rem] right-0 left-0 border-t border-ink" aria-hidden="true" />
          <span className="relative flex h-5 w-5 items-center justify-center rounded-full border border-dashed border-ink-3 bg-sheet">
            <Plus size={12} aria-hidden="true" />
          </span>
          <span className="text-quiet">add</span>
        </button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={4}
          className="z-50 max-h-[var(--radix-dropdown-menu-content-available-height)] w-88 overflow-y-auto rounded-medium border border-edge bg-sheet py-1"
        >
          {selected.size > 0 && (
            <DropdownMenu.CheckboxItem
              checked={only}
              onCheckedChange={(checked) => setWhole(!checked)}
              onSelect={(event) => event.preventDefault()}
              className={`${ITEM} border-b border-rule pb-1`}
            >
              <span className="flex h-3.5 w-3.5 items-center justify-center self-center border border-ink">
                <DropdownMenu.ItemIndicator>
                  <Tick size={11} aria-hidden="true" />
                </DropdownMenu.ItemIndicator>
              </span>
              only for {onlyInWords(selected)}
            </DropdownMenu.CheckboxItem>
          )}
          {WORKS.map((work) => (
            <DropdownMenu.Group
              key={work}
              aria-label={work}
              className="border-b border-rule py-0.5 last:border-b-0"
            >
              {STEP_KINDS.filter((kind) => kind.work === work && isOffered(kind)).map((kind, index) => (
                <DropdownMenu.Item
                  key={kind.kind}
                  aria-label={kind.title}
                  onSelect={() =>
                    void addStep(
                      dispatch,
                      { session, part, together, after },
                      kind.kind,
                      only ? selected : undefined,
                    )
                  }
                  className={ITEM}
                >
                  <span aria-hidden="true" className="w-14 shrink-0 text-quiet text-ink-3">
                    {index === 0 ? work : ''}
                  </span>
                  <span className="w-20 shrink-0">{kind.title}</span>
                  <span className="text-quiet text-ink-2">{kind.hint}</span>
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Group>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
