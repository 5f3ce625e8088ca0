import { DropdownMenu } from 'radix-ui';
import { useRef, type ReactNode } from 'react';

interface MenuProps {
  trigger: ReactNode;
  align?: 'start' | 'center' | 'end';
  items: readonly MenuItem[];
}

export interface MenuItem {
  label: string;
  hint?: string;
  disabled?: boolean;
  /** Whether it is what holds now, where it is one of several. */
  checked?: boolean;
  onSelect(): void;
}

/** How an item of any menu looks. */
export const MENU_ITEM =
  'flex cursor-pointer px-3 outline-none data-[disabled]:cursor-default data-[disabled]:opacity-45 data-[highlighted]:bg-well';

/** A short list of actions that opens from a button, and gives the keys back to it when it was gone through by keys. */
export function Menu({ trigger, items, align = 'end' }: MenuProps) {
  const isByPointer = useRef(false);
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align={align}
          sideOffset={4}
          onPointerUp={() => (isByPointer.current = true)}
          onKeyDown={() => (isByPointer.current = false)}
          // After a click the keys are the music's: Space is to play, not to open the menu again.
          onCloseAutoFocus={(event) => {
            if (isByPointer.current) event.preventDefault();
          }}
          className="z-50 min-w-40 rounded-medium border border-edge bg-sheet py-1"
        >
          {items.map((item) => (
            <DropdownMenu.Item
              key={item.label}
              disabled={item.disabled}
              onSelect={item.onSelect}
              className={`${MENU_ITEM} flex-col py-1`}
            >
              <MenuWords item={item} />
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** What an item says, and what holds now is ticked. */
export function MenuWords({ item: { label, hint, checked } }: { item: MenuItem }) {
  return (
    <>
      <span className={checked ? 'font-semibold' : ''}>
        {label}
        {checked && ' ✓'}
      </span>
      {hint && <span className="text-quiet text-ink-2">{hint}</span>}
    </>
  );
}
