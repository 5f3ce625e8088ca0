/** @jest-environment jsdom */
import { fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import {
  Check,
  MixedSettings,
  NumberField,
  Segmented,
  Select,
  SettingTips,
  SliderField,
  type SettingTip,
} from '.';
import { typeInto as type } from './testing/controls';

const nothing = () => undefined;
const EDGES = [
  { value: 'start', label: 'starts' },
  { value: 'end', label: 'ends' },
];

describe('a typed value', () => {
  it('is taken over at Enter, held to its ends, and put back by Escape or nonsense', () => {
    const written: number[] = [];
    render(
      <NumberField label="Reach" value={20} min={0} max={100} onCommit={(value) => written.push(value)} />,
    );
    for (const text of ['40', '999', '-3', '2,6', '−7', 'dove', '']) type('Reach', text);
    type('Reach', '55', 'Escape');
    expect(screen.getByLabelText('Reach')).toHaveProperty('value', '20');
    expect(written).toEqual([40, 100, 0, 3, 0]);
    fireEvent.keyDown(screen.getByLabelText('Reach'), { key: 'ArrowUp' });
    fireEvent.keyDown(screen.getByLabelText('Reach'), { key: 'ArrowDown' });
    expect(written.slice(5)).toEqual([21, 19]);
  });

  it('lets the keys go once it is taken over or given up, and is taken over once', () => {
    const written: number[] = [];
    render(
      <NumberField label="Reach" value={20} min={0} max={100} onCommit={(value) => written.push(value)} />,
    );
    const field = screen.getByLabelText('Reach');
    const typed = (value: string, key: string) => {
      field.focus();
      fireEvent.change(field, { target: { value } });
      fireEvent.keyDown(field, { key });
      expect(document.activeElement).toBe(document.body);
    };
    typed('30', 'Enter');
    typed('50', 'Escape');
    expect(written).toEqual([30]);
  });
});

describe('a slider', () => {
  function Held({ log, abandoned }: { log: [number, string][]; abandoned?: string[] }) {
    const [value, setValue] = useState(50);
    return (
      <SliderField
        label="Strength"
        value={value}
        min={0}
        max={100}
        typedMax={200}
        unit="%"
        onAbandon={(gesture) => abandoned?.push(gesture)}
        onChange={(next, gesture) => {
          log.push([next, gesture]);
          setValue(next);
        }}
      />
    );
  }

  it('joins keys pressed close together into one gesture, and takes typed values beyond its track', () => {
    const log: [number, string][] = [];
    render(<Held log={log} />);
    const thumb = screen.getByRole('slider', { name: 'Strength' });
    for (let count = 0; count < 3; count++) fireEvent.keyDown(thumb, { key: 'ArrowRight' });
    expect(log.map(([value]) => value)).toEqual([51, 52, 53]);
    expect(new Set(log.map(([, gesture]) => gesture)).size).toBe(1);
    type('Strength, typed', '150');
    expect(log.at(-1)?.[0]).toBe(150);
    expect(log.at(-1)?.[1]).not.toBe(log[0][1]);
    expect(thumb.getAttribute('aria-valuenow')).toBe('100');
  });
});

describe('controls of mixed settings', () => {
  const Mixed = ({ onChange }: { onChange(name: string, value: unknown): void }) => (
    <MixedSettings value={new Set(['strength', 'edge', 'keepLength', 'grid'])}>
      <SliderField
        label="Strength"
        setting="strength"
        value={80}
        min={0}
        max={100}
        unit="%"
        onAbandon={nothing}
        onChange={(value) => onChange('strength', value)}
      />
      <SliderField
        label="Swing"
        setting="swing"
        value={50}
        min={50}
        max={75}
        unit="%"
        onAbandon={nothing}
        onChange={(value) => onChange('swing', value)}
      />
      <Segmented
        label="Move"
        setting="edge"
        value="start"
        options={EDGES}
        onChange={(value) => onChange('edge', value)}
      />
      <Check setting="keepLength" checked onChange={(value) => onChange('keepLength', value)}>
        keep
      </Check>
      <Select label="Grid" setting="grid" value="1/8" onChange={(value) => onChange('grid', value)}>
        <option>1/8</option>
        <option>1/16</option>
      </Select>
    </MixedSettings>
  );

  it('say so instead of one of the values', () => {
    render(<Mixed onChange={nothing} />);
    expect(screen.getByLabelText('Strength, typed')).toMatchObject({ value: '', placeholder: 'mixed' });
    expect(screen.getByRole('slider', { name: 'Strength' }).getAttribute('aria-valuetext')).toBe('mixed');
    expect(screen.getByLabelText('Swing, typed')).toHaveProperty('value', '50');
    expect(
      screen.getByRole('radiogroup', { name: 'Move, mixed' }).querySelector('[data-state=on]'),
    ).toBeNull();
    expect(screen.getByRole('checkbox').getAttribute('aria-checked')).toBe('mixed');
    expect(screen.getByLabelText('Grid')).toHaveProperty('value', '');
  });

  it('write the value that was shown for one of them, too', () => {
    const written: [string, unknown][] = [];
    render(<Mixed onChange={(name, value) => written.push([name, value])} />);
    type('Strength, typed', '80');
    fireEvent.click(screen.getByRole('radio', { name: 'starts' }));
    fireEvent.click(screen.getByRole('checkbox'));
    fireEvent.change(screen.getByLabelText('Grid'), { target: { value: '1/8' } });
    expect(written).toEqual([
      ['strength', 80],
      ['edge', 'start'],
      ['keepLength', true],
      ['grid', '1/8'],
    ]);
  });
});

describe('pointed at', () => {
  it('a control says what its setting does, and its default in its own words', () => {
    const tips = (setting: string): SettingTip | null =>
      setting === 'edge' ? { says: 'What moves.', initial: 'end' } : { says: 'Kept.', initial: true };
    render(
      <SettingTips value={tips}>
        <Segmented label="Move" setting="edge" value="start" options={EDGES} onChange={() => undefined} />
        <Check setting="keep" checked={false} onChange={() => undefined}>
          keep
        </Check>
      </SettingTips>,
    );
    expect(screen.getByTitle('What moves. Default: ends.')).toBeTruthy();
    expect(screen.getByTitle('Kept. Default: on.')).toBeTruthy();
  });
});
