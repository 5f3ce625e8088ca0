import { memo } from 'react';
import { NavLink, useLocation, useNavigate } from 'react-router';
import { Button, Menu } from '@/ui';
import { FOLDED_HEADER, useMedia } from '@/ui/useMedia';
import { useRoving } from '@/ui/useRoving';

export const PLACES = [
  { label: 'Shelf', path: () => '/' },
  { label: 'Record', path: (id: string) => `/s/${id}/record` },
  { label: 'Takes', path: (id: string) => `/s/${id}/takes` },
  { label: 'Tempo', path: (id: string) => `/s/${id}/tempo` },
  { label: 'Bench', path: (id: string) => `/s/${id}` },
  { label: 'Parts', path: (id: string) => `/s/${id}/parts` },
  { label: 'Readings', path: (id: string) => `/s/${id}/readings` },
  { label: 'Score', path: (id: string) => `/s/${id}/score` },
  { label: 'Export', path: (id: string) => `/s/${id}/export` },
];

/** The places of a session as words, in the order of the work; the current one underlined. Folded into a menu. */
export const PlacesNav = memo(function PlacesNav({ sessionId }: { sessionId: string }) {
  const isFolded = useMedia(FOLDED_HEADER);
  const bar = useRoving<HTMLElement>();
  const navigate = useNavigate();
  const { pathname } = useLocation();
  if (isFolded) {
    const here = PLACES.find(({ path }) => path(sessionId) === pathname)?.label ?? 'Places';
    return (
      <nav aria-label="Places">
        <Menu
          align="start"
          trigger={<Button className="font-semibold">{here} ▾</Button>}
          items={PLACES.map(({ label, path }) => ({
            label,
            checked: label === here,
            onSelect: () => void navigate(path(sessionId)),
          }))}
        />
      </nav>
    );
  }
  return (
    <nav ref={bar} aria-label="Places" className="flex h-full shrink-0">
      {PLACES.map(({ label, path }) => (
        <NavLink
          key={label}
          to={path(sessionId)}
          end
          className={({ isActive }) =>
            `flex h-full items-center border-y-3 border-t-transparent px-2.5 hover:text-ink max-xl:px-1 ${isActive ? 'border-b-accent font-semibold text-ink' : 'border-b-transparent text-ink-2'}`
          }
        >
          {label}
        </NavLink>
      ))}
    </nav>
  );
});
