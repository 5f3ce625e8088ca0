import {
  PLAIN_INPUT_MAP,
  activePart,
  createInputMapper,
  createRecording,
  isNoteOn,
  itemOf,
  listOf,
  nextPart,
  takesOfPart,
  timelineOf,
  type Part,
  type PlayedStretch,
  type RememberedMessage,
  type Session,
} from '@ordle/core';
import { toast } from 'sonner';
import { selectDocument } from '@/state/sessionSlice';
import { store } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { messagesIn, musicOf, stretchesPlayed } from './memory';
import { putRecordings, type Finished, type PutIn } from './putRecording';
import { inputNamed } from './inputs';
import { latencyOf, showPut } from './recorder';
import { recordSettings } from './settings';

/** Where a part has anything laid. */
const holdsSomething = (part: Part): boolean =>
  listOf(part.layers).some(({ pieces }) => pieces.order.length > 0);

type Stretch = PlayedStretch & { input: string };

/** From this share of a stretch on it counts as played to the music; what came before that began is left out then. */
const TO_MUSIC = 1 / 3;

/** Of a stretch what was played to the run of music that most of it was played to; null where it was played freely. */
function playedTo(messages: readonly RememberedMessage[], session: Session) {
  const counts = new Map<number, number>();
  for (const { run } of messages) if (run !== null) counts.set(run, (counts.get(run) ?? 0) + 1);
  const [run, count] = [...counts].sort((a, b) => b[1] - a[1])[0] ?? [null, 0];
  const music = musicOf(run);
  if (music?.session !== session.id || count < messages.length * TO_MUSIC) return null;
  return { music, own: messages.filter((each) => each.run === run) };
}

/**
 * What becomes of a stretch that was played: where music of this session ran, a take at its places, a loop in passes;
 * else a part of its own in real time, its first note on the first bar line.
 */
function finishedFrom(session: Session, stretch: Stretch): Finished | null {
  const part = activePart(session, store.getState().view.partId) ?? null;
  const timeline = timelineOf(session);
  const messages = messagesIn(stretch);
  const latencyMs = latencyOf(stretch.input);
  const common = {
    mode: 'take' as const,
    lanes: null,
    input: inputNamed(stretch.input)?.name ?? 'an input that is not there now',
    latencyMs,
    slips: 0,
  };
  const mapper = createInputMapper(part?.input ?? PLAIN_INPUT_MAP, (part?.channel ?? 1) - 1);
  const placed = playedTo(messages, session);
  if (placed && part) {
    const { music, own } = placed;
    const first = own[0].at ?? 0;
    const late = (latencyMs / 1000) * music.speed;
    const from = music.loop ? music.loop.from : createPlace(session, Math.max(0, first - late));
    const recording = createRecording(session, timeline, {
      from,
      loop: music.loop,
      punch: null,
      speed: music.speed,
    });
    let end = 0;
    for (const message of own) {
      const mapped = mapper.map(message);
      if (!mapped || message.at === null) continue;
      recording.add(message.at - late, mapped);
      end = message.at - late;
    }
    return { ...common, partId: part.id, recording, end };
  }
  const begin = messages.find(isNoteOn)?.stamp ?? messages[0].stamp;
  const isFree = part !== null && !holdsSomething(part);
  const newPart: Part = isFree
    ? { ...part, lockedTo: 'seconds' }
    : {
        ...nextPart(session, crypto.randomUUID()),
        ...(part && { sound: part.sound, channel: part.channel, input: part.input }),
        lockedTo: 'seconds',
      };
  const recording = createRecording(session, timeline, { from: 0, loop: null, punch: null, speed: 1 });
  let end = 0;
  for (const message of messages) {
    const mapped = mapper.map(message);
    if (!mapped) continue;
    end = (message.stamp - begin) / 1000;
    recording.add(end, mapped);
  }
  return { ...common, partId: newPart.id, recording, end, newPart };
}

/** The start of the bar a second lies in, in ticks. */
function createPlace(session: Session, second: number): number {
  const timeline = timelineOf(session);
  const run = createRecording(session, timeline, { from: 0, loop: null, punch: null, speed: 1 }).run;
  return Math.max(0, run.at(second).tick);
}

/**
 * Makes a take of what was just played, or of a stretch chosen; null where there was nothing, or it was kept before.
 */
export async function keepPlayed(chosen?: Stretch): Promise<PutIn | null> {
  const session = selectDocument(store.getState());
  const stretch = chosen ?? stretchesPlayed().at(-1);
  if (!session) return null;
  if (!stretch) {
    toast('Nothing was played in the last twenty minutes.');
    return null;
  }
  const finished = finishedFrom(session, stretch);
  if (!finished) return null;
  const before = selectDocument(store.getState());
  const known = keptBefore.get(keyOf(session, stretch));
  if (known && before && isStillThere(before, known)) {
    toast('That was kept already.');
    return null;
  }
  const put = await putRecordings(store.dispatch, session, [finished], 'Kept');
  if (put) {
    keptBefore.set(keyOf(session, stretch), put.partIds[0]);
    store.dispatch(viewChanged({ partId: put.partIds[0] }));
    showPut(put);
  }
  return put;
}

/** Which stretches were kept, and in which part. */
const keptBefore = new Map<string, string>();

const keyOf = ({ id }: Session, { input, from, to }: Stretch): string =>
  `${id} ${input} ${from.toFixed(3)} ${to.toFixed(3)} ${recordSettings().latency[input] ?? 0}`;

function isStillThere(session: Session, partId: string): boolean {
  const part = itemOf(session.parts, partId);
  return part !== undefined && takesOfPart(part, session).length > 0;
}
