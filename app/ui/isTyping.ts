/** Whether what is typed at an event's target is text: a field or anything that can be written in. */
export function isTyping(target: EventTarget | null): boolean {
  const element = target as HTMLElement | null;
  return (
    typeof element?.matches === 'function' &&
    (element.matches('input:not([type=checkbox]):not([type=radio]):not([type=file]), textarea, select') ||
      element.isContentEditable)
  );
}
