import {
  pitchName,
  separatedParts,
  sentenceOf,
  withHandLine,
  type HandLine as Line,
  type Part,
  type Session,
  type Split,
  type ShareOf,
} from '@ordle/core';
import { useEffect, useState } from 'react';
import { engine } from '@/engine/engineClient';
import { useOpenBench } from '@/music/useBench';
import { useAppDispatch } from '@/state/store';
import { Button, Dialog, LabelledRow, NumberField, Segmented } from '@/ui';
import { counted } from '@/words/counts';
import { edit } from '@/state/sessionSlice';
import { HandLine } from './HandLine';
import { addPartsOf, newId } from './partsActions';

interface SeparateDialogProps {
  session: Session;
  /** The part that is divided. */
  part: Part;
  /** The line it is divided by already, in parts that are there: to be changed for all of them. */
  divided?: Line;
  onClose(): void;
}

type Rule = 'voice' | 'pitch' | 'hand' | 'drum' | 'channel';

/** Asks by what a part is divided and shows what that would give; the shares live on the part, which is set aside. */
export function SeparateDialog({ session, part, divided, onClose }: SeparateDialogProps) {
  const { view } = useOpenBench();
  const dispatch = useAppDispatch();
  const [rule, setRule] = useState<Rule>(divided ? 'hand' : part.sound.drums ? 'drum' : 'voice');
  const [line, setLine] = useState<Line>(divided ?? []);
  const [pitch, setPitch] = useState(60);
  const [answer, setAnswer] = useState<{ by: string; line: Line; shares: ShareOf[] } | null>(null);
  const [error, setError] = useState<string | null>(null);
  const by: Split['by'] = rule === 'pitch' ? `pitch:${pitch}` : rule;
  useEffect(() => {
    let isAwaited = true;
    engine.sharesOf({ session, partId: part.id, by, line }).then(
      (shares) => isAwaited && setAnswer({ by, line, shares }),
      (reason: unknown) => isAwaited && setError(sentenceOf(reason)),
    );
    return () => {
      isAwaited = false;
    };
  }, [session, part.id, by, line]);
  const shares = answer?.by === by ? answer.shares : null;
  const separate = () => {
    if (!shares) return;
    if (divided) {
      dispatch(
        edit(`Change the line between the hands of ${part.name}`, (draft) => {
          draft.parts = structuredClone(withHandLine(session.parts, part.id, line));
        }),
      );
      onClose();
      return;
    }
    addPartsOf(dispatch, `Separate ${part.name} by ${rule}`, [part.id], (_, numbers) =>
      separatedParts(
        part,
        by,
        shares.map(({ label }) => label),
        newId,
        numbers,
        rule === 'hand' ? line : [],
      ),
    );
    onClose();
  };
  return (
    <Dialog
      open
      title={divided ? `The line between the hands of ${part.name}` : `Separate ${part.name}`}
      onClose={onClose}
    >
      <div className="flex flex-col gap-3">
        {!divided && (
          <Segmented
            label="By what"
            value={rule}
            options={[
              { value: 'voice', label: 'voice' },
              { value: 'pitch', label: 'pitch' },
              { value: 'hand', label: 'hand' },
              { value: 'drum', label: 'drum piece' },
              { value: 'channel', label: 'channel' },
            ]}
            onChange={setRule}
          />
        )}
        {rule === 'pitch' && (
          <LabelledRow label={`below and from ${pitchName(pitch, view.middleC)}`}>
            <NumberField label="Pitch" value={pitch} min={1} max={127} onCommit={setPitch} />
          </LabelledRow>
        )}
        {rule === 'hand' && <HandLine session={session} part={part} line={line} onLine={setLine} />}
        {error !== null && (
          <p role="alert" className="font-semibold">
            {error}
          </p>
        )}
        <ul aria-label="Shares" className="max-h-64 overflow-y-auto border-y border-rule py-1">
          {(shares ?? []).map(({ label, notes }) => (
            <li key={label} className="flex h-6 items-center justify-between">
              <span>{label.replaceAll('-', ' ')}</span>
              <span className="text-ink-2">{counted(notes, 'note')}</span>
            </li>
          ))}
          {shares === null && error === null && <li className="text-ink-2">Looking through the notes ...</li>}
          {shares?.length === 0 && <li className="text-ink-2">The part has no notes.</li>}
        </ul>
        <p className="text-quiet text-ink-2">
          {divided
            ? 'All parts made of it by hand go by the new line; together they are it exactly.'
            : `Every note lies in exactly one. The first has the controllers; ${part.name} is set aside and goes on being cleaned for all of them.`}
        </p>
        <span className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button look="main" disabled={!shares || (shares.length < 2 && !divided)} onClick={separate}>
            {divided
              ? 'Go by this line'
              : shares && shares.length >= 2
                ? `Make ${counted(shares.length, 'part')}`
                : 'Nothing to separate'}
          </Button>
        </span>
      </div>
    </Dialog>
  );
}
