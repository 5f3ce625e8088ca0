import type { KeyboardEvent } from 'react';
import { flushSync } from 'react-dom';

/**
 * Leaves a field once its value is taken over or given up, so that keys mean what they mean outside it again: Space
 * plays, undo undoes. In a dialog they go to the dialog, which Escape closes.
 */
function letGo(field: HTMLElement): void {
  const dialog = field.closest<HTMLElement>('[role=dialog]');
  if (dialog) dialog.focus();
  else field.blur();
}

/**
 * Leaves a field by Enter, which takes its value over, or by Escape, which gives up what was typed first; true where
 * the key was one of them. A field that has not the focus is not left, and takes its value over itself.
 */
export function leftByKey(
  event: KeyboardEvent<HTMLInputElement>,
  takeOver: (text: string) => void,
  giveUp: () => void,
): boolean {
  const field = event.currentTarget;
  if (event.key === 'Enter') {
    if (document.activeElement === field) letGo(field);
    else takeOver(field.value);
  } else if (event.key === 'Escape') {
    // Before it is left, which would take it over.
    flushSync(giveUp);
    letGo(field);
  } else return false;
  return true;
}
