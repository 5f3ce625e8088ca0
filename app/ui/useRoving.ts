import { useEffect, useRef, type RefObject } from 'react';

const ITEMS =
  'button:not([disabled]):not([role=radio]), a[href], select:not([disabled]), input:not([disabled]):not([type=file]), [role=slider], [role=radiogroup], [role=group][aria-label]';

/** Whether arrows are the element's own: fields, sliders, lists of choices. */
const hasOwnArrows = (element: Element): boolean =>
  element.matches('input:not([type=checkbox]), select, [role=slider], [role=radio], [role=radiogroup] *');

/**
 * A bar of controls as one tab stop: Tab comes to the control that had the keys last, arrows go from one to the next,
 * Home and End to its ends. Controls whose arrows are their own are tab stops as well, so that they are never lost.
 */
export function useRoving<E extends HTMLElement>(): RefObject<E | null> {
  const own = useRef<E>(null);
  useEffect(() => (own.current ? rove(own.current) : undefined), []);
  return own;
}

/** The same for a bar that is known as an element. */
export function useRovingIn(bar: HTMLElement | null): void {
  useEffect(() => (bar ? rove(bar) : undefined), [bar]);
}

/** Makes a bar rove, until the returned function is called. */
function rove(bar: HTMLElement): () => void {
  let current: HTMLElement | null = null;
  const items = () =>
    [...bar.querySelectorAll<HTMLElement>(ITEMS)].filter(
      (item) =>
        !item.closest('[hidden]') &&
        item.offsetParent !== null &&
        !item.matches('[role=radiogroup], [role=group]'),
    );
  const settle = () => {
    const list = items();
    if (!current || !list.includes(current)) current = list.find((item) => !hasOwnArrows(item)) ?? null;
    for (const item of list) {
      if (hasOwnArrows(item)) continue;
      const wanted = item === current ? 0 : -1;
      if (item.tabIndex !== wanted) item.tabIndex = wanted;
    }
  };
  const onFocus = (event: FocusEvent) => {
    const target = event.target as HTMLElement;
    if (!hasOwnArrows(target) && items().includes(target)) current = target;
    settle();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const target = event.target as HTMLElement;
    if (event.defaultPrevented || event.altKey || event.ctrlKey || event.metaKey || hasOwnArrows(target))
      return;
    // After a click the keys stay the music's.
    if (!target.matches(':focus-visible')) return;
    const list = items();
    const at = list.indexOf(target);
    if (at < 0) return;
    const to = { ArrowRight: at + 1, ArrowLeft: at - 1, Home: 0, End: list.length - 1 }[event.key];
    if (to === undefined) return;
    list.at(Math.min(list.length - 1, Math.max(0, to)))?.focus();
    event.preventDefault();
    event.stopPropagation();
  };
  settle();
  const watching = new MutationObserver(settle);
  watching.observe(bar, {
    childList: true,
    subtree: true,
    attributes: true,
    attributeFilter: ['disabled'],
  });
  bar.addEventListener('focusin', onFocus);
  bar.addEventListener('keydown', onKeyDown);
  return () => {
    watching.disconnect();
    bar.removeEventListener('focusin', onFocus);
    bar.removeEventListener('keydown', onKeyDown);
  };
}
