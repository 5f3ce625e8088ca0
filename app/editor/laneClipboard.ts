import { deleted, pasted, textOfChosen, type Deed, type Keys } from './curveKeys';

interface LaneClipboard {
  /** What is worked on; null while the lane shows nothing. */
  keys(): Keys | null;
  mayEdit(): boolean;
  perform(action: Deed): void;
  refused(error: unknown): void;
}

/**
 * Copy, cut and paste of points while a lane has the focus. The browser sends these to the document, so that they are caught there before the
 * notes get them.
 */
export function listenToClipboard(canvas: HTMLCanvasElement, lane: LaneClipboard, signal: AbortSignal): void {
  function onClipboard(event: ClipboardEvent) {
    const keys = lane.keys();
    if (document.activeElement !== canvas || !keys) return;
    if (event.type === 'paste') {
      if (!lane.mayEdit()) return;
      try {
        lane.perform(pasted(keys, event.clipboardData?.getData('text/plain') ?? ''));
      } catch (error) {
        lane.refused(error);
      }
    } else {
      const text = textOfChosen(keys);
      if (text === null) return;
      event.clipboardData?.setData('text/plain', text);
      if (event.type === 'cut' && lane.mayEdit()) lane.perform(deleted(keys));
    }
    event.preventDefault();
    event.stopImmediatePropagation();
  }
  for (const name of ['copy', 'cut', 'paste'] as const)
    document.addEventListener(name, onClipboard, { capture: true, signal });
}
