import { createClockFit } from '@ordle/core';

/** How long a reading of the clocks holds, in ms. */
const HOLDS_MS = 1000;

/**
 * The audio clock of what is heard, by the clock of the page. It goes by the standard's pair of clocks, which tells the
 * frame that is at the loudspeaker: the latency of the output is in it already. Where a browser does not tell it, the
 * latency the context says is taken off.
 */
export function createHeardClock(contextNow: () => AudioContext | null) {
  const fit = createClockFit();
  let readAt = -Infinity;

  function read() {
    const context = contextNow();
    if (!context || context.state !== 'running') return;
    readAt = performance.now();
    const { contextTime = 0, performanceTime = 0 } = context.getOutputTimestamp?.() ?? {};
    const isTold = performanceTime > 0 && contextTime > 0 && context.currentTime - contextTime < 1;
    fit.add(
      isTold
        ? { page: performanceTime, audio: contextTime }
        : { page: readAt, audio: context.currentTime - (context.outputLatency || 0) },
    );
  }

  return {
    read,
    /** Reads the clocks again where the last reading is old. */
    readNowAndThen() {
      if (performance.now() - readAt >= HOLDS_MS) read();
    },
    /** Seconds of the audio clock heard at a moment of the page's (ms), and back. */
    audioAt(page: number): number {
      if (!fit.isSet()) read();
      return fit.audioAt(page);
    },
    pageAt: fit.pageAt,
    slips: fit.slips,
  };
}
