import { ContextMenu } from 'radix-ui';
import { useEffect, useRef, useState, type ReactElement } from 'react';
import { MENU_ITEM, MenuWords, type MenuItem } from './Menu';

/** Where a menu was asked for: in the page, in CSS pixels; by key nothing is pointed at. */
export interface MenuPlace {
  x: number;
  y: number;
  byKey: boolean;
}

interface WithMenuProps {
  /** What can be done there; null draws a line between groups. None opens no menu. */
  items(place: MenuPlace): readonly (MenuItem | null)[];
  /** Told before the items are asked for: what is pointed at is selected first. */
  onAsk?(place: MenuPlace): void;
  /** Another part within may have a menu of its own: this one is for the rest. */
  children: ReactElement;
}

/** Whether the menu key asked: no button did, or the browser says that it was the keyboard (6). */
const isByKey = ({ button, mozInputSource }: { button: number; mozInputSource?: number }): boolean =>
  button === -1 || mozInputSource === 6;

/** What can be done with what is pointed at: by right click, long press or menu key. */
export function WithMenu({ items, onAsk, children }: WithMenuProps) {
  const pressed = useRef({ x: 0, y: 0, byKey: true, pointerId: 0 });
  const place = useRef<MenuPlace>({ x: 0, y: 0, byKey: true });
  const own = useRef<HTMLElement>(null);
  return (
    <ContextMenu.Root
      onOpenChange={(open) => {
        if (!open) return;
        const { x, y, byKey, pointerId } = pressed.current;
        place.current = { x, y, byKey };
        // What a finger began before it was held long enough is given up.
        own.current?.dispatchEvent(new PointerEvent('pointercancel', { pointerId, bubbles: true }));
        onAsk?.(place.current);
      }}
    >
      <ContextMenu.Trigger
        asChild
        onPointerDown={(event) => {
          own.current = event.target as HTMLElement;
          const { clientX: x, clientY: y, pointerId } = event;
          pressed.current = { x, y, byKey: false, pointerId };
        }}
        onContextMenu={({ nativeEvent }) => {
          pressed.current.byKey = isByKey(nativeEvent);
        }}
      >
        {children}
      </ContextMenu.Trigger>
      <ContextMenu.Portal>
        <ContextMenu.Content
          className="z-50 max-h-(--radix-context-menu-content-available-height) min-w-52 overflow-y-auto rounded-medium border border-edge bg-sheet py-1"
          // The keys stay the music's.
          onCloseAutoFocus={(event) => event.preventDefault()}
        >
          <Items ask={() => items(place.current)} />
        </ContextMenu.Content>
      </ContextMenu.Portal>
    </ContextMenu.Root>
  );
}

/** The items, asked for once what was pointed at is selected and what can be done with it is known. */
function Items({ ask }: { ask(): readonly (MenuItem | null)[] }) {
  const [list, setList] = useState<readonly (MenuItem | null)[]>([]);
  const asking = useRef(ask);
  useEffect(() => {
    const timer = setTimeout(() => setList(asking.current()), 0);
    return () => clearTimeout(timer);
  }, []);
  return list.map((item, at) =>
    item === null ? (
      <ContextMenu.Separator key={at} className="my-1 h-px bg-rule" />
    ) : (
      <ContextMenu.Item
        key={item.label}
        disabled={item.disabled}
        onSelect={item.onSelect}
        className={`${MENU_ITEM} min-h-6 items-baseline justify-between gap-6 py-0.5 pointer-coarse:min-h-11 pointer-coarse:items-center`}
      >
        <MenuWords item={item} />
      </ContextMenu.Item>
    ),
  );
}
