/** @jest-environment jsdom */
import { createStep, drumName, type Step } from '@ordle/core';
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { typeInto as type } from '@/ui/testing/controls';
import { FACTS, show as showForm } from './testing/show';
import { AlignForm } from './AlignForm';
import { HumanizeForm } from './HumanizeForm';
import { LengthForm } from './LengthForm';
import { NudgeForm } from './NudgeForm';
import { QuantizeForm } from './QuantizeForm';
import { RemoveForm } from './RemoveForm';
import { StretchForm } from './StretchForm';
import { TransposeForm } from './TransposeForm';
import { VelocityForm } from './VelocityForm';
import { WhereField } from './WhereField';
import type { StepFormProps } from './formProps';

const show = <S extends Step>(Form: (props: StepFormProps<S>) => React.ReactNode, step: S) =>
  showForm(Form, step, (read, made) => expect(read).toEqual(made));

const tick = (name: string | RegExp) => fireEvent.click(screen.getByRole('checkbox', { name }));
const press = (name: string) => fireEvent.click(screen.getByRole('button', { name }));
const select = (name: string) => fireEvent.click(screen.getByRole('radio', { name }));
const pick = (label: string, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });

describe('settings forms write what they say', () => {
  it('quantize', () => {
    const written = show(QuantizeForm, createStep('quantize', { chords: 'spread' }));
    select('1/8T');
    pick('Grid, all values', 'tuplet');
    press('add a second grid');
    type('Strength, typed', '35');
    type('Swing, typed', '66.7');
    select('both');
    select('same instant');
    type('Milliseconds notes within this count as one chord', '45');
    tick('keep grace notes');
    type('Shift, typed', '-12');
    type('Leave notes nearer than, typed', '8');
    expect(written.map(([, settings]) => settings)).toEqual([
      { grid: '1/8T' },
      { grid: { count: 5, in: '1/4' } },
      { grid: ['1/16', '1/8T'] },
      { strength: 35 },
      { swing: 66.7 },
      { edge: 'both' },
      { chords: 'together' },
      { chordMs: 45 },
      { keepFlams: false },
      { shiftMs: -12 },
      { leaveWithinMs: 8 },
    ]);
    expect(written[9][0]).toBe('Shift −12 ms');
  });

  it('nudge, humanize and align', () => {
    const nudge = show(NudgeForm, createStep('nudge'));
    type('Milliseconds, typed', '-20');
    type('Ticks', '7');
    type('Grid units', '-2');
    pick('Grid of the steps', '1/8');
    expect(nudge.map(([label]) => label)).toEqual([
      'Nudge −20 ms',
      'Nudge +7 ticks',
      'Nudge −2 grid units',
      'Grid of the nudge 1/8',
    ]);
    cleanup();
    const humanize = show(HumanizeForm, createStep('humanize', { timingMs: 6 }));
    type('Timing, typed', '8.5');
    type('Timing drift, typed', '70');
    type('Variation number', '12');
    press('Try another');
    expect(humanize.slice(0, 3).map(([, settings]) => settings)).toEqual([
      { timingMs: 8.5 },
      { drift: 70 },
      { seed: 12 },
    ]);
    expect(humanize[3][1]).toEqual({ seed: expect.any(Number) });
    cleanup();
    const align = show(AlignForm, createStep('align', { to: 'gone' }));
    expect(screen.getByLabelText('Part to align to').textContent).toContain('gone (not in this session)');
    pick('Part to align to', 'b');
    type('Reach, typed', '120');
    expect(align).toEqual([
      ['Align to Kit', { to: 'b' }],
      ['Reach 120 ms', { reachMs: 120 }],
    ]);
  });

  it('stretch, by a factor or to a length in bars', () => {
    const byFactor = show(StretchForm, createStep('stretch', { factor: 1.5 }));
    press('Double');
    press('Halve');
    type('Factor', '0.75');
    tick('to a length');
    select('its bar line');
    tick('Moving notes also moves controllers');
    expect(byFactor.map(([, settings]) => settings)).toEqual([
      { factor: 3, toTicks: undefined },
      { factor: 0.75, toTicks: undefined },
      { factor: 0.75, toTicks: undefined },
      { toTicks: 1920 },
      { anchor: 'bar' },
      { controllers: false },
    ]);
    cleanup();
    const toLength = show(StretchForm, createStep('stretch', { toTicks: 3840 }));
    expect(screen.getByLabelText('Length in bars')).toHaveProperty('value', '2');
    type('Length in bars', '3.5');
    type('Length in ticks', '1000');
    expect(toLength.map(([, settings]) => settings)).toEqual([{ toTicks: 6720 }, { toTicks: 1000 }]);
  });

  it('transpose offers the key the notes suggest, and an octave around them to fold into', () => {
    const plain = show(TransposeForm, createStep('transpose', { semitones: 3 }));
    press('Octave down');
    tick('degrees of a key');
    tick('into a range');
    press('add bars');
    expect(plain).toEqual([
      ['sixth down', { semitones: -9 }],
      ['Degrees', { degrees: 2, key: 'D minor' }],
      ['Range 57 to 69', { into: [57, 69] }],
      ['Add bars', { sections: [{ bars: [1, 2], semitones: 0 }] }],
    ]);
    cleanup();
    const inKey = show(
      TransposeForm,
      createStep('transpose', { degrees: 2, key: 'Gb major', sections: [{ bars: [2, 4], semitones: 5 }] }),
    );
    expect(screen.getByText(/The notes suggest D minor/)).toBeTruthy();
    press('take it');
    type('Last bar of the section', '5');
    type('Semitones of the section', '-2');
    press('Remove the section');
    expect(inKey.map(([, settings]) => settings)).toEqual([
      { key: 'D minor' },
      { sections: [{ bars: [2, 6], semitones: 5 }] },
      { sections: [{ bars: [2, 4], semitones: -2 }] },
      { sections: [] },
    ]);
    expect(screen.getByLabelText('Key')).toHaveProperty('value', 'Gb major');
  });

  it('velocity and length', () => {
    const velocity = show(VelocityForm, createStep('velocity', { add: 4, ramp: { from: 10, to: 90 } }));
    type('add, typed', '-9');
    tick('set to');
    tick('even out, by ratio');
    tick('limit');
    type('Ramp, to', '100');
    tick('add');
    expect(velocity.map(([, settings]) => settings)).toEqual([
      { add: -9 },
      { set: 80 },
      { compress: { ratio: 2, around: 71 } },
      { limit: [30, 110] },
      { ramp: { from: 10, to: 100 } },
      { add: undefined },
    ]);
    cleanup();
    const length = show(LengthForm, createStep('length', { legato: { gapTicks: 10 } }));
    type('legato, gap, typed', '20');
    tick('set to');
    tick('limit, ticks');
    tick('lengthen notes to the end of the pedal');
    tick('no overlaps of one pitch');
    expect(length.map(([, settings]) => settings)).toEqual([
      { legato: { gapTicks: 20 } },
      { set: '1/8' },
      { limit: [60, 1920] },
      { hold: 'fromPedal' },
      { noOverlap: false },
    ]);
  });

  it('remove', () => {
    const remove = show(RemoveForm, createStep('remove', { softerThan: 15 }));
    type('softer than, typed', '20');
    tick('shorter than');
    tick('outside pitches');
    tick('softer than');
    expect(remove.map(([, settings]) => settings)).toEqual([
      { softerThan: 20 },
      { shorterThanMs: 30 },
      { outside: [57, 69] },
      { softerThan: undefined },
    ]);
  });
});

describe('the where of a step', () => {
  function showWhere(where: Step['where'], selected: number[] = [], pieces: number[] = []) {
    const written: Step['where'][] = [];
    render(
      <WhereField
        where={where}
        lastBar={12}
        sections={[]}
        suggested={[3, 5]}
        facts={FACTS}
        pieces={pieces}
        selected={selected}
        disabled={false}
        onChange={(next) => written.push(next)}
      />,
    );
    return written;
  }

  it('goes from the whole part to the bars suggested and back, and never turns round', () => {
    expect(showWhere({ pitch: [1, 2] })).toEqual([]);
    cleanup();
    const written = showWhere({ bars: [4, 7], voice: 'lowest' });
    type('First bar', '9');
    type('Last bar', '2');
    select('whole part');
    select('any voice');
    expect(written).toEqual([
      { bars: [9, 10], voice: 'lowest' },
      { bars: [2, 3], voice: 'lowest' },
      { voice: 'lowest' },
      { bars: [4, 7] },
    ]);
    cleanup();
    const whole = showWhere({});
    select('bars');
    expect(whole).toEqual([{ bars: [3, 5] }]);
  });

  it('narrows to a hand, and in a drum part to its pieces, of which one stays', () => {
    const hands = showWhere({});
    fireEvent.click(screen.getByText('Only some notes'));
    select('left');
    expect(hands).toEqual([{ hand: 'left' }]);
    cleanup();
    const drums = showWhere({ drums: [36] }, [], [36, 42]);
    expect(screen.queryByRole('radio', { name: 'left' })).toBeNull();
    const piece = (number: number) => drumName(number) ?? '';
    tick(piece(42));
    tick(piece(36));
    expect(drums).toEqual([{}, { drums: [36] }]);
    cleanup();
    const all = showWhere({}, [], [36, 42]);
    fireEvent.click(screen.getByText('Only some notes'));
    tick(piece(42));
    press(`Only ${piece(42)}`);
    expect(all).toEqual([{ drums: [36] }, { drums: [42] }]);
  });

  it('narrows to the pitches there are, and to the notes selected now', () => {
    const written = showWhere({}, [4, 9]);
    fireEvent.click(screen.getByText('Only some notes'));
    tick('pitches');
    press('only the 2 notes selected now');
    expect(written).toEqual([{ pitch: [57, 69] }, { notes: [4, 9] }]);
    cleanup();
    const selected = showWhere({ notes: [4, 9] }, [4, 9]);
    tick('the 2 notes selected');
    expect(selected).toEqual([{}]);
  });
});
