import { listOf, timelineOf, type PracticeSettings, type Session } from '@ordle/core';
import { useMemo } from 'react';
import { playFreely, setPractice, useFreely, usePractice } from '@/recording/practice';
import { Button, Check, NumberField, Select } from '@/ui';

const DIALS: { key: keyof PracticeSettings; label: string; min: number; max: number; unit: string }[] = [
  { key: 'bias', label: 'Late on the whole', min: -200, max: 200, unit: 'ms' },
  { key: 'spread', label: 'Unevenness', min: 0, max: 100, unit: 'ms' },
  { key: 'drift', label: 'Falls behind', min: -500, max: 500, unit: 'ms a minute' },
  { key: 'unevenness', label: 'Unevenness of velocity', min: 0, max: 40, unit: '' },
  { key: 'wrong', label: 'Wrong notes', min: 0, max: 100, unit: 'in 100' },
  { key: 'missed', label: 'Missed notes', min: 0, max: 100, unit: 'in 100' },
  { key: 'doubled', label: 'Doubled notes', min: 0, max: 100, unit: 'in 100' },
  { key: 'latePedal', label: 'Pedal late', min: 0, max: 500, unit: 'ms' },
  { key: 'tempo', label: 'Tempo', min: 25, max: 200, unit: '%' },
  { key: 'seed', label: 'Chance', min: 0, max: 1_000_000, unit: '' },
];

/** A stand-in for somebody who plays: what it plays, and how well. */
export function PracticePanel({ session }: { session: Session }) {
  const timeline = useMemo(() => timelineOf(session), [session]);
  const freely = useFreely();
  const { on, partId, settings } = usePractice();
  return (
    <div className="flex min-h-0 grow flex-col gap-2 overflow-y-auto px-1">
      <div className="flex flex-wrap items-center gap-4">
        <Check checked={on} onChange={(next) => setPractice({ on: next })}>
          Plays along when the music runs
        </Check>
        <label className="flex items-center gap-2 text-ink-2">
          what is written in
          <Select
            label="What the practice player plays"
            value={partId ?? ''}
            onChange={(id) => setPractice({ partId: id === '' ? null : id })}
          >
            <option value="">a phrase of its own</option>
            {listOf(session.parts).map(({ id, name }) => (
              <option key={id} value={id}>
                {name}, as cleaned
              </option>
            ))}
          </Select>
        </label>
        <Button onClick={() => void playFreely(session, timeline)}>
          {freely ? 'Stop' : 'Play it freely'}
        </Button>
        <span className="text-quiet text-ink-2">
          No person plays: it makes the faults that are dialled in here.
        </span>
      </div>
      <div className="grid grid-cols-5 gap-x-6 gap-y-1.5 max-xl:grid-cols-4">
        {DIALS.map(({ key, label, min, max, unit }) => (
          <span key={key} className="flex items-baseline justify-between gap-2 text-ink-2">
            {label}
            <NumberField
              label={label}
              value={settings[key]}
              min={min}
              max={max}
              unit={unit}
              onCommit={(value) => setPractice({ settings: { ...settings, [key]: value } })}
            />
          </span>
        ))}
      </div>
    </div>
  );
}
