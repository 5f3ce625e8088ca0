import type { RefObject } from 'react';
import { Button } from '@/ui';

/** What shows more or fewer bars. */
export interface ZoomableBars {
  zoom(factor: number): void;
  fit(): void;
}

/** Shows more bars, fewer, or all there are. */
export function BarsZoom({ editor }: { editor: RefObject<ZoomableBars | null> }) {
  return (
    <span className="flex items-center">
      <Button look="quiet" aria-label="Show more bars" onClick={() => editor.current?.zoom(1.4)}>
        −
      </Button>
      <Button look="quiet" aria-label="Show fewer bars" onClick={() => editor.current?.zoom(1 / 1.4)}>
        +
      </Button>
      <Button look="quiet" onClick={() => editor.current?.fit()}>
        all bars
      </Button>
    </span>
  );
}
