import { useEffect } from 'react';
import { redoLast, undoLast } from '@/state/sessionSlice';
import { useAppDispatch } from '@/state/store';

/** Whether a key press belongs to a text field rather than to the app. */
export function isTyping(event: KeyboardEvent): boolean {
  const element = event.target as HTMLElement | null;
  return (
    element !== null &&
    (element.matches('input[type=text], input:not([type]), textarea, select') || element.isContentEditable)
  );
}

/** Ctrl/Cmd+Z, Ctrl/Cmd+Shift+Z and Ctrl+Y. */
export function useUndoKeys() {
  const dispatch = useAppDispatch();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.altKey || isTyping(event)) return;
      const key = event.key.toLowerCase();
      if (key === 'z') dispatch(event.shiftKey ? redoLast() : undoLast());
      else if (key === 'y') dispatch(redoLast());
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [dispatch]);
}
