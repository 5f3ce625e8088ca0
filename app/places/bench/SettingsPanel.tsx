import { barAt, describeWhere, kindOf } from '@ordle/core';
import { useCallback } from 'react';
import { run } from '@/commands';
import { abandonGesture } from '@/state/sessionSlice';
import { useAppDispatch } from '@/state/store';
import { Button, Check } from '@/ui';
import { StepForm } from './forms/StepForm';
import { rulingGrid } from './gridInForce';
import { Reading } from './Reading';
import { addStep, changeStep, removeStep, switchStep } from './stepActions';
import type { BenchState } from './useBench';
import { usePartView } from './partViewStore';
import { WhereField } from './forms/WhereField';

/** The settings of the stop stood at, and what it does. */
export function SettingsPanel({ bench }: { bench: BenchState }) {
  const { part, stop } = bench;
  if (!part || !stop) return <aside className="w-68 shrink-0 border-l border-rule" />;
  const placed = part.steps[stop.index - 1];
  const isStep = stop.id !== 'played' && stop.id !== 'cleaned' && placed;
  return (
    <aside aria-label="Settings" className="flex w-68 shrink-0 flex-col border-l border-rule">
      {isStep ? (
        <StepSettings bench={bench} stepId={placed.id} />
      ) : (
        <div className="flex flex-col gap-2.5 px-3.5 py-3">
          <StopSummary bench={bench} />
        </div>
      )}
    </aside>
  );
}

function StepSettings({ bench, stepId }: { bench: BenchState; stepId: string }) {
  const dispatch = useAppDispatch();
  const { view } = usePartView();
  const { part, timeline, mayWrite } = bench;
  const step = part?.steps.find(({ id }) => id === stepId)?.step;
  const abandon = useCallback((gesture: string) => void dispatch(abandonGesture(gesture)), [dispatch]);
  if (!part || !step) return null;
  const change = (label: string, settings: object, gesture?: string) =>
    changeStep(dispatch, part.id, stepId, label, settings, gesture ?? null);
  const title = kindOf(step.kind).title;
  const endTick = view?.partId === part.id ? view.endTick : 0;
  const { loop } = bench.view;
  const from = loop.to > loop.from ? loop.from : 0;
  const suggested: [number, number] = [
    barAt(timeline.meter, from).number,
    Math.max(
      barAt(timeline.meter, from).number + 1,
      loop.to > loop.from
        ? barAt(timeline.meter, loop.to - 1).number + 1
        : barAt(timeline.meter, Math.max(0, endTick - 1)).number + 1,
    ),
  ];
  return (
    <>
      <header className="border-b border-rule px-3.5 pt-3 pb-1.5">
        <div className="flex items-baseline justify-between">
          <h2 className="font-serif text-[1.15rem] font-semibold">{title}</h2>
          <span className="flex items-center gap-2">
            <Check checked={step.on} disabled={!mayWrite} onChange={() => switchStep(dispatch, part, stepId)}>
              on
            </Check>
            <Button
              look="quiet"
              className="h-6 px-1.5"
              disabled={!mayWrite}
              onClick={() => removeStep(dispatch, part, stepId)}
            >
              Remove
            </Button>
          </span>
        </div>
        <p className="text-quiet text-ink-2">
          {part.name}, {describeWhere(step.where)}
          {!step.on && '; switched off'}
        </p>
      </header>
      <div className="flex min-h-0 grow flex-col gap-2.5 overflow-y-auto px-3.5 py-2.5">
        <WhereField
          where={step.where}
          bars={barAt(timeline.meter, Math.max(0, endTick - 1)).number}
          suggested={suggested}
          disabled={!mayWrite}
          onSplit={step.kind === 'edits' ? undefined : () => run('split-where')}
          onChange={(where) => change(`Where: ${describeWhere(where)}`, { where })}
        />
        <StepForm
          bench={bench}
          step={step}
          part={part}
          session={bench.session}
          disabled={!mayWrite}
          onChange={change}
          onAbandon={abandon}
        />
      </div>
      <Reading reading={view?.partId === part.id ? view.reading : null} ink={part.ink} />
    </>
  );
}

/** What to see and do at the ends of the line, which have no settings. */
function StopSummary({ bench }: { bench: BenchState }) {
  const dispatch = useAppDispatch();
  const { view } = usePartView();
  const { part, stop, mayWrite } = bench;
  if (!part || !stop) return null;
  const played = stop.id === 'played';
  const spread = view?.partId === part.id ? view.spreads.at(played ? 0 : -1) : undefined;
  return (
    <>
      <h2 className="font-serif text-[1.15rem] font-semibold">{played ? 'As played' : 'Cleaned'}</h2>
      <p className="text-ink-2">
        {played
          ? 'The performance itself. It is never changed: every step works on a copy of it.'
          : part.steps.length === 0
            ? 'No step yet, so this is the performance as it was played.'
            : 'What is heard and exported, after all steps that are on. The dashed outlines are the notes as played.'}
      </p>
      <dl>
        <div className="flex justify-between py-px">
          <dt className="text-ink-2">notes</dt>
          <dd>{view?.partId === part.id ? view.notes.length.toLocaleString('en') : ''}</dd>
        </div>
        <div className="flex justify-between py-px">
          <dt className="text-ink-2">spread against the grid</dt>
          <dd>{spread === undefined ? '' : `±${spread.toFixed(spread < 10 ? 1 : 0)} ms`}</dd>
        </div>
      </dl>
      {part.steps.length === 0 && mayWrite && (
        <Button
          look="main"
          className="justify-center"
          onClick={() => addStep(dispatch, part, 'quantize', rulingGrid(bench.view), 0)}
        >
          Add quantize
        </Button>
      )}
      {!played && part.steps.length > 0 && (
        <ol className="border-t border-rule pt-1.5">
          {part.steps.map(({ id, step }) => (
            <li key={id} className={`py-0.5 ${step.on ? '' : 'text-ink-3'}`}>
              {kindOf(step.kind).title}: {step.on ? kindOf(step.kind).describe(step) : 'off'},{' '}
              {describeWhere(step.where)}
            </li>
          ))}
        </ol>
      )}
    </>
  );
}
