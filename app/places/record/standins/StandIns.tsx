import type { Part, Session } from '@ordle/core';
import { useState } from 'react';
import { usePhase } from '@/recording/recorder';
import { useRecordSettings } from '@/recording/settings';
import { Button, Check } from '@/ui';
import { Controls } from './Controls';
import { Devices } from './Devices';
import { OnScreenKeys } from './OnScreenKeys';
import { Pads } from './Pads';
import { PracticePanel } from './PracticePanel';

const KINDS = [
  { id: 'keys', label: 'Keys' },
  { id: 'pads', label: 'Drum pads' },
  { id: 'controls', label: 'Controls' },
  { id: 'practice', label: 'Practice player' },
  { id: 'devices', label: 'Instruments' },
] as const;

interface StandInsProps {
  session: Session;
  part: Part;
  computerKeys: boolean;
  onComputerKeys(on: boolean): void;
  onLatency(): void;
  onMap(): void;
}

/** What can be played here, with or without an instrument. */
export function StandIns(props: StandInsProps) {
  const { session, part, computerKeys, onComputerKeys, onLatency, onMap } = props;
  const isOn = usePhase() !== 'ready';
  const [kind, setKind] = useState<(typeof KINDS)[number]['id']>(part.sound.drums ? 'pads' : 'keys');
  const { octave, velocity } = useRecordSettings();
  return (
    <section
      aria-label="What is played on"
      className="flex h-48 shrink-0 flex-col border-t border-rule-strong narrow:h-auto narrow:max-h-[40vh]"
    >
      <div className="flex min-h-9 shrink-0 flex-wrap items-center gap-2 px-3">
        <div
          role="tablist"
          aria-label="What is played on"
          className="flex h-9 max-w-full flex-wrap narrow:h-auto"
        >
          {KINDS.map(({ id, label }) => (
            <button
              key={id}
              type="button"
              role="tab"
              id={`stand-in-${id}`}
              aria-selected={kind === id}
              aria-controls="stand-in"
              onClick={() => setKind(id)}
              className="h-full border-b-2 border-transparent px-2.5 text-ink-2 hover:text-ink aria-selected:border-ink aria-selected:font-semibold aria-selected:text-ink"
            >
              {label}
            </button>
          ))}
        </div>
        <span className="grow" />
        <span title="F2; Z to / play, S to ; are the black keys, 1 to 3 are pedals, Q and W bend, arrows change octave and velocity">
          <Check checked={computerKeys} onChange={onComputerKeys}>
            Play with the computer’s keys
          </Check>
        </span>
        {computerKeys && (
          <span className="mr-2 text-quiet text-ink-2">
            Z is C{octave}, velocity {velocity}; arrows change both
          </span>
        )}
        <Button onClick={onMap} title={`What becomes of what is played into ${part.name}`}>
          Input ...
        </Button>
        <Button onClick={onLatency} disabled={isOn} title="How late what you play arrives">
          Latency ...
        </Button>
      </div>
      <div
        role="tabpanel"
        id="stand-in"
        aria-labelledby={`stand-in-${kind}`}
        className="flex min-h-0 grow overflow-auto p-2 pt-1"
      >
        {kind === 'keys' && <OnScreenKeys />}
        {kind === 'pads' && <Pads />}
        {kind === 'controls' && <Controls />}
        {kind === 'practice' && <PracticePanel session={session} />}
        {kind === 'devices' && <Devices />}
      </div>
    </section>
  );
}
