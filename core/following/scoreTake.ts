import { META, META_TRACK_NAME, createEventBuilder, encodeText } from '../midi';
import { restoreTake, type Take } from '../model';
import { SCORE_QUARTER } from './reference';
import type { Score } from './score';

/**
 * What is written as a take, each note once, to be kept like one; `keyOf` gives its key. Notes of one pitch written at
 * one place stay as many as they are.
 */
export function scoreTake(
  { length, at, lengths, pitch, velocity, meters }: Score,
  name: string,
  keyOf: (content: Omit<Take, 'key' | 'pairs' | 'notes'>) => string,
): Take {
  const builder = createEventBuilder(2 * length + 1);
  builder.add(0, META, META_TRACK_NAME, 0, encodeText(name));
  const tickOf = (quarters: number) => Math.max(0, Math.round(quarters * SCORE_QUARTER));
  // Sixteen channels, so that what is written twice at one place does not end what is written there once.
  const busy = new Map<number, number>();
  const rows: { tick: number; status: number; pitch: number; value: number }[] = [];
  for (let row = 0; row < length; row++) {
    const start = tickOf(at[row]);
    const end = Math.max(start + 1, tickOf(at[row] + lengths[row]));
    let channel = 0;
    while (channel < 15 && (busy.get((channel << 7) | pitch[row]) ?? 0) > start) channel++;
    busy.set((channel << 7) | pitch[row], end);
    const value = Math.min(127, Math.max(1, Math.round(velocity[row])));
    rows.push({ tick: start, status: 0x90 | channel, pitch: pitch[row], value });
    rows.push({ tick: end, status: 0x80 | channel, pitch: pitch[row], value: 64 });
  }
  // What ends at a tick ends before what begins there.
  rows.sort((a, b) => a.tick - b.tick || (a.status & 0xf0) - (b.status & 0xf0));
  for (const { tick, status, pitch: key, value } of rows) builder.add(tick, status, key, value);
  const content = {
    name,
    division: { kind: 'metrical' as const, ticksPerQuarter: SCORE_QUARTER },
    tempos: [],
    meters: meters.map(({ at: quarter, numerator, denominator }) => ({
      tick: tickOf(quarter),
      numerator,
      denominator,
    })),
    events: builder.build(),
    endTick: rows.at(-1)?.tick ?? 0,
  };
  return restoreTake({ key: keyOf(content), ...content });
}
