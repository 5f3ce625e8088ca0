import type { fromEvent } from 'file-selector';
import { useEffect } from 'react';

/** Files may be dropped on any place of the window. */
export function useDropAnywhere(
  setOver: (over: boolean) => void,
  importFiles: (files: Iterable<File>) => void,
) {
  useEffect(() => {
    let depth = 0;
    // Looks into folders. It has to be there when something is dropped, but not when the page is first painted.
    let readDropped: typeof fromEvent | null = null;
    void import('file-selector').then(
      (module) => (readDropped = module.fromEvent),
      () => undefined,
    );
    const hasFiles = (event: DragEvent) => event.dataTransfer?.types.includes('Files') ?? false;
    const onEnter = (event: DragEvent) => {
      if (!hasFiles(event)) return;
      depth++;
      setOver(true);
    };
    const onLeave = (event: DragEvent) => {
      if (hasFiles(event) && --depth <= 0) setOver(false);
    };
    const onOver = (event: DragEvent) => {
      if (hasFiles(event)) event.preventDefault();
    };
    const onDrop = (event: DragEvent) => {
      if (!hasFiles(event)) return;
      event.preventDefault();
      depth = 0;
      setOver(false);
      const plain = [...(event.dataTransfer?.files ?? [])];
      if (!readDropped) return importFiles(plain);
      readDropped(event).then(
        (found) => importFiles(found.filter((each) => each instanceof File)),
        () => importFiles(plain),
      );
    };
    window.addEventListener('dragenter', onEnter);
    window.addEventListener('dragleave', onLeave);
    window.addEventListener('dragover', onOver);
    window.addEventListener('drop', onDrop);
    return () => {
      window.removeEventListener('dragenter', onEnter);
      window.removeEventListener('dragleave', onLeave);
      window.removeEventListener('dragover', onOver);
      window.removeEventListener('drop', onDrop);
    };
  }, [setOver, importFiles]);
}
