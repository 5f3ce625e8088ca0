import { X } from 'lucide-react';
import { useEffect, type KeyboardEvent, type ReactNode } from 'react';
import { Button } from '@/ui';
import { createSmallStore } from '@/ui/smallStore';
import { NARROW, useMedia } from '@/ui/useMedia';

/** The panels of the place that is shown which are sheets while there is little room, and the one that is open. */
const store = createSmallStore<{ names: readonly string[]; open: string | null }>({ names: [], open: null });

const toggle = (name: string) => store.set({ ...store.get(), open: store.get().open === name ? null : name });

/** Whether a panel is a sheet just now, and whether it is open. */
export function useSheet(name: string): { isSheet: boolean; isOpen: boolean } {
  const isSheet = useMedia(NARROW);
  const { open } = store.useValue();
  useEffect(() => {
    if (!isSheet) return;
    store.set({ ...store.get(), names: [...store.get().names, name] });
    return () => {
      const { names, open: now } = store.get();
      store.set({ names: names.filter((other) => other !== name), open: now === name ? null : now });
    };
  }, [isSheet, name]);
  return { isSheet, isOpen: open === name };
}

/** The buttons that open the sheets of the place; none where there is room for the panels themselves. */
export function SheetButtons() {
  const isNarrow = useMedia(NARROW);
  const { names, open } = store.useValue();
  if (!isNarrow) return null;
  return names.map((name) => (
    <Button
      key={name}
      aria-expanded={open === name}
      className="aria-expanded:bg-set aria-expanded:text-on-set"
      onClick={() => toggle(name)}
    >
      {name}
    </Button>
  ));
}

interface SheetProps {
  name: string;
  children: ReactNode;
}

/** A panel over the music, closed by its cross or Escape. */
export function Sheet({ name, children }: SheetProps) {
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key !== 'Escape' || event.defaultPrevented) return;
    event.stopPropagation();
    toggle(name);
  };
  return (
    <aside
      aria-label={name}
      onKeyDown={onKeyDown}
      className="fixed top-10 right-0 bottom-11 z-30 flex w-[min(20rem,92vw)] flex-col overflow-y-auto border-l border-edge bg-ground"
    >
      <button
        type="button"
        aria-label={`Close ${name.toLowerCase()}`}
        onClick={() => toggle(name)}
        className="absolute top-1 right-1 z-10 flex h-8 w-8 items-center justify-center bg-ground text-ink-2 hover:text-ink"
      >
        <X size={16} aria-hidden="true" />
      </button>
      {children}
    </aside>
  );
}

interface SidePanelProps extends SheetProps {
  className: string;
  /** Nothing in it can be pressed yet: it takes the focus itself, so that it can be scrolled by key. */
  isWaiting?: boolean;
}

/** A panel at the right of the music; where there is little room, a sheet over it. */
export function SidePanel({ name, className, isWaiting = false, children }: SidePanelProps) {
  const { isSheet, isOpen } = useSheet(name);
  if (isSheet) return isOpen ? <Sheet name={name}>{children}</Sheet> : null;
  return (
    <aside
      aria-label={name}
      tabIndex={isWaiting ? 0 : undefined}
      className={`flex shrink-0 flex-col border-l border-rule bg-ground ${className}`}
    >
      {children}
    </aside>
  );
}
