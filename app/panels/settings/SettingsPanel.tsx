import { hasWhere, splitBar } from '@/steps/whereActions';
import { usePlaceOfPlayLine } from '@/playback/usePlayTick';
import { listOf, barAt, describeWhere, kindOf, type Step } from '@ordle/core';
import { useCallback, useState } from 'react';
import { run } from '@/commands';
import { abandonGesture } from '@/state/sessionSlice';
import { useSelection } from '@/state/selection';
import { useAppDispatch } from '@/state/store';
import { Button, Check, MixedSettings, MoreMenu } from '@/ui';
import { FoldingPanel } from '@/panels/FoldingPanel';
import { changeSteps } from '@/steps/changeSteps';
import { CopyStepsDialog } from '@/panels/line/CopyStepsDialog';
import { makePermanent } from '@/steps/foldActions';
import { Effect } from './Effect';
import { StepForm } from './forms/StepForm';
import { WhereField } from './forms/WhereField';
import { mixedSettings, stepsTogether } from '@/steps/partsTogether';
import { pitchesIn, usePartViewValue } from '@/music/partViewStore';
import { WhyPanel } from '@/panels/notes/WhyPanel';
import { removeStep, switchStep } from '@/steps/stepActions';
import { StopSummary } from './StopSummary';
import { useOpenBench, type BenchState } from '@/music/useBench';
import { useFacts } from '@/music/useFacts';
import { useSections } from '@/music/useMarkers';

/** The settings of the current stop, and what it does. */
export function SettingsPanel() {
  const bench = useOpenBench();
  const { part, stop } = bench;
  if (!part || !stop) return null;
  const placed = listOf(part.steps)[stop.index - 1];
  const isStep = stop.id !== 'played' && stop.id !== 'cleaned' && placed;
  return (
    <FoldingPanel panel="settings" label="Settings" title="Settings">
      <WhyPanel />
      {isStep ? (
        <StepSettings stepId={placed.id} />
      ) : (
        <div className="flex flex-col gap-2.5 px-3.5 py-3">
          <StopSummary />
        </div>
      )}
    </FoldingPanel>
  );
}

/** Kinds of steps that go by the bars. */
const BY_THE_GRID = new Set<Step['kind']>(['quantize', 'groove']);

function StepSettings({ stepId }: { stepId: string }) {
  const bench = useOpenBench();
  const dispatch = useAppDispatch();
  const selection = useSelection();
  const facts = useFacts(bench, stepId);
  const [copying, setCopying] = useState(false);
  const { session, part, together, timeline, mayWrite } = bench;
  const endTick = usePartViewValue(part?.id, (view) => view.endTick) ?? 0;
  const sections = useSections(endTick);
  // A text, so that a view with the same pieces renders nothing anew.
  const pieces = usePartViewValue(part?.id, pitchesIn)?.split(' ').filter(Boolean).map(Number) ?? [];
  const abandon = useCallback((gesture: string) => void dispatch(abandonGesture(gesture)), [dispatch]);
  const targets = part ? stepsTogether(part, stepId, together) : [];
  const step = targets[0]?.step;
  const playTick = usePlaceOfPlayLine(timeline);
  const maySplit = step !== undefined && splitBar(step, playTick, endTick, timeline) !== null;
  if (!part || !step) return null;
  const change = (label: string, settings: object, gesture?: string) =>
    changeSteps(dispatch, targets, label, settings, gesture ?? null);
  const title = kindOf(step.kind).title;
  const mixed = mixedSettings(targets);
  return (
    <>
      <header className="border-b border-rule px-3.5 pt-3 pb-1.5">
        <div className="flex items-baseline justify-between">
          <h2 className="font-serif text-[1.15rem] font-semibold">{title}</h2>
          <span className="flex items-center gap-2">
            <MixedSettings value={mixed}>
              <Check
                setting="on"
                checked={step.on}
                disabled={!mayWrite}
                onChange={() => switchStep(dispatch, targets)}
              >
                on
              </Check>
            </MixedSettings>
            <MoreMenu
              name={title.toLowerCase()}
              items={[
                {
                  label: 'Copy to other parts',
                  hint: 'This step, to parts you choose',
                  onSelect: () => setCopying(true),
                },
                {
                  label: 'Turn the steps so far into a take',
                  hint: 'The steps so far become a take; they can be brought back',
                  onSelect: () => {
                    const count = listOf(part.steps).findIndex(({ id }) => id === stepId) + 1;
                    void makePermanent(dispatch, session, part, count);
                  },
                },
              ].filter(
                ({ label }) =>
                  mayWrite && (label !== 'Copy to other parts' || session.parts.order.length > 1),
              )}
            />
          </span>
        </div>
        <div className="flex items-center justify-between gap-2">
          <p className="line-clamp-2 min-w-0 text-quiet text-ink-2">
            {targets.length > 1 ? partsInWords(targets.length, together.length + 1) : part.name},{' '}
            {mixed.has('where') ? 'mixed bars' : describeWhere(step.where)}
            {!step.on && '; switched off'}
          </p>
          <Button
            className="h-6! shrink-0 px-1.5!"
            disabled={!mayWrite}
            onClick={() => removeStep(dispatch, part, targets)}
          >
            Delete step
          </Button>
        </div>
      </header>
      <div className="flex min-h-0 grow flex-col gap-2.5 overflow-y-auto px-3.5 py-2.5">
        <Effect
          partId={part.id}
          ink={part.ink}
          step={step}
          isFree={facts !== null && !facts.followsBars && BY_THE_GRID.has(step.kind)}
        />
        <MixedSettings value={mixed}>
          {!kindOf(step.kind).partWide && (
            <WhereField
              where={step.where}
              lastBar={barAt(timeline.meter, Math.max(0, endTick - 1)).number}
              sections={sections}
              suggested={suggestedBars(bench, endTick)}
              facts={facts}
              pieces={part.sound.drums ? pieces : []}
              selected={selection.partId === part.id ? [...selection.ids] : []}
              disabled={!mayWrite}
              onSplit={hasWhere(step) ? () => run('split-where') : undefined}
              maySplit={maySplit}
              onChange={(where) => change(`Where: ${describeWhere(where)}`, { where })}
            />
          )}
          <StepForm
            step={step}
            part={part}
            session={session}
            timeline={timeline}
            facts={facts}
            sections={sections}
            disabled={!mayWrite}
            onChange={change}
            onAbandon={abandon}
          />
        </MixedSettings>
      </div>
      {copying && <CopyStepsDialog steps={[step]} onClose={() => setCopying(false)} />}
    </>
  );
}

const partsInWords = (those: number, all: number): string =>
  those === all ? `${all} parts together` : `${those} of ${all} parts together`;

/** The bars a loop suggests for a where, else the whole part; up to, not including, the second. */
function suggestedBars({ view, timeline }: BenchState, endTick: number): [number, number] {
  const { loop } = view;
  const looped = loop.to > loop.from;
  const from = barAt(timeline.meter, looped ? loop.from : 0).number;
  const last = barAt(timeline.meter, Math.max(0, (looped ? loop.to : endTick) - 1)).number;
  return [from, Math.max(from + 1, last + 1)];
}
