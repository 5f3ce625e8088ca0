import { DRUM_CHANNEL, META, decodeText, drumName, payloadOf, programName } from '../midi';
import type { Take } from '../model';

const META_INSTRUMENT_NAME = 0x04;

/** What tells a part of a take what it is: its channel (1-16), and whether others come from the same track. */
export interface PartOfTake {
  take: Take;
  channel: number;
  shared: boolean;
}

/** The first program a take chooses on a channel (0-15); 0 where it chooses none. */
export function firstProgram({ events }: Take, channel: number): number {
  for (let row = 0; row < events.length; row++)
    if (events.status[row] === (0xc0 | channel)) return events.data1[row];
  return 0;
}

function instrumentName({ events }: Take): string {
  for (let row = 0; row < events.length; row++)
    if (events.status[row] === META && events.data1[row] === META_INSTRUMENT_NAME)
      return decodeText(payloadOf(events, row)).trim();
  return '';
}

/** What a part sounds like, or what it is when it has no notes. */
function soundName({ take, channel }: PartOfTake): string {
  const { notes, events } = take;
  if (!notes.channel.includes(channel - 1))
    return events.status.some((status) => status < 0xf0 && (status & 15) === channel - 1)
      ? 'Controllers'
      : 'Text';
  return channel - 1 === DRUM_CHANNEL ? 'Drums' : programName(firstProgram(take, channel - 1));
}

/** The name a part gets when its file is brought in: that of its track, or what it sounds like. */
export function nameOnImport(part: PartOfTake): string {
  const { take, shared } = part;
  const given = shared ? '' : take.name.trim() || instrumentName(take);
  return (given || soundName(part)).slice(0, 180);
}

/** Ways to tell parts of one name apart, the best first; a way that says nothing of a part gives null. */
const WAYS: readonly ((part: PartOfTake) => string | null)[] = [
  ({ take, channel }) => (channel - 1 === DRUM_CHANNEL ? null : programName(firstProgram(take, channel - 1))),
  ({ take, channel }) => {
    const pitches = new Set(take.notes.pitch.filter((_, row) => take.notes.channel[row] === channel - 1));
    const [only] = pitches;
    return channel - 1 === DRUM_CHANNEL && pitches.size === 1 ? (drumName(only) ?? `note ${only}`) : null;
  },
  ({ channel }) => `channel ${channel}`,
];

const NUMBERED = /^(.*), part \d+$/;

/**
 * Names for parts that are brought in together, no two alike: parts that would be called the same say what tells them
 * apart (their sound, their piece of the kit, their channel), or are counted. `taken` are names that are there
 * already.
 */
export function namesOnImport(parts: readonly PartOfTake[], taken: readonly string[] = []): string[] {
  const names = parts.map(nameOnImport);
  const alike = new Map<string, number[]>();
  names.forEach((name, index) => {
    const indices = alike.get(name);
    if (indices) indices.push(index);
    else alike.set(name, [index]);
  });
  for (const [name, indices] of alike) {
    if (indices.length === 1) continue;
    const way = WAYS.find((each) => {
      const words = indices.map((index) => each(parts[index]));
      return !words.includes(null) && new Set(words).size === words.length && !words.includes(name);
    });
    if (way) for (const index of indices) names[index] = `${name}, ${way(parts[index])}`;
  }
  const seen = new Set(taken);
  return names.map((name) => {
    let [unlike, count] = [name, 2];
    while (seen.has(unlike)) unlike = `${name}, part ${count++}`;
    seen.add(unlike);
    return unlike;
  });
}

/** Whether a name is one that a part gets when it is brought in, so that nobody gave it. */
export function isNameOnImport(name: string, part: PartOfTake): boolean {
  const plain = NUMBERED.exec(name)?.[1] ?? name;
  const base = nameOnImport(part);
  // Earlier versions called what has no notes by a sound.
  const { take, channel, shared } = part;
  const former = shared || take.name.trim() === '' ? programName(firstProgram(take, channel - 1)) : base;
  return plain === base || plain === former || WAYS.some((way) => plain === `${base}, ${way(part)}`);
}
