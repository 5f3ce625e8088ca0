import { costsByTightness, takesOfPart, withoutTake, type TakeRow } from '@ordle/core';
import { useState } from 'react';
import { useAppDispatch } from '@/state/store';
import { Button, Dialog, LabelledRow, Select } from '@/ui';
import { counted } from '@/words/counts';
import { changeAssembly } from '@/edits/assemblyActions';
import { spreadInWords } from './takeWords';
import { spreadOf } from './useProposal';

interface TakeOutDialogProps {
  partId: string;
  row: TakeRow;
  others: readonly TakeRow[];
  /** The bars, from 0, in which each layer lays it. */
  laid: readonly (readonly number[])[];
  onClose(): void;
}

/** What a missing note weighs beside a ms of spread. */
const MISSING_MS = 2;

/** Asks before a take goes that the part plays, and offers the others in its place, the best of them first. */
export function TakeOutDialog({ partId, row: { take }, others, laid, onClose }: TakeOutDialogProps) {
  const dispatch = useAppDispatch();
  const [own = [], ...added] = laid;
  const rest = others.filter((other) => other.take.id !== take.id && other.fault === null);
  const ranked = byCost(rest, own);
  const [instead, setInstead] = useState(ranked[0]?.take.id ?? '');
  const isLayered = added.some((bars) => bars.length > 0);
  const takeOut = () => {
    const next = own.length > 0 ? rest.find((other) => other.take.id === instead)?.take : undefined;
    changeAssembly(
      dispatch,
      next ? `Take ${take.name} out, ${next.name} instead` : `Take ${take.name} out`,
      partId,
      (now, session, numbers) => {
        const takes = takesOfPart(now, session);
        const current = takes.find(({ id }) => id === next?.id) ?? null;
        return withoutTake(now, take, takes, numbers, current);
      },
    );
    onClose();
  };
  return (
    <Dialog open title={`Take ${take.name} out of this part?`} onClose={onClose}>
      <p>
        {own.length === 0 && !isLayered
          ? 'The part plays it nowhere.'
          : own.length === 0
            ? 'It is layered over others, which stay.'
            : `The part plays it in ${counted(own.length, 'bar')}${isLayered ? ', and layers it over others' : ''}.`}
      </p>
      {own.length > 0 && (
        <LabelledRow label="Play there">
          <Select label="Play there instead" value={instead} onChange={setInstead}>
            {ranked.map((other) => (
              <option key={other.take.id} value={other.take.id}>
                {other.take.name}, {spreadInWords(spreadIn(other, own))}
              </option>
            ))}
            <option value="">nothing: the bars are silent</option>
          </Select>
        </LabelledRow>
      )}
      <span className="flex items-center justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button look="main" onClick={takeOut}>
          Take it out of the part
        </Button>
      </span>
    </Dialog>
  );
}

/** How even a take is in some bars. */
const spreadIn = (row: TakeRow, bars: readonly number[]): number => {
  const choice = new Int32Array(Math.max(0, ...bars) + 1).fill(-1);
  for (const bar of bars) choice[bar] = 0;
  return spreadOf([row], choice);
};

/** Takes with notes in some bars, the tightest and fullest first; those that have none in most of them come last. */
function byCost(rows: readonly TakeRow[], bars: readonly number[]): TakeRow[] {
  const costs = costsByTightness(
    rows.map(({ reading }) => reading),
    MISSING_MS,
  );
  const cost = (row: TakeRow) => {
    const at = rows.indexOf(row);
    const own = bars.map((bar) => costs[bar]?.[at] ?? NaN);
    const known = own.filter((value) => !Number.isNaN(value));
    // A bar it cannot supply weighs more than any spread.
    return known.reduce((sum, value) => sum + value, 0) + (own.length - known.length) * 1e6;
  };
  return rows.toSorted((a, b) => cost(a) - cost(b));
}
