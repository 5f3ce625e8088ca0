import { itemOf, PROGRAM_NAMES, programName, type Part, type Session } from '@ordle/core';
import { useState } from 'react';
import { edit } from '@/state/sessionSlice';
import { useAppDispatch } from '@/state/store';
import { Button, Check, Dialog, NumberField } from '@/ui';

/** A part in the draft of an edit. */
export const partOf = (draft: Session, id: string) => itemOf(draft.parts, id);

interface PartSettingsProps {
  part: Part;
  mayWrite: boolean;
  onClose(): void;
}

/** Name, colour, sound and channel of a part. */
export function PartSettings({ part, mayWrite, onClose }: PartSettingsProps) {
  const dispatch = useAppDispatch();
  const [name, setName] = useState(part.name);
  const change = (label: string, recipe: (own: Part) => void) =>
    dispatch(
      edit(label, (draft) => {
        const own = partOf(draft, part.id);
        if (own) recipe(own);
      }),
    );
  const commitName = () => {
    const next = name.trim().slice(0, 200);
    if (next && next !== part.name) change(`Rename ${part.name} to ${next}`, (own) => void (own.name = next));
  };
  return (
    <Dialog open onClose={onClose} title={part.name}>
      <label className="flex items-center gap-3">
        <span className="w-16 text-ink-2">Name</span>
        <input
          value={name}
          disabled={!mayWrite}
          onChange={(event) => setName(event.target.value)}
          onBlur={commitName}
          onKeyDown={(event) => event.key === 'Enter' && commitName()}
          className="grow border border-rule-strong bg-transparent px-2 py-1"
        />
      </label>
      <div className="flex items-center gap-3">
        <span className="w-16 text-ink-2">Colour</span>
        <div role="radiogroup" aria-label="Colour" className="flex gap-1.5">
          {Array.from({ length: 8 }, (_, ink) => (
            <button
              key={ink}
              type="button"
              role="radio"
              aria-checked={part.ink === ink}
              aria-label={`Ink ${ink + 1}`}
              disabled={!mayWrite}
              onClick={() => change(`Colour of ${part.name}`, (own) => void (own.ink = ink))}
              className={`h-6 w-6 border-2 ${part.ink === ink ? 'border-ink' : 'border-transparent'}`}
              style={{ background: `var(--ink-part-${ink + 1})` }}
            />
          ))}
        </div>
      </div>
      <label className="flex items-center gap-3">
        <span className="w-16 text-ink-2">Sound</span>
        <select
          value={part.sound.program}
          disabled={!mayWrite || part.sound.drums}
          onChange={(event) => {
            const program = Number(event.target.value);
            change(
              `Sound of ${part.name}: ${programName(program)}`,
              (own) => void (own.sound = { ...own.sound, program, chosen: true }),
            );
          }}
          className="h-7 grow border border-rule-strong bg-sheet px-1"
        >
          {PROGRAM_NAMES.map((title, program) => (
            <option key={program} value={program}>
              {program + 1}. {title}
            </option>
          ))}
        </select>
      </label>
      <Check
        checked={part.sound.drums}
        disabled={!mayWrite}
        onChange={(drums) =>
          change(
            drums ? `${part.name} is a drum part` : `${part.name} is no drum part`,
            (own) => void (own.sound = { ...own.sound, drums }),
          )
        }
      >
        drum kit: pieces instead of pitches, flams kept across one instrument
      </Check>
      <div className="flex items-center gap-3">
        <span className="w-16 text-ink-2">Channel</span>
        <NumberField
          label="Channel"
          value={part.channel}
          min={1}
          max={16}
          disabled={!mayWrite}
          onCommit={(channel) =>
            change(
              `Channel ${channel} for ${part.name}`,
              (own) => void Object.assign(own, { channel, rechannel: true }),
            )
          }
        />
        <span className="text-quiet text-ink-2">for everything the part writes</span>
      </div>
      <Button className="self-end" onClick={onClose}>
        Close
      </Button>
    </Dialog>
  );
}
