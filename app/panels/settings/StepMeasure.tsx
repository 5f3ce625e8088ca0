import { kindOf, type PartView, type Step, type StepMeasure as StepMeasureName } from '@ordle/core';
import { usePartView } from '@/music/partViewStore';
import { figures, msInWords } from '@/words/counts';
import { BigFigure } from './BigFigure';
import { OffTheGrid } from './OffTheGrid';

/** The large figure of a step: what it is meant to change, never a figure it does not touch. */
export function StepMeasure({ partId, step }: { partId: string; step: Step }) {
  const { view } = usePartView();
  if (view?.partId !== partId) return null;
  const what = measureOf(step);
  if (what === 'grid') return <OffTheGrid partId={partId} />;
  const measure = step.on ? MEASURES[what](view) : null;
  return measure && <BigFigure {...measure} />;
}

export const measureOf = (step: Step): StepMeasureName => kindOf(step.kind).measure?.(step) ?? 'grid';

type Measure = Parameters<typeof BigFigure>[0];

const MEASURES: Record<Exclude<StepMeasureName, 'grid'>, (view: PartView) => Measure | null> = {
  lateness: ({ reading }) => reading && lateness(reading.meanBeforeMs, reading.meanAfterMs),
  evenness: ({ values }) => values && evenness(values),
  length: ({ values }) =>
    values && {
      name: 'Typical length',
      figure: values.medianAfter.toFixed(0),
      says: 'ms typical length',
      was: `was ${values.medianBefore.toFixed(0)}`,
    },
  points: ({ curve }) =>
    curve && {
      name: 'Points',
      figure: figures(curve.after),
      says: curve.after === 1 ? 'point' : 'points',
      was: `was ${figures(curve.before)}${curve.largestError > 0 ? `; error at most ${curve.largestError.toFixed(1)} ${curve.unit}` : ''}`,
    },
  presses: (view) => {
    const presses = view.changes[view.stop]?.presses;
    return presses
      ? {
          name: 'Pedal presses',
          figure: figures(presses[1]),
          says: presses[1] === 1 ? 'pedal press' : 'pedal presses',
          was: `was ${figures(presses[0])}`,
        }
      : null;
  },
  pitches: (view) => counted(view, 'repitched', 'transposed'),
  removed: (view) => counted(view, 'removed', 'removed'),
  notes: (view) => counted(view, 'notes', 'changed'),
};

const lateness = (before: number, after: number): Measure => ({
  name: 'Lateness',
  figure: msInWords(Math.abs(after)),
  says: `ms ${after < 0 ? 'early' : 'late'} on average`,
  was: `was ${msInWords(Math.abs(before))} ms ${before < 0 ? 'early' : 'late'}`,
});

const evenness = ({ deviationBefore, deviationAfter }: NonNullable<PartView['values']>): Measure => ({
  name: 'Unevenness of velocity',
  figure: `±${deviationAfter.toFixed(0)}`,
  says: 'velocity: how uneven',
  was: `was ±${deviationBefore.toFixed(0)}`,
});

function counted(view: PartView, what: 'repitched' | 'removed' | 'notes', done: string): Measure | null {
  const changes = view.changes[view.stop];
  if (!changes) return null;
  const all = Math.max(view.notes.length + changes.removed - changes.added, changes[what]);
  return {
    name: `Notes ${done}`,
    figure: figures(changes[what]),
    says: `${changes[what] === 1 ? 'note' : 'notes'} ${done}`,
    was: `of ${figures(all)}`,
  };
}
