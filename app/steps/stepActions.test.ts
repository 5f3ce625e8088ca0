import { createStep, portableSteps, type Step } from '@ordle/core';
import { store } from '@/state/store';
import { undoLast } from '@/state/sessionSlice';
import { changeStep, changeSteps } from './changeSteps';
import { copySteps, mixedSettings, stepsTogether } from './partsTogether';
import { applyRecipe, moveBars, moveStep, removeStep, stretchNotes, switchStep } from './stepActions';
import { stopAt } from '@/music/stops';
import { TIMELINE, openSession, partOfSteps } from '@/testing/bench';
import { changeWhere, spansOfPart, splitWhere } from './whereActions';

const { dispatch } = store;
const quantize = createStep('quantize', { strength: 80 });
const loose = createStep('quantize', { strength: 35, grid: '1/8' });
const octave = createStep('transpose', { semitones: 12 });
const edits = createStep('edits', { delete: [3] });

describe('steps of one part', () => {
  it('are moved, switched and removed, each as one action in words', () => {
    const bench = openSession([partOfSteps('a', [quantize, octave, edits])]);
    moveStep(dispatch, bench.part('a'), 'a-2', 0);
    expect(bench.kinds('a')).toEqual(['edits', 'quantize', 'transpose']);
    switchStep(dispatch, stepsTogether(bench.part('a'), 'a-1', []));
    expect(bench.steps('a')[2].on).toBe(false);
    removeStep(dispatch, bench.part('a'), stepsTogether(bench.part('a'), 'a-0', []));
    expect(bench.kinds('a')).toEqual(['edits', 'transpose']);
    expect(bench.currentStopSet('a')).toBe('a-2');
    expect(bench.labels()).toEqual([
      'Move hand edits earlier',
      'Switch transpose off',
      'Remove quantize from Part a',
    ]);
    for (let count = 0; count < 3; count++) dispatch(undoLast());
    expect(bench.steps('a')).toEqual([quantize, octave, edits]);
  });

  it('a setting given as undefined is left out, and moves of one gesture are one action', () => {
    const bench = openSession([partOfSteps('a', [createStep('velocity', { add: 3, set: 9 })])]);
    changeStep(dispatch, 'a', 'a-0', 'Leave set', { set: undefined });
    expect(bench.steps('a')[0]).not.toHaveProperty('set');
    for (const add of [4, 5, 6]) changeStep(dispatch, 'a', 'a-0', `Add ${add}`, { add }, 'drag');
    expect(bench.labels()).toEqual(['Leave set', 'Add 6']);
    dispatch(undoLast());
    expect(bench.steps('a')[0]).toMatchObject({ add: 3 });
  });

  it('bars of a transposition take one amount each', () => {
    const bench = openSession([partOfSteps('a', [octave, quantize])]);
    moveBars(dispatch, bench.part('a'), 'a-0', [2, 4], 5, 'drag');
    moveBars(dispatch, bench.part('a'), 'a-0', [3, 4], 0, 'drag');
    moveBars(dispatch, bench.part('a'), 'a-1', [1, 2], 3, 'other');
    expect(bench.steps('a')[0]).toMatchObject({ sections: [{ bars: [2, 3], semitones: 5 }] });
    expect(bench.labels()).toEqual(['Move bar 3 by unison']);
  });
});

describe('stretching by hand and by key', () => {
  it('a current stretch for the same notes takes it up; half after double is as before', () => {
    const bench = openSession([partOfSteps('a', [quantize])]);
    const at = () => stopAt(bench.part('a'), bench.currentStopSet('a'));
    stretchNotes(dispatch, bench.part('a'), at(), 2, [5, 6]);
    stretchNotes(dispatch, bench.part('a'), at(), 2, [6, 5]);
    expect(bench.steps('a')).toEqual([
      quantize,
      createStep('stretch', { factor: 4, where: { notes: [5, 6] } }),
    ]);
    stretchNotes(dispatch, bench.part('a'), at(), 0.5, [5, 6]);
    stretchNotes(dispatch, bench.part('a'), at(), 0.5, [5, 6]);
    expect(bench.steps('a')[1]).toMatchObject({ factor: 1 });
    // Other notes, or the whole part, get a step of their own.
    stretchNotes(dispatch, bench.part('a'), at(), 3, [5]);
    stretchNotes(dispatch, bench.part('a'), at(), 3, []);
    stretchNotes(dispatch, bench.part('a'), at(), 2, []);
    expect(bench.steps('a').map((step: Step) => ('factor' in step ? step.factor : null))).toEqual([
      null,
      1,
      3,
      6,
    ]);
    expect(bench.labels().slice(0, 2)).toEqual(['Double the length', 'Double the length']);
  });
});

describe('several parts together', () => {
  const parts = () => [
    partOfSteps('a', [quantize, octave, loose]),
    partOfSteps('b', [loose, quantize]),
    partOfSteps('c', [octave]),
  ];

  it('steps go together by kind and number; hand edits never', () => {
    const [a, b, c] = parts();
    expect(stepsTogether(a, 'a-2', [b, c]).map(({ stepId }) => stepId)).toEqual(['a-2', 'b-1']);
    expect(stepsTogether(a, 'a-1', [b, c]).map(({ stepId }) => stepId)).toEqual(['a-1', 'c-0']);
    expect(stepsTogether(a, 'gone', [b])).toEqual([]);
    const edited = [partOfSteps('d', [edits]), partOfSteps('e', [edits])];
    expect(stepsTogether(edited[0], 'd-0', [edited[1]])).toHaveLength(1);
  });

  it('what differs is mixed, and one change writes all as one action', () => {
    const bench = openSession(parts());
    const targets = () => stepsTogether(bench.part('a'), 'a-0', [bench.part('b'), bench.part('c')]);
    expect([...mixedSettings(targets())].sort()).toEqual(['grid', 'strength']);
    changeSteps(dispatch, targets(), 'Strength 50 %', { strength: 50 });
    expect([...mixedSettings(targets())]).toEqual(['grid']);
    expect(bench.labels()).toEqual(['Strength 50 %, 2 parts']);
    removeStep(dispatch, bench.part('a'), targets());
    expect([bench.kinds('a'), bench.kinds('b'), bench.kinds('c')]).toEqual([
      ['transpose', 'quantize'],
      ['quantize'],
      ['transpose'],
    ]);
    dispatch(undoLast());
    dispatch(undoLast());
    expect(bench.steps('b')).toEqual([loose, quantize]);
  });

  it('copies are steps of their own, after those that are there or in their place', () => {
    const bench = openSession(parts());
    copySteps(dispatch, [octave], [bench.part('b'), bench.part('c')], 'add');
    copySteps(dispatch, [quantize, loose], [bench.part('c')], 'replace');
    expect([bench.kinds('b'), bench.kinds('c')]).toEqual([
      ['quantize', 'quantize', 'transpose'],
      ['quantize', 'quantize'],
    ]);
    expect(bench.labels()).toEqual(['Copy transpose to 2 parts', 'Copy 2 steps to Part c']);
    const ids = bench.part('c').steps.order;
    expect(new Set(ids).size).toBe(2);
    changeStep(dispatch, 'c', ids[0], 'x', { strength: 1 });
    expect(quantize.strength).toBe(80);
    const forSelection = createStep('nudge', { ms: 2, where: { notes: [1] } });
    expect(portableSteps([quantize, edits, forSelection])).toEqual([quantize]);
  });

  it('a recipe goes to the end of every part named', () => {
    const bench = openSession(parts());
    applyRecipe(dispatch, 'quay', [quantize], ['a', 'c']);
    expect(bench.kinds('c')).toEqual(['transpose', 'quantize']);
    expect(bench.kinds('b')).toHaveLength(2);
    expect(bench.labels()).toEqual(['Apply quay to 2 parts']);
  });
});

describe('where a step touches', () => {
  it('has a span for every step, the whole part without end; one that is off keeps its place', () => {
    const part = partOfSteps('a', [
      quantize,
      { ...octave, where: { bars: [2, 4] } },
      { ...loose, on: false },
      edits,
    ]);
    expect(spansOfPart(part, { id: 'a-1', index: 2 }, TIMELINE)).toEqual([
      { stepId: 'a-0', name: 'Quantize', from: 0, to: Infinity, isCurrent: false, isOff: false },
      { stepId: 'a-1', name: 'Transpose', from: 1920, to: 5760, isCurrent: true, isOff: false },
      { stepId: 'a-2', name: 'Quantize', from: 0, to: Infinity, isCurrent: false, isOff: true },
    ]);
  });

  it('changes in part, keeping what is not named', () => {
    const bench = openSession([partOfSteps('a', [{ ...quantize, where: { pitch: [40, 50] } }])]);
    changeWhere(dispatch, bench.part('a'), 'a-0', { bars: [2, 3] }, 'drag');
    expect(bench.steps('a')[0].where).toEqual({ pitch: [40, 50], bars: [2, 3] });
    expect(bench.labels()).toEqual(['Where: bar 2, pitches 40 to 50']);
  });

  it('splits at the nearest bar line into two steps that meet, and stands at the second', () => {
    const bench = openSession([partOfSteps('a', [quantize, octave])]);
    splitWhere(dispatch, bench.part('a'), 'a-0', 3 * 1920 - 10, 8 * 1920, TIMELINE);
    expect(bench.steps('a').map(({ where }) => where.bars)).toEqual([[1, 4], [4, 9], undefined]);
    expect(bench.currentStopSet('a')).toBe(bench.part('a').steps.order[1]);
    expect(bench.labels()).toEqual(['Split quantize at bar 4']);
    splitWhere(dispatch, bench.part('a'), 'a-0', 1920, 8 * 1920, TIMELINE);
    expect(bench.steps('a').map(({ where }) => where.bars)).toEqual([[1, 2], [2, 4], [4, 9], undefined]);
    // At the ends there is nothing to split off.
    for (const tick of [0, 50, 8 * 1920])
      expect(() => splitWhere(dispatch, bench.part('a'), 'a-0', tick, 8 * 1920, TIMELINE)).toThrow(
        /bar line inside bars 1 to 1/,
      );
  });
});
