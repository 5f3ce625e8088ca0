import { DRUM_CHANNEL, type MidiFile } from '../midi';
import { FIRST_DRAWN_ID, takesOfFile, type KeyOfTrack, type Take } from '../model';
import { emptyPart } from './emptyPart';
import { listOf, orderedOf, type Ordered } from './ordered';
import { firstProgram, namesOnImport, type PartOfTake } from './partNames';
import {
  SESSION_VERSION,
  type Layer,
  type Part,
  type Piece,
  type Session,
  type TakeReference,
} from './session';

/** Number of inks a part may have. */
const INKS = 8;

/** A file made into a session: the document, and the takes it refers to. */
export interface ImportedFile {
  session: Session;
  takes: Take[];
}

/**
 * A session from a file: one part for each channel of each track, tempo and meter from the file, every event kept.
 * `newId` gives a fresh identifier each time it is called; `now` is in milliseconds since 1970; `keyOf` the key of a
 * take, of its content without it.
 *
 * @public
 */
export function sessionOfFile(
  file: MidiFile,
  name: string,
  newId: () => string,
  now: number,
  keyOf?: KeyOfTrack,
): ImportedFile {
  const takes = takesOfFile(file, keyOf);
  const first = takes[0];
  const leads = file.format !== 2 && first !== undefined;
  const parts = partsOfTakes(takes, { leads, joined: false, firstInk: 0, firstPiece: 0, taken: [] }, newId);
  const session: Session = {
    ordle: 'session',
    version: SESSION_VERSION,
    id: newId(),
    name,
    createdAt: now,
    division: file.division,
    sourceFormat: file.format,
    tempos: first?.tempos ?? [],
    meters: first?.meters ?? [],
    takes: orderedOf(referencesTo(takes)),
    conductor: leads ? { take: first.key, events: channelsOf(first).length === 0 ? 'all' : 'timed' } : null,
    parts: orderedOf(parts),
    nextPiece: parts.length,
    nextNoteId: FIRST_DRAWN_ID,
  };
  return { session, takes };
}

/** What a file adds to a session that is already there; the session's own tempo, meter and division stay. */
export interface JoinedFile {
  takes: Take[];
  references: TakeReference[];
  parts: Part[];
  /** How many piece numbers the parts use, from the session's next one on. */
  pieces: number;
}

/** The parts and takes of a file as additions to `session`. */
export function joinFile(session: Session, file: MidiFile, newId: () => string): JoinedFile {
  const takes = takesOfFile(file);
  const rules: PartRules = {
    leads: file.format !== 2,
    joined: true,
    firstInk: session.parts.order.length,
    firstPiece: session.nextPiece,
    taken: listOf(session.parts).map(({ name }) => name),
  };
  const recording = newId();
  const parts = partsOfTakes(takes, rules, newId).map((part) => ({ ...part, recording }));
  const references = referencesTo(takes).filter(({ id }) => !Object.hasOwn(session.takes.byId, id));
  return { takes, references, parts, pieces: parts.length };
}

/** References to takes; equal ones share one. */
export function referencesTo(takes: readonly Take[]): TakeReference[] {
  const known = new Map<string, TakeReference>();
  for (const { key, name, notes } of takes)
    if (!known.has(key)) known.set(key, { id: key, name, noteCount: notes.length });
  return [...known.values()];
}

/** One layer of pieces. */
export function layerOf(pieces: readonly Piece[], index = 0): Layer {
  return { id: `layer${index}`, name: `Layer ${index + 1}`, pieces: orderedOf(pieces) };
}

/** What a part is made of when it stands on one whole piece. */
export const layersOfOne = (piece: Piece): Ordered<Layer> => orderedOf([layerOf([piece])]);

/**
 * The channels of a take (1-16) that make a part each, in order; one part of no channel where it has none, and none
 * where it only conducts.
 */
export function channelsOfParts(take: Take, conducts: boolean): (number | null)[] {
  const channels = channelsOf(take);
  if (channels.length === 0) return conducts ? [] : [null];
  return channels;
}

interface PartRules {
  /** The first take carries tempo and meter, so it is the conductor and makes no part unless it has channels. */
  leads: boolean;
  joined: boolean;
  firstInk: number;
  firstPiece: number;
  /** Names of the parts that are there already. */
  taken: readonly string[];
}

function partsOfTakes(takes: readonly Take[], rules: PartRules, newId: () => string): Part[] {
  const parts: Part[] = [];
  const origins: PartOfTake[] = [];
  takes.forEach((take, index) => {
    const conducts = rules.leads && index === 0;
    const wanted = channelsOfParts(take, conducts);
    wanted.forEach((channel, place) => {
      const rest = place > 0 ? 'none' : conducts || rules.joined ? 'untimed' : 'all';
      const number = rules.firstPiece + parts.length;
      const split = channel === null ? {} : { split: { by: 'channel', label: `ch${channel}` } };
      const piece: Piece = {
        id: `piece${number}`,
        number,
        source: { take: take.key },
        ...split,
        from: 0,
        to: null,
        at: 0,
        rest,
      };
      const ink = (rules.firstInk + parts.length) % INKS;
      const origin = { take, channel: channel ?? 1, shared: wanted.length > 1, titled: conducts };
      origins.push(origin);
      parts.push(newPart(origin, piece, ink, newId()));
    });
  });
  const names = namesOnImport(origins, rules.taken);
  return parts.map((part, index) => ({ ...part, name: names[index] }));
}

/** A part of a take; its name is found when all are there. */
function newPart({ take, channel }: PartOfTake, piece: Piece, ink: number, id: string): Part {
  const drums = channel - 1 === DRUM_CHANNEL;
  const program = firstProgram(take, channel - 1);
  const sound = { program, drums, chosen: false };
  return emptyPart({ id, name: '', ink, channel, sound, layers: layersOfOne(piece) });
}

/** Channels (1-16) that any event of the take uses. */
export function channelsOf(take: Take): number[] {
  const seen = new Uint8Array(16);
  const { status, length } = take.events;
  for (let row = 0; row < length; row++) if (status[row] < 0xf0) seen[status[row] & 15] = 1;
  return Array.from(seen.keys(), (channel) => channel + 1).filter((channel) => seen[channel - 1] === 1);
}
