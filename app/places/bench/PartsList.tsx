import { programName } from '@ordle/core';
import { edit } from '@/state/sessionSlice';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import type { BenchState } from './useBench';

/** The parts of the session: which one is on the bench, and which are heard. */
export function PartsList({ bench }: { bench: BenchState }) {
  const dispatch = useAppDispatch();
  const { session, part: active, mayWrite } = bench;
  const someSolo = session.parts.some((part) => part.soloed);
  const toggle = (id: string, key: 'muted' | 'soloed', label: string) =>
    dispatch(
      edit(label, (draft) => {
        const part = draft.parts.find((candidate) => candidate.id === id);
        if (part) part[key] = !part[key];
      }),
    );
  return (
    <aside aria-label="Parts" className="flex w-46 shrink-0 flex-col overflow-y-auto border-r border-rule">
      <h2 className="flex justify-between px-3 pt-2.5 pb-1.5 text-quiet font-semibold text-ink-2">
        Parts <span>{session.parts.length}</span>
      </h2>
      <ul>
        {session.parts.map((part) => {
          const chosen = part.id === active?.id;
          const notes = session.takes.filter((take) =>
            part.layers.flat().some((segment) => segment.take === take.key),
          ).length;
          const silent = part.muted || (someSolo && !part.soloed);
          return (
            <li
              key={part.id}
              className={`flex items-center gap-1 border-l-3 pr-1.5 ${chosen ? 'border-accent bg-sheet' : 'border-transparent hover:bg-well/60'}`}
            >
              <button
                type="button"
                aria-current={chosen}
                onClick={() => dispatch(viewChanged({ partId: part.id }))}
                className="flex min-w-0 grow items-center gap-2 py-1.5 pl-2 text-left"
              >
                <span
                  className="h-7 w-2 shrink-0 rounded-[1px]"
                  style={{ background: `var(--ink-part-${part.ink + 1})`, opacity: silent ? 0.35 : 1 }}
                />
                <span className="min-w-0">
                  <span className={`block truncate font-semibold ${silent ? 'text-ink-3' : ''}`}>
                    {part.name}
                  </span>
                  <span className="block truncate text-quiet text-ink-2">
                    {part.sound.drums ? 'Drum kit' : programName(part.sound.program)}
                    {notes > 1 && `, ${notes} takes`}
                  </span>
                </span>
              </button>
              <Toggle
                label={`Mute ${part.name}`}
                on={part.muted}
                disabled={!mayWrite}
                onClick={() =>
                  toggle(part.id, 'muted', part.muted ? `Unmute ${part.name}` : `Mute ${part.name}`)
                }
              >
                M
              </Toggle>
              <Toggle
                label={`Solo ${part.name}`}
                on={part.soloed}
                disabled={!mayWrite}
                onClick={() =>
                  toggle(part.id, 'soloed', part.soloed ? `End solo of ${part.name}` : `Solo ${part.name}`)
                }
              >
                S
              </Toggle>
            </li>
          );
        })}
      </ul>
    </aside>
  );
}

function Toggle({
  label,
  on,
  disabled,
  onClick,
  children,
}: {
  label: string;
  on: boolean;
  disabled: boolean;
  onClick(): void;
  children: string;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      aria-pressed={on}
      disabled={disabled}
      onClick={onClick}
      className={`h-5 w-5 shrink-0 rounded-small border text-[0.7rem] font-semibold ${on ? 'border-ink bg-ink text-sheet' : 'border-rule text-ink-3 hover:border-rule-strong hover:text-ink'}`}
    >
      {children}
    </button>
  );
}
