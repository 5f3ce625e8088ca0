import { laneName, type ContestedLane, type Layer } from '@ordle/core';
import { LabelledRow, Select } from '@/ui';

interface ContestedLanesProps {
  contested: readonly ContestedLane[];
  layers: readonly Layer[];
  disabled: boolean;
  /** A layer is chosen for a lane; null for what goes without a choice. */
  onChoose(lane: string, layer: string | null): void;
}

const WORDS: Record<string, string> = {
  program: 'sound',
  parameters: 'bend range',
  keys: 'key pressure',
};

/** What a lane that layers contest is called. */
export const contestedName = (lane: string): string => WORDS[lane] ?? laneName(lane);

/** Lanes that layers do not agree about: whose counts, lane by lane. */
export function ContestedLanes({ contested, layers, disabled, onChoose }: ContestedLanesProps) {
  return (
    <>
      {contested.map(({ lane, layers: those, counts }) => (
        <LabelledRow key={lane} label={contestedName(lane)}>
          <Select
            label={`${contestedName(lane)} of`}
            value={counts === null ? '' : (layers[counts]?.id ?? '')}
            disabled={disabled}
            className="w-full"
            onChange={(id) => onChoose(lane, id === '' ? null : id)}
          >
            {lane === 'cc64' && <option value="">all of them</option>}
            {those.map((at) => {
              const layer = layers[at] as Layer | undefined;
              return (
                layer && (
                  <option key={layer.id} value={layer.id}>
                    {layer.name}
                  </option>
                )
              );
            })}
          </Select>
        </LabelledRow>
      ))}
    </>
  );
}

/** The choices of a part with another one made. */
export function withLane(
  lanes: Readonly<Record<string, string>> | undefined,
  lane: string,
  layer: string | null,
): Record<string, string> {
  const next = { ...lanes };
  if (layer === null) delete next[lane];
  else next[lane] = layer;
  return next;
}
