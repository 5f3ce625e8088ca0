import type { Dependent } from '@ordle/core';
import { neededPart, removePart, setPartAside } from '@/edits/deletePart';
import { useAppDispatch } from '@/state/store';
import { Button, Dialog } from '@/ui';

/** What becomes of a part without the one that is to be deleted. */
const LOSSES: Record<Dependent['why'], (name: string) => string> = {
  'made of': (name) =>
    `“${name}” is made of it, and will be neither heard nor written until that piece is taken out.`,
  'aligned to': (name) => `“${name}” is aligned to it, and will stay as it was before that step.`,
  'held by': (name) => `“${name}” may be held by its pedal, and its notes would end earlier.`,
};

/** Asks before a part goes that others need. */
export function NeededPartDialog() {
  const needed = neededPart.useValue();
  const dispatch = useAppDispatch();
  if (!needed) return null;
  const { part, dependents } = needed;
  const close = () => neededPart.set(null);
  const then = (act: () => void) => () => {
    act();
    close();
  };
  const isSource = dependents.every(({ why }) => why === 'made of');
  return (
    <Dialog open onClose={close} title={`Delete “${part.name}”?`}>
      <ul className="flex max-h-64 flex-col gap-1 overflow-y-auto">
        {dependents.map(({ part: { id, name }, why }) => (
          <li key={`${id} ${why}`}>{LOSSES[why](name)}</li>
        ))}
      </ul>
      {isSource && !part.setAside && (
        <p className="text-ink-2">
          Set aside it is neither heard nor written, and stays what they are made of.
        </p>
      )}
      {isSource && part.setAside && (
        <p className="text-ink-2">
          It is set aside already: neither heard nor written, and kept only for what is made of it.
        </p>
      )}
      <div className="flex justify-end gap-2">
        <Button onClick={close}>Cancel</Button>
        <Button onClick={then(() => removePart(dispatch, part))}>Delete</Button>
        {isSource && !part.setAside && (
          <Button look="main" onClick={then(() => setPartAside(dispatch, part))}>
            Set aside
          </Button>
        )}
      </div>
    </Dialog>
  );
}
