import { Select } from '@/ui';
import type { OtherSession } from './useOtherSession';

/** Picks the session that something is to come from, and says what stands in the way. */
export function SessionChoice({ other, onLook }: { other: OtherSession; onLook(): void }) {
  const { sessions, from, error, look } = other;
  return (
    <>
      {sessions?.length === 0 && <p>There is no other session on the shelf.</p>}
      {sessions && sessions.length > 0 && (
        <Select
          label="Session"
          value={from?.id ?? ''}
          onChange={(id) => {
            onLook();
            look(id);
          }}
        >
          <option value="" disabled>
            Which session?
          </option>
          {sessions.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </Select>
      )}
      {error !== null && (
        <p role="alert" className="font-semibold">
          {error}
        </p>
      )}
    </>
  );
}

interface TickListProps {
  label: string;
  items: readonly { id: string; name: string; words: string }[];
  chosen: ReadonlySet<string>;
  onChosen(chosen: ReadonlySet<string>): void;
}

/** Things of that session, some of which are ticked. */
export function TickList({ label, items, chosen, onChosen }: TickListProps) {
  return (
    <ul aria-label={label} className="max-h-72 overflow-y-auto">
      {items.map(({ id, name, words }) => (
        <li key={id}>
          <label className="flex h-7 items-center gap-2">
            <input
              type="checkbox"
              checked={chosen.has(id)}
              onChange={() => {
                const next = new Set(chosen);
                if (!next.delete(id)) next.add(id);
                onChosen(next);
              }}
              className="h-3.5 w-3.5 accent-[var(--ink)]"
            />
            <span className="min-w-0 grow truncate">{name}</span>
            <span className="text-ink-2">{words}</span>
          </label>
        </li>
      ))}
    </ul>
  );
}
