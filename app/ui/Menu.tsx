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
              className="flex cursor-pointer flex-col px-3 py-1 outline-none data-[disabled]:cursor-default data-[disabled]:opacity-45 data-[highlighted]:bg-well"
            >
              <span className={item.checked ? 'font-semibold' : ''}>
                {item.label}
                {item.checked && ' ✓'}
              </span>
              {item.hint && <span className="text-quiet text-ink-2">{item.hint}</span>}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
