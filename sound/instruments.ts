import type { Instruments } from '@ordle/core';
import { createRenderer } from './renderer';

/**
 * The instruments of a sound bank (SF2), to render parts on: the same player and synth as are heard, from the music's
 * first frame, so that samples are the same in Node and in browsers.
 */
export function instrumentsOf(bank: ArrayBuffer): Instruments {
  return async (rate, parts, end) => {
    const { player, renderApart } = await createRenderer(rate, bank);
    player.setScore({
      parts: parts.map((part) => ({ ...part, audible: true })),
      end,
      clickTimes: new Float64Array(0),
      clickAccents: new Uint8Array(0),
    });
    player.play(0);
    return { render: renderApart };
  };
}
