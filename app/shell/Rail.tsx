import { FileDown, Library, SlidersHorizontal } from 'lucide-react';
import { NavLink } from 'react-router';

const PLACES = [
  { label: 'Shelf', icon: Library, path: () => '/' },
  { label: 'Bench', icon: SlidersHorizontal, path: (id: string) => `/s/${id}` },
  { label: 'Export', icon: FileDown, path: (id: string) => `/s/${id}/export` },
];

/** The places of a session, in the order of the work. */
export function Rail({ sessionId }: { sessionId: string }) {
  return (
    <nav aria-label="Places" className="flex w-16 shrink-0 flex-col border-r border-rule pt-1">
      {PLACES.map(({ label, icon: Icon, path }) => (
        <NavLink
          key={label}
          to={path(sessionId)}
          end
          className={({ isActive }) =>
            `flex flex-col items-center gap-0.5 border-l-3 py-2.5 text-quiet hover:bg-well ${isActive ? 'border-accent font-semibold text-ink' : 'border-transparent text-ink-2'}`
          }
        >
          <Icon size={19} strokeWidth={1.5} aria-hidden="true" />
          {label}
        </NavLink>
      ))}
    </nav>
  );
}
