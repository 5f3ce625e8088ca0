import {
  PLAIN_INPUT_MAP,
  activePart,
  createInputMapper,
  itemOf,
  type ChannelMessage,
  type InputMapper,
  type Part,
} from '@ordle/core';
import { transport } from '@/sound/transport';
import { selectDocument } from '@/state/sessionSlice';
import { store } from '@/state/store';
import { outputNamed } from './devices';
import { letGoInputs, onArrival } from './inputs';
import { recordSettings, recordingPlace } from './settings';

/** A part that sounds what is played, as it was when it was last looked at. */
interface Sounding {
  part: Part;
  slot: number;
  mapper: InputMapper;
}

let sounding: Sounding[] = [];

/** The parts that what is played goes to: the active one, and those that are armed with it. */
function follow(): void {
  const state = store.getState();
  const session = selectDocument(state);
  if (!session) return letGoAll();
  const active = activePart(session, state.view.partId);
  const ids = [...new Set([...(active ? [active.id] : []), ...recordingPlace().also])];
  const gone = sounding.filter(({ part }) => !ids.includes(part.id));
  gone.forEach(release);
  sounding = ids.flatMap((id): Sounding[] => {
    const part = itemOf(session.parts, id);
    if (!part) return [];
    const known = sounding.find((each) => each.part.id === id);
    const map = part.input ?? PLAIN_INPUT_MAP;
    const slot = session.parts.order.indexOf(id);
    if (known && known.slot === slot) {
      if (known.part !== part) known.mapper.setMap(map, part.channel - 1);
      return [{ ...known, part }];
    }
    if (known) release(known);
    return [{ part, slot, mapper: createInputMapper(map, part.channel - 1) }];
  });
}

function sound({ part, slot }: Sounding, { status, data1, data2 }: ChannelMessage): void {
  const { output } = recordSettings();
  const device = output === null ? null : outputNamed(output);
  const kind = status & 0xf0;
  if (device) device.send(kind === 0xc0 || kind === 0xd0 ? [status, data1] : [status, data1, data2]);
  else {
    const { program, drums } = part.sound;
    transport.live({ slot, program, drums, kind, data1, data2 });
  }
}

const release = (each: Sounding): void => each.mapper.release().forEach((message) => sound(each, message));

function letGoAll(): void {
  sounding.forEach(release);
  sounding = [];
}

/** Sounds what is played, in the handler's own task, until the returned function is called. */
export function soundLive(): () => void {
  follow();
  const stopFollowing = store.subscribe(follow);
  const stopHearing = onArrival((source, message) => {
    for (const each of sounding) {
      const wanted = each.part.input?.source ?? null;
      if (wanted !== null && wanted !== source.id) continue;
      const mapped = each.mapper.map(message);
      if (mapped) sound(each, mapped);
    }
  });
  return () => {
    stopHearing();
    stopFollowing();
    letGoInputs();
    letGoAll();
    transport.letGo();
  };
}

/** Ends everything that sounds: keys, pedals, and the music with them. */
export function panic(): void {
  letGoInputs();
  sounding.forEach(release);
  transport.letGo();
  const { output } = recordSettings();
  const device = output === null ? null : outputNamed(output);
  // All sound off, and all notes off (MIDI 1.0, channel modes).
  for (let channel = 0; device && channel < 16; channel++) {
    device.send([0xb0 | channel, 120, 0]);
    device.send([0xb0 | channel, 123, 0]);
  }
}
