import { Ellipsis } from 'lucide-react';
import { Menu, type MenuItem } from './Menu';

interface MoreMenuProps {
  /** What it is about. */
  name: string;
  items: readonly MenuItem[];
  align?: 'start' | 'center' | 'end';
  className?: string;
}

/** Three dots that open what else can be done with something. */
export function MoreMenu({ name, items, align, className = 'h-6' }: MoreMenuProps) {
  return (
    <Menu
      align={align}
      trigger={
        <button
          type="button"
          aria-label={`More for ${name}`}
          className={`shrink-0 text-ink-2 hover:text-ink ${className}`}
        >
          <Ellipsis size={14} aria-hidden="true" className="mx-auto" />
        </button>
      }
      items={items}
    />
  );
}
