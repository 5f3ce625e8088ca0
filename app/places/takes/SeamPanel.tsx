import { withHeld, type Part } from '@ordle/core';
import { useAppDispatch } from '@/state/store';
import { Button, LabelledRow, Segmented } from '@/ui';
import { counted } from '@/words/counts';
import { jumpInWords } from './takeWords';
import { changeAssembly } from '@/edits/assemblyActions';
import type { TakesState } from './useTakes';

interface SeamPanelProps {
  part: Part;
  state: TakesState;
  seam: number;
  mayWrite: boolean;
  onSeam(index: number): void;
  onPlay(tick: number): void;
}

/** The seam that is looked at: what happens there, how held notes go on, and the way to hear it. */
export function SeamPanel({ part, state, seam, mayWrite, onSeam, onPlay }: SeamPanelProps) {
  const dispatch = useAppDispatch();
  const { assembled, lines, rows, chosen } = state;
  const seams = assembled?.seams ?? [];
  const looked = seams[seam];
  const jumping = [...seams.keys()].filter((index) => seams[index].facts.jump !== null);
  if (seams.length === 0) return null;
  if (!looked)
    return (
      <section aria-label="Seam" className="flex flex-col gap-2 border-b border-rule p-4">
        <h2 className="font-serif text-[1.05rem] font-semibold">Seams</h2>
        <p className="text-quiet text-ink-2">
          {counted(seams.length, 'seam')}. Click a ring on the line, or go from one to the next.
        </p>
        {jumping.length > 0 && (
          <p>
            At {counted(jumping.length, 'seam')} notes that ring over jump:{' '}
            <button type="button" className="underline" onClick={() => onSeam(jumping[0])}>
              see the first
            </button>
            .
          </p>
        )}
        <span>
          <Button onClick={() => onSeam(0)}>First seam</Button>
        </span>
      </section>
    );
  const { facts, layerId, piece } = looked;
  const bar = Math.max(0, lines.findIndex((line) => line > facts.at + 0.5) - 1);
  const layer = Math.max(0, part.layers.order.indexOf(layerId));
  const name = (at: number) => rows?.[chosen[layer]?.[at] ?? -1]?.take.name ?? 'nothing';
  const sentences = [
    facts.ringing > 0
      ? `${counted(facts.ringing, 'note')} of ${name(bar - 1)} ${facts.ringing === 1 ? 'sounds' : 'sound'} over it.`
      : '',
    facts.cut > 0
      ? `${counted(facts.cut, 'note')} of ${name(bar - 1)} ${facts.cut === 1 ? 'ends' : 'end'} early here.`
      : '',
    facts.early > 0
      ? `${counted(facts.early, 'note')} ahead of bar ${bar + 1} ${facts.early === 1 ? 'belongs' : 'belong'} to ${name(bar)}.`
      : '',
    ...jumpInWords(facts),
  ].filter(Boolean);
  return (
    <section aria-label="Seam" className="flex flex-col gap-2 border-b border-rule p-4">
      <h2 className="font-serif text-[1.05rem] font-semibold">Seam before bar {bar + 1}</h2>
      <p className="text-ink-2">
        {name(bar - 1)} to {name(bar)}
      </p>
      <LabelledRow label="Over the seam">
        <Segmented
          label="Notes over the seam"
          value={piece.held ?? 'part'}
          options={[
            { value: 'part', label: `as all` },
            { value: 'ring', label: 'ring on' },
            { value: 'cut', label: 'cut' },
          ]}
          disabled={!mayWrite}
          onChange={(held) =>
            changeAssembly(
              dispatch,
              `Held notes at bar ${bar + 1}: ${held === 'part' ? 'as all' : held}`,
              part.id,
              (now) => withHeld(now, looked, held === 'part' ? null : held),
            )
          }
        />
      </LabelledRow>
      {sentences.map((sentence) => (
        <p key={sentence}>{sentence}</p>
      ))}
      {sentences.length === 0 && <p>No note reaches over it.</p>}
      <p className="text-quiet text-ink-2">Pedal and controllers follow {name(bar)} from here.</p>
      <div className="flex gap-2">
        <Button onClick={() => onPlay(facts.at)}>Play around it</Button>
        <Button onClick={() => onSeam((seam + 1) % seams.length)}>Next seam</Button>
      </div>
    </section>
  );
}
