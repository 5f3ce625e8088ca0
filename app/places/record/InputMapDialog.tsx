import { PLAIN_INPUT_MAP, controllerName, laneName, pitchName, type InputMap, type Part } from '@ordle/core';
import { useState } from 'react';
import { useInputs } from '@/recording/inputs';
import { useMonitor } from '@/recording/monitor';
import { VelocityCurve } from './VelocityCurve';
import { Button, Dialog, LabelledRow, NumberField, Select } from '@/ui';

interface InputMapDialogProps {
  part: Part;
  mayWrite: boolean;
  onChange(map: InputMap, label: string): void;
  onClose(): void;
}

const OUT_LANES = ['bend', 'pressure', 'cc1', 'cc2', 'cc7', 'cc11', 'cc64'];

/** What becomes of what arrives at a part: which input, which keys, how loud, and which controllers. */
export function InputMapDialog({ part, mayWrite, onChange, onClose }: InputMapDialogProps) {
  const map = part.input ?? PLAIN_INPUT_MAP;
  const sources = useInputs();
  const { controller } = useMonitor();
  const [learning, setLearning] = useState<number | null>(null);
  const set = (change: Partial<InputMap>, words: string) =>
    mayWrite && onChange({ ...map, ...change }, `${words} of the input of ${part.name}`);
  const learned = learning !== null && controller !== null && controller !== learning ? controller : null;
  const isThere = map.source === null || sources.some(({ id }) => id === map.source);
  return (
    <Dialog
      open
      title={`Input of ${part.name}`}
      description="What is kept in the memory is what was played: change this and keep it again, and it is as if it had been so."
      onClose={onClose}
    >
      <div className="flex gap-6 overflow-y-auto">
        <div className="flex grow flex-col gap-2">
          <LabelledRow label="Input">
            <Select
              label="Input"
              value={map.source ?? ''}
              onChange={(id) => set({ source: id === '' ? null : id }, 'Source')}
            >
              <option value="">any input</option>
              {sources.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
              {!isThere && <option value={map.source ?? ''}>one that is not plugged in</option>}
            </Select>
          </LabelledRow>
          <LabelledRow label="Channel">
            <Select
              label="Channel of the input"
              value={String(map.channel ?? '')}
              onChange={(value) => set({ channel: value === '' ? null : Number(value) }, 'Channel')}
            >
              <option value="">any channel</option>
              {Array.from({ length: 16 }, (_, at) => (
                <option key={at} value={at + 1}>
                  {at + 1}
                </option>
              ))}
            </Select>
          </LabelledRow>
          <LabelledRow label="Transpose">
            <NumberField
              label="Transpose"
              value={map.transpose}
              min={-60}
              max={60}
              unit="semitones"
              onCommit={(transpose) => set({ transpose }, 'Transpose')}
            />
          </LabelledRow>
          <LabelledRow label="Keys">
            <span className="flex items-baseline gap-1.5 text-ink-2">
              <NumberField
                label="Lowest key"
                value={map.lowest}
                min={0}
                max={map.highest}
                unit={pitchName(map.lowest)}
                onCommit={(lowest) => set({ lowest }, 'Keys')}
              />
              to
              <NumberField
                label="Highest key"
                value={map.highest}
                min={map.lowest}
                max={127}
                unit={pitchName(map.highest)}
                onCommit={(highest) => set({ highest }, 'Keys')}
              />
            </span>
          </LabelledRow>
          <h3 className="pt-1 font-serif font-semibold">Controllers</h3>
          {map.controllers.map(({ from, to }, at) => (
            <span key={at} className="flex items-baseline gap-2">
              {controllerName(from) ?? `controller ${from}`} becomes
              <NumberField
                label={`What controller ${from} becomes`}
                value={to}
                min={0}
                max={119}
                unit={controllerName(to) ?? ''}
                onCommit={(next) =>
                  set({ controllers: map.controllers.with(at, { from, to: next }) }, 'Controllers')
                }
              />
              <Button
                look="quiet"
                onClick={() => set({ controllers: map.controllers.toSpliced(at, 1) }, 'Controllers')}
              >
                Take out
              </Button>
            </span>
          ))}
          {learning === null ? (
            <span>
              <Button disabled={!mayWrite} onClick={() => setLearning(controller ?? -1)}>
                Learn a controller ...
              </Button>
            </span>
          ) : (
            <span className="flex items-center gap-2">
              {learned === null ? (
                'Move the controller that is meant.'
              ) : (
                <Button
                  onClick={() => {
                    const others = map.controllers.filter(({ from }) => from !== learned);
                    set({ controllers: [...others, { from: learned, to: 11 }] }, 'Controllers');
                    setLearning(null);
                  }}
                >
                  {controllerName(learned) ?? `controller ${learned}`} becomes another
                </Button>
              )}
              <Button look="quiet" onClick={() => setLearning(null)}>
                Not now
              </Button>
            </span>
          )}
          <LabelledRow label="Left out">
            <Select
              label="Leave a controller out"
              value=""
              onChange={(lane) =>
                set(
                  {
                    leaveOut: map.leaveOut.includes(lane)
                      ? map.leaveOut.filter((each) => each !== lane)
                      : [...map.leaveOut, lane],
                  },
                  'What is left out',
                )
              }
            >
              <option value="">
                {map.leaveOut.length === 0 ? 'nothing' : map.leaveOut.map(laneName).join(', ')}
              </option>
              {OUT_LANES.map((lane) => (
                <option key={lane} value={lane}>
                  {map.leaveOut.includes(lane) ? `take ${laneName(lane)} in again` : laneName(lane)}
                </option>
              ))}
            </Select>
          </LabelledRow>
        </div>
        <VelocityCurve map={map} onChange={(velocity) => set({ velocity }, 'Velocity curve')} />
      </div>
      <div className="flex justify-between">
        <Button
          look="quiet"
          disabled={!mayWrite || !part.input}
          onClick={() => onChange(PLAIN_INPUT_MAP, `Plain input of ${part.name}`)}
        >
          All as it arrives
        </Button>
        <Button onClick={onClose}>Close</Button>
      </div>
    </Dialog>
  );
}
