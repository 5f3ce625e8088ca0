/** @jest-environment jsdom */
import { createStep, type Step } from '@ordle/core';
import { cleanup } from '@testing-library/react';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { sentenceOn } from '@/words/settingTips';
import { AlignForm } from './AlignForm';
import { HumanizeForm } from './HumanizeForm';
import { NudgeForm } from './NudgeForm';
import { QuantizeForm } from './QuantizeForm';
import { RemoveForm } from './RemoveForm';
import { StretchForm } from './StretchForm';
import { VelocityForm } from './VelocityForm';
import type { StepFormProps } from './formProps';
import { settingOf } from './settingOf';
import { show } from './testing/show';

describe('pointed at', () => {
  const tipsOf = <S extends Step>(Form: (props: StepFormProps<S>) => React.ReactNode, step: S) => {
    show(Form, step);
    const tips = [...document.querySelectorAll('[role=slider]')].map((slider) => [
      slider.getAttribute('aria-label'),
      slider.closest('[title]')?.getAttribute('title') ?? '',
    ]);
    cleanup();
    return tips;
  };

  it('every slider says what it does, its range with the unit, and its default', () => {
    const tips = [
      ...tipsOf(QuantizeForm, createStep('quantize')),
      ...tipsOf(AlignForm, createStep('align')),
      ...tipsOf(HumanizeForm, createStep('humanize')),
      ...tipsOf(NudgeForm, createStep('nudge')),
      ...tipsOf(VelocityForm, createStep('velocity', { set: 80, scale: 90, add: 3 })),
      ...tipsOf(RemoveForm, createStep('remove', { shorterThanMs: 30, softerThan: 20, doublesWithinMs: 10 })),
    ];
    expect(tips.length).toBeGreaterThan(15);
    const form = /^[A-Z][^.]+\. −?[\d,.]+ to [\d,.]+( %| ms| ticks)?(, default −?[\d,.]+)?\.$/;
    for (const tip of tips) expect(tip).toEqual([expect.any(String), expect.stringMatching(form)]);
    expect(tips[0]).toEqual([
      'Strength',
      'How far each note goes towards its grid line: 100 puts it on the line, 0 leaves it where it is. 0 to 100 %, default 100.',
    ]);
  });

  it.each([
    'scale percent',
    'add amount',
    'smooth ms',
    'thin tolerance',
    'ramp from',
    'ramp to',
    'wave depth',
    'wave fadeMs',
  ])('a curve says what it does: %s', (named) => {
    const [op, setting] = named.split(' ');
    expect(settingOf({ kind: 'curve', op }, setting).max).toBeGreaterThan(0);
    expect(sentenceOn({ kind: 'curve', op }, setting)).toMatch(/^[A-Z].*\.$/);
  });

  it.each([
    'Align',
    'Groove',
    'Humanize',
    'Length',
    'Nudge',
    'Pulse',
    'Quantize',
    'Remove',
    'Stretch',
    'Transpose',
    'Velocity',
  ])('every control of %s has a sentence on its setting', (named) => {
    const source = readFileSync(path.join(__dirname, `${named}Form.tsx`), 'utf8');
    const names = [...source.matchAll(/setting="(\w+)"/g)].map(([, setting]) => setting);
    expect(names.length).toBeGreaterThan(0);
    const kind = named.toLowerCase() as Step['kind'];
    for (const name of names)
      expect([name, sentenceOn({ kind }, name)]).toEqual([name, expect.stringMatching(/\.$/)]);
  });

  it('a value that is shown otherwise than it is kept has the range it is shown in, and other controls their own words', () => {
    show(StretchForm, createStep('stretch'));
    const factor = document.querySelector('[aria-label=Factor]')?.closest('[title]')?.getAttribute('title');
    expect(factor).toMatch(/ 0\.01 to 100, default 1\.$/);
    cleanup();
    show(QuantizeForm, createStep('quantize'));
    const titles = [...document.querySelectorAll('[title]')].map((each) => each.getAttribute('title'));
    expect(titles).toContain('Whether starts, ends or both go to their lines. Default: starts.');
    expect(titles).toContain('A soft stroke just before a louder one keeps its distance to it. Default: on.');
    cleanup();
  });
});
