import { playedStretches, trimmed, type PlayedStretch, type RememberedMessage } from '@ordle/core';
import { z } from 'zod';
import { appendPlayed, playedLately } from '@/storage/recordings';
import { createSmallStore } from '@/ui/smallStore';
import { onArrival } from './inputs';
import { isMessage, packRows, packedRows } from './packedRows';
import { runningMusic, watchMusic, type MusicThatRan } from './music';

/** What was played lately on one input: stamps in ms on the clock of this page (below 0: before it was opened). */
export interface Memory {
  input: string;
  messages: RememberedMessage[];
}

const STORE_EVERY_MS = 1000;
/** Blocks of an input that are kept in storage: one a second in which anything was played, for twenty minutes. */
const MOST_BLOCKS = 1300;

const memories = new Map<string, Memory>();
const runs = new Map<number, MusicThatRan>();
const changed = createSmallStore(0);
const waiting = new Map<string, RememberedMessage[]>();
const blocks = new Map<string, number>();

export const useMemoryChange = changed.useValue;

/** The music a remembered message was played to; null where none ran. */
export const musicOf = (run: number | null): MusicThatRan | null =>
  run === null ? null : (runs.get(run) ?? null);

/** Stretches of what was played, of all inputs, newest last. */
export function stretchesPlayed(): (PlayedStretch & { input: string })[] {
  return [...memories.values()]
    .flatMap(({ input, messages }) => playedStretches(messages).map((stretch) => ({ ...stretch, input })))
    .filter(({ notes }) => notes > 0)
    .sort((a, b) => a.to - b.to);
}

/** The messages of a stretch. */
export const messagesIn = (stretch: PlayedStretch & { input: string }): readonly RememberedMessage[] =>
  memories.get(stretch.input)?.messages.slice(stretch.first, stretch.end) ?? [];

function remember(input: string, message: RememberedMessage): void {
  const known = memories.get(input);
  if (known) known.messages.push(message);
  else memories.set(input, { input, messages: [message] });
  waiting.set(input, waiting.get(input) ?? []);
  waiting.get(input)?.push(message);
}

const rangeSchema = z.object({ from: z.number(), to: z.number() });
const blockSchema = z.object({
  rows: packedRows(6),
  runs: z.array(
    z.object({
      id: z.number(),
      session: z.string(),
      from: z.number(),
      loop: rangeSchema.nullable(),
      speed: z.number().min(0.25).max(1),
    }),
  ),
});

/**
 * Stores what came since the last time, its stamps on the world's clock: they have to mean something to the next page.
 */
function store(): void {
  for (const memory of memories.values()) memory.messages = [...trimmed(memory.messages)];
  for (const [input, messages] of waiting) {
    if (messages.length === 0) continue;
    const block = Math.max(Date.now(), (blocks.get(input) ?? 0) + 1);
    blocks.set(input, block);
    const content: z.input<typeof blockSchema> = {
      rows: packRows(
        messages.map(({ stamp, status, data1, data2, at, run }) => [
          performance.timeOrigin + stamp,
          status,
          data1,
          data2,
          at ?? NaN,
          run ?? NaN,
        ]),
      ),
      runs: [...new Set(messages.map(({ run }) => run))].flatMap((run) => musicOf(run) ?? []),
    };
    waiting.set(input, []);
    void appendPlayed({ input, block, content }, Date.now() - MOST_BLOCKS * 1000).catch(() => undefined);
  }
}

/** Takes up what an earlier page stored. What cannot be read of it is left out. */
async function recall(): Promise<void> {
  const records = await playedLately().catch(() => []);
  const earlier = new Map<string, RememberedMessage[]>();
  for (const { input, content } of records) {
    const block = blockSchema.safeParse(content).data;
    if (!block) continue;
    for (const run of block.runs) runs.set(run.id, run);
    earlier.set(input, [
      ...(earlier.get(input) ?? []),
      ...block.rows.flatMap(([stamp, status, data1, data2, at, run]): RememberedMessage[] =>
        Number.isFinite(stamp) && isMessage(status, data1, data2)
          ? [
              {
                stamp: stamp - performance.timeOrigin,
                status,
                data1,
                data2,
                at: Number.isNaN(at) ? null : at,
                run: Number.isNaN(run) ? null : run,
              },
            ]
          : [],
      ),
    ]);
  }
  for (const [input, messages] of earlier) {
    const since = memories.get(input)?.messages ?? [];
    memories.set(input, { input, messages: [...trimmed([...messages, ...since])] });
  }
  changed.set(changed.get() + 1);
}

let isOn = false;

/** Remembers everything that arrives from now on, in whatever place of the app; once. */
export function keepMemory(): void {
  if (isOn) return;
  isOn = true;
  watchMusic();
  void recall();
  onArrival((source, message) => {
    const music = runningMusic(message.stamp);
    if (music) runs.set(music.ran.id, music.ran);
    const remembered = { ...message, at: music?.at ?? null, run: music?.ran.id ?? null };
    remember(source.id, remembered);
  });
  setInterval(() => {
    if ([...waiting.values()].some((list) => list.length > 0)) changed.set(changed.get() + 1);
    store();
  }, STORE_EVERY_MS);
  window.addEventListener('pagehide', store);
}
