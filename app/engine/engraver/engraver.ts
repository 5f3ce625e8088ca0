/**
 * Bars to be engraved: a MusicXML document, for a width in CSS pixels, staves so many percent of their full size; as
 * one page that is as high as it needs to be, or as pages of a sheet of A4.
 */
export interface EngraveRequest {
  number: number;
  xml: string;
  width: number;
  scale: number;
  isPaged: boolean;
}

/** Pages as SVG; `error` says why there is none. */
export interface Engraved {
  number: number;
  pages: string[];
  error: string | null;
}

/**
 * The engraver, in a worker of its own that is fetched when it is first needed; it takes much memory, and is ended by
 * `close` when the score is left.
 */
export function createEngraver() {
  let worker: Worker | null = null;
  let next = 0;
  const waiting = new Map<number, { resolve(pages: string[]): void; reject(error: Error): void }>();
  const failAll = (reason: string) => {
    for (const { reject } of waiting.values()) reject(new Error(reason));
    waiting.clear();
  };
  function started(): Worker {
    if (worker) return worker;
    const made = new Worker(new URL('./engraver.worker.ts', import.meta.url), {
      type: 'module',
      name: 'ordle-engraver',
    });
    made.addEventListener('message', ({ data: { number, pages, error } }: MessageEvent<Engraved>) => {
      const asked = waiting.get(number);
      waiting.delete(number);
      if (error === null) asked?.resolve(pages);
      else asked?.reject(new Error(error));
    });
    made.addEventListener('error', () =>
      failAll('The engraver could not be loaded. Reload the page to try again.'),
    );
    worker = made;
    return made;
  }
  return {
    /** Engraves some bars; rejected where that fails or the score is left meanwhile. */
    engrave: (asked: Omit<EngraveRequest, 'number'>): Promise<string[]> =>
      new Promise((resolve, reject) => {
        const number = next++;
        waiting.set(number, { resolve, reject });
        started().postMessage({ ...asked, number });
      }),
    close() {
      worker?.terminate();
      worker = null;
      failAll('The score was left.');
    },
  };
}

export type Engraver = ReturnType<typeof createEngraver>;
