import { isTyping } from '@/ui';

/** What copies to and pastes from the system's clipboard. */
export interface ClipboardHolder {
  /** What is selected, as text; null when nothing is, so that another may copy. */
  copy(): string | null;
  /** Takes away what was just copied, where that may be. */
  remove(): void;
  /** Takes in a text; false when it may not, so that another may. */
  paste(text: string): boolean;
}

const holders = new Map<ClipboardHolder, HTMLElement | null>();

/** Those that may have an event: what has the focus first, then what needs none. */
const inTurn = (): ClipboardHolder[] =>
  [...holders]
    .filter(([, element]) => element === null || element === document.activeElement)
    .sort(([, one], [, other]) => Number(other !== null) - Number(one !== null))
    .map(([holder]) => holder);

/** How long after a press of the middle button a paste is taken for its doing, in ms. */
const MIDDLE_MS = 300;
let middle = -Infinity;

/** In Linux the middle button, which drags the view, also pastes what was last selected anywhere. */
function onPointerUp(event: PointerEvent) {
  if (event.button === 1) middle = event.timeStamp;
}

function onClipboard(event: ClipboardEvent) {
  if (event.type === 'paste' && event.timeStamp - middle < MIDDLE_MS) return;
  if (isTyping(event.target) || (event.target as HTMLElement | null)?.closest('[role=dialog]')) return;
  for (const holder of inTurn()) {
    if (event.type === 'paste') {
      if (!holder.paste(event.clipboardData?.getData('text/plain') ?? '')) continue;
    } else {
      const text = holder.copy();
      if (text === null) continue;
      event.clipboardData?.setData('text/plain', text);
      if (event.type === 'cut') holder.remove();
    }
    event.preventDefault();
    return;
  }
}

/**
 * Takes part in copy, cut and paste until the returned function is called: while `element` has the focus or, without
 * one, whenever nothing that has the focus wants them.
 */
export function holdClipboard(holder: ClipboardHolder, element: HTMLElement | null = null): () => void {
  if (holders.size === 0) {
    for (const name of ['copy', 'cut', 'paste'] as const) document.addEventListener(name, onClipboard);
    document.addEventListener('pointerup', onPointerUp, true);
  }
  holders.set(holder, element);
  return () => {
    holders.delete(holder);
    if (holders.size > 0) return;
    for (const name of ['copy', 'cut', 'paste'] as const) document.removeEventListener(name, onClipboard);
    document.removeEventListener('pointerup', onPointerUp, true);
  };
}
