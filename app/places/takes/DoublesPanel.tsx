import { listOf, type Doubles, type Part, type Seams } from '@ordle/core';
import { ContestedLanes, contestedName, withLane } from '@/panels/layers/ContestedLanes';
import { useAppDispatch } from '@/state/store';
import { LabelledRow, NumberField, Segmented } from '@/ui';
import { counted } from '@/words/counts';
import { changeAssembly } from '@/edits/assemblyActions';
import type { TakesState } from './useTakes';

interface DoublesPanelProps {
  part: Part;
  state: TakesState;
  layers: number;
  mayWrite: boolean;
}

const KEEP: { value: Doubles['keep']; label: string }[] = [
  { value: 'both', label: 'both' },
  { value: 'louder', label: 'louder' },
  { value: 'longer', label: 'longer' },
  { value: 'first', label: 'first' },
];

/** What becomes of two notes of one pitch in different layers, and of notes held over seams. */
export function DoublesPanel({ part, state, layers, mayWrite }: DoublesPanelProps) {
  const dispatch = useAppDispatch();
  const { doubles, seams } = part;
  const contested = state.assembled?.contested ?? [];
  const dropped = state.assembled?.dropped.start.length ?? 0;
  const change = (label: string, next: { doubles?: Partial<Doubles>; seams?: Partial<Seams> }) =>
    changeAssembly(dispatch, label, part.id, (now) => ({
      ...now,
      doubles: { ...now.doubles, ...next.doubles },
      seams: { ...now.seams, ...next.seams },
    }));
  return (
    <>
      {layers > 1 && (
        <section aria-label="Doubles" className="flex flex-col gap-2 border-b border-rule p-4">
          <h2 className="font-serif text-[1.05rem] font-semibold">Doubles</h2>
          <Segmented
            label="Of two that are doubled keep"
            value={doubles.keep}
            options={KEEP}
            disabled={!mayWrite}
            onChange={(keep) => change(`Of doubles keep ${keep}`, { doubles: { keep } })}
          />
          <LabelledRow label="within">
            <NumberField
              label="Doubles start within"
              value={doubles.withinMs}
              min={0}
              max={1000}
              unit="ms"
              disabled={!mayWrite}
              onCommit={(withinMs) => change(`Doubles within ${withinMs} ms`, { doubles: { withinMs } })}
            />
          </LabelledRow>
          <p className="text-quiet text-ink-2">
            {doubles.keep === 'both'
              ? 'Notes of one pitch that two layers play together are both kept.'
              : `${counted(dropped, 'double')} left out, shown as dashed boxes.`}
          </p>
        </section>
      )}
      {contested.length > 0 && (
        <section aria-label="Lanes of the layers" className="flex flex-col gap-2 border-b border-rule p-4">
          <h2 className="font-serif text-[1.05rem] font-semibold">Which part’s settings are used</h2>
          <ContestedLanes
            contested={contested}
            layers={listOf(part.layers)}
            disabled={!mayWrite}
            onChoose={(lane, layer) =>
              changeAssembly(dispatch, `Which ${contestedName(lane)} is used`, part.id, (now) => ({
                ...now,
                lanes: withLane(now.lanes, lane, layer),
              }))
            }
          />
        </section>
      )}
      <section aria-label="Seams" className="flex flex-col gap-2 border-b border-rule p-4">
        <h2 className="font-serif text-[1.05rem] font-semibold">At all seams</h2>
        <LabelledRow label="Seams">
          <Segmented
            label="Notes over all seams"
            value={seams.held}
            options={[
              { value: 'ring', label: 'ring on', title: 'A note held over a seam sounds to its end' },
              { value: 'cut', label: 'cut', title: 'A note held over a seam ends at the seam' },
            ]}
            disabled={!mayWrite}
            onChange={(held) => change(`Held notes ${held} at seams`, { seams: { held } })}
          />
        </LabelledRow>
      </section>
    </>
  );
}
