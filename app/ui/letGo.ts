/**
 * Leaves a field once its value is taken over or given up, so that keys mean what they mean outside it again: Space
 * plays, undo undoes. In a dialog they go to the dialog, which Escape closes.
 */
export function letGo(field: HTMLElement): void {
  const dialog = field.closest<HTMLElement>('[role=dialog]');
  if (dialog) dialog.focus();
  else field.blur();
}
