import { listOf, type Session } from '@ordle/core';
import { Popover } from 'radix-ui';
import { Button, Check } from '@/ui';
import { counted } from '@/words/counts';

interface ChoosePartsProps {
  session: Session;
  chosen: readonly string[];
  onChoose(parts: readonly string[]): void;
}

/** Which parts are in the score, from top to bottom as they stand in the session. */
export function ChooseParts({ session, chosen, onChoose }: ChoosePartsProps) {
  const all = listOf(session.parts).filter(({ setAside }) => !setAside);
  const name = chosen.length === 1 ? session.parts.byId[chosen[0]]?.name : counted(chosen.length, 'part');
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button title="Which parts are written down">{name} ▾</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          aria-label="Parts in the score"
          className="z-50 flex max-h-[70vh] min-w-48 flex-col gap-1.5 overflow-y-auto rounded-medium border border-edge bg-sheet p-3"
        >
          {all.map(({ id, name: label }) => (
            <Check
              key={id}
              checked={chosen.includes(id)}
              onChange={(on) => {
                const next = all
                  .map((each) => each.id)
                  .filter((each) => (each === id ? on : chosen.includes(each)));
                if (next.length > 0) onChoose(next);
              }}
            >
              {label}
            </Check>
          ))}
          <Button className="mt-1 justify-center" onClick={() => onChoose(all.map(({ id }) => id))}>
            All parts
          </Button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
