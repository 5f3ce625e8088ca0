import { DRUM_CHANNEL, META, decodeText, drumName, payloadOf, programName } from '../midi';
import type { Take } from '../model';

const META_INSTRUMENT_NAME = 0x04;

/** What tells a part of a take what it is: its channel (1-16), and whether others come from the same track. */
export interface PartOfTake {
  take: Take;
  channel: number;
  shared: boolean;
  /** Whether the name of its track is that of the whole music, as in a first track that conducts. */
  titled: boolean;
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
  if (channel - 1 !== DRUM_CHANNEL) return programName(firstProgram(take, channel - 1));
  return onlyPiece({ take, channel }) ?? KIT;
}

/** What a drum track is called that plays several pieces. */
const KIT = 'Drums';

/** The piece of the kit that is all a part plays; null where it plays several, or no drums. */
function onlyPiece({ take: { notes }, channel }: Pick<PartOfTake, 'take' | 'channel'>): string | null {
  if (channel - 1 !== DRUM_CHANNEL) return null;
  const pieces = new Set(notes.pitch.filter((_, row) => notes.channel[row] === DRUM_CHANNEL));
  const [only] = pieces;
  return pieces.size === 1 ? (drumName(only) ?? `note ${only}`) : null;
}

/**
 * The name a part gets when its file is brought in: that of its track, with what it sounds like where others share the
 * track; that alone where the track has no name or one for them all.
 */
export function nameOnImport(part: PartOfTake): string {
  const { take, shared, titled } = part;
  const given = take.name.trim() || instrumentName(take);
  const own = shared ? (titled ? '' : `${given}, ${soundName(part)}`) : given;
  return (given !== '' && own !== '' ? own : soundName(part)).slice(0, 180);
}

/**
 * Ways to tell parts of one name apart, the best first; of a part a way says nothing of (null) the name stays, as long
 * as it is one alone.
 */
const WAYS: readonly ((part: PartOfTake) => string | null)[] = [
  ({ take, channel }) => (channel - 1 === DRUM_CHANNEL ? KIT : programName(firstProgram(take, channel - 1))),
  onlyPiece,
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
      return new Set(words).size === words.length && !words.includes(name);
    });
    for (const index of way ? indices : []) {
      const word = way?.(parts[index]);
      if (word) names[index] = `${name}, ${word}`;
    }
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
export function isNameOnImport(name: string, part: Omit<PartOfTake, 'titled'>): boolean {
  const plain = NUMBERED.exec(name)?.[1] ?? name;
  const { take, channel, shared } = part;
  const whole: PartOfTake = { ...part, titled: false };
  const bases = [nameOnImport(whole), nameOnImport({ ...part, titled: true })];
  // Earlier versions called what has no notes by a sound, and a piece of a kit a kit.
  if (shared || take.name.trim() === '') bases.push(programName(firstProgram(take, channel - 1)), KIT);
  return bases.some((base) => plain === base || WAYS.some((way) => plain === `${base}, ${way(whole)}`));
}
