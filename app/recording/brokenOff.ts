import {
  RECORD_MODES,
  createRecording,
  itemOf,
  timelineOf,
  type ChannelMessage,
  type RecordMode,
  type Session,
} from '@ordle/core';
import { z } from 'zod';
import { appendRecording, dropRecording, recordingsOf } from '@/storage/recordings';
import { isMessage, packRows, packedRows } from './packedRows';
import type { Finished } from './putRecording';

/**
 * What is stored of a recording while it runs: how it is made, where the music is, and the messages since the last
 * time.
 */
export interface Running {
  id: string;
  session: string;
  from: number;
  loop: { from: number; to: number } | null;
  punch: { from: number; to: number } | null;
  speed: number;
  mode: RecordMode;
  lanes: readonly string[] | null;
  second: number;
  parts: { partId: string; name: string; rows: number[][] }[];
}

type Bytes = [number, number, number];

const range = z.object({ from: z.number(), to: z.number() }).nullable();
const runningSchema = z.object({
  id: z.string(),
  session: z.string(),
  from: z.number().min(0),
  loop: range,
  punch: range,
  speed: z.number().min(0.25).max(1),
  mode: z.enum(RECORD_MODES),
  lanes: z.array(z.string()).nullable(),
  second: z.number(),
  parts: z.array(
    z.object({
      partId: z.string(),
      name: z.string(),
      rows: packedRows(4).transform((rows) =>
        rows.filter(([second, ...message]) => Number.isFinite(second) && isMessage(...(message as Bytes))),
      ),
    }),
  ),
});

/** A row of what is stored: the second of the music, and the message. */
export const rowOf = (second: number, { status, data1, data2 }: ChannelMessage): number[] => [
  second,
  status,
  data1,
  data2,
];

let block = 0;

/** Appends what was played since the last time. What cannot be stored is not told: the recording itself goes on. */
export async function appendBrokenOff(running: Running): Promise<void> {
  await appendRecording({
    id: running.id,
    block: block++,
    session: running.session,
    content: {
      ...running,
      parts: running.parts.map((part) => ({ ...part, rows: packRows(part.rows) })),
    },
  }).catch(() => undefined);
}

export const dropBrokenOff = (id: string): Promise<void> => dropRecording(id).catch(() => undefined);

/** A recording that was broken off: by a crash, or a tab that was closed. */
export interface BrokenOff {
  id: string;
  names: string[];
  /** How long was recorded, in seconds of the music. */
  seconds: number;
  notes: number;
  blocks: Running[];
}

/** Recordings into a session that were broken off, `except` the one that runs. */
export async function brokenOffIn(session: Pick<Session, 'id'>, except: string | null): Promise<BrokenOff[]> {
  const records = await recordingsOf(session.id).catch(() => []);
  const byId = new Map<string, Running[]>();
  for (const { id, content } of records) {
    const block = runningSchema.safeParse(content).data;
    if (block && id !== except) byId.set(id, [...(byId.get(id) ?? []), block]);
  }
  return [...byId].flatMap(([id, blocks]): BrokenOff[] => {
    const rows = blocks.flatMap(({ parts }) => parts.flatMap((part) => part.rows));
    const notes = rows.filter(([, status, , data2]) => status >> 4 === 9 && data2 > 0).length;
    if (rows.length === 0) {
      void dropBrokenOff(id);
      return [];
    }
    const first = rows.reduce((least, [second]) => Math.min(least, second), Infinity);
    const seconds = Math.max(...blocks.map(({ second }) => second)) - first;
    return [{ id, names: blocks[0].parts.map(({ name }) => name), seconds, notes, blocks }];
  });
}

/** What a recording that was broken off would have become. */
export function finishedOf({ blocks }: BrokenOff, session: Session): Finished[] {
  const [{ from, loop, punch, speed, mode, lanes, parts }] = blocks;
  const timeline = timelineOf(session);
  return parts.flatMap(({ partId }): Finished[] => {
    if (!itemOf(session.parts, partId)) return [];
    const recording = createRecording(session, timeline, { from, loop, punch, speed });
    let end = 0;
    for (const block of blocks) {
      end = Math.max(end, block.second);
      for (const part of block.parts)
        if (part.partId === partId)
          for (const [second, status, data1, data2] of part.rows)
            recording.add(second, { status, data1, data2 });
    }
    return [{ partId, recording, end, mode, lanes, input: 'broken off', latencyMs: 0, slips: 0 }];
  });
}
