import { Dialog as RadixDialog } from 'radix-ui';
import type { ReactNode } from 'react';

interface DialogProps {
  open: boolean;
  title: string;
  description?: string;
  onClose(): void;
  children: ReactNode;
}

/** A sheet over the page for a question or a report; Escape and a click beside it close it. */
export function Dialog({ open, title, description, onClose, children }: DialogProps) {
  return (
    <RadixDialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <RadixDialog.Portal>
        <RadixDialog.Overlay className="fixed inset-0 z-40 bg-ink/25 dark:bg-ground/70" />
        <RadixDialog.Content
          aria-describedby={description ? undefined : ''}
          className="fixed top-1/2 left-1/2 z-50 flex max-h-[80vh] w-[30rem] max-w-[92vw] -translate-x-1/2 -translate-y-1/2 flex-col gap-3 rounded-medium border border-edge bg-sheet p-5"
        >
          <RadixDialog.Title className="font-serif text-lg font-semibold">{title}</RadixDialog.Title>
          {description && (
            <RadixDialog.Description className="text-ink-2">{description}</RadixDialog.Description>
          )}
          {children}
        </RadixDialog.Content>
      </RadixDialog.Portal>
    </RadixDialog.Root>
  );
}
