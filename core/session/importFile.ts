import { META, DRUM_CHANNEL, payloadOf, decodeText, programName, type MidiFile } from '../midi';
import type { Part, Segment, Session, TakeReference } from './session';
import { SESSION_VERSION } from './session';
import { takesOfFile, type Take } from '../model';

/** Number of inks a part may have. */
const INKS = 8;

/** A file made into a session: the document, and the takes it refers to. */
export interface ImportedFile {
  session: Session;
  takes: Take[];
}

/**
 * A session from a file: one part for each channel of each track, tempo and meter from the file, every event kept.
 * `newId` gives a fresh identifier each time it is called; `now` is in milliseconds since 1970.
 */
export function sessionOfFile(file: MidiFile, name: string, newId: () => string, now: number): ImportedFile {
  const takes = takesOfFile(file);
  const references = referTo(takes, 0);
  const first = takes[0];
  const leads = file.format !== 2 && first !== undefined;
  const parts = partsOfTakes(takes, { leads, joined: false, firstInk: 0 }, newId);
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
    takes: references,
    conductor: leads ? { take: first.key, events: channelsOf(first).length === 0 ? 'all' : 'timed' } : null,
    parts,
    nextNoteId: references.reduce((sum, reference) => sum + reference.noteCount, 0),
  };
  return { session, takes };
}

/** What a file adds to a session that is already there; the session's own tempo, meter and division stay. */
export interface JoinedFile {
  takes: Take[];
  references: TakeReference[];
  parts: Part[];
}

/** The parts and takes of a file as additions to `session`. */
export function joinFile(session: Session, file: MidiFile, newId: () => string): JoinedFile {
  const takes = takesOfFile(file);
  const known = new Set(session.takes.map((take) => take.key));
  return {
    takes,
    references: referTo(
      takes.filter(({ key }) => !known.has(key)),
      session.nextNoteId,
    ),
    parts: partsOfTakes(
      takes,
      { leads: file.format !== 2, joined: true, firstInk: session.parts.length },
      newId,
    ),
  };
}

/** References with note ids handed out one take after the other; equal takes share one reference. */
export function referTo(takes: readonly Take[], firstNoteId: number): TakeReference[] {
  const references: TakeReference[] = [];
  const known = new Set<string>();
  let next = firstNoteId;
  for (const take of takes) {
    if (known.has(take.key)) continue;
    known.add(take.key);
    references.push({ key: take.key, name: take.name, firstNoteId: next, noteCount: take.notes.length });
    next += take.notes.length;
  }
  return references;
}

interface PartRules {
  /** The first take carries tempo and meter, so it is the conductor and makes no part unless it has channels. */
  leads: boolean;
  joined: boolean;
  firstInk: number;
}

function partsOfTakes(takes: readonly Take[], rules: PartRules, newId: () => string): Part[] {
  const parts: Part[] = [];
  takes.forEach((take, index) => {
    const channels = channelsOf(take);
    const conducts = rules.leads && index === 0;
    if (conducts && channels.length === 0) return;
    const wanted: (number | null)[] = channels.length === 0 ? [null] : channels;
    wanted.forEach((channel, place) => {
      const rest = place > 0 ? 'none' : conducts || rules.joined ? 'untimed' : 'all';
      const segment: Segment = { take: take.key, channel, from: 0, to: null, at: 0, rest };
      const ink = (rules.firstInk + parts.length) % INKS;
      parts.push(newPart(take, segment, wanted.length > 1, ink, newId()));
    });
  });
  return parts;
}

function newPart(take: Take, segment: Segment, shared: boolean, ink: number, id: string): Part {
  const channel = segment.channel ?? 1;
  const drums = channel - 1 === DRUM_CHANNEL;
  const program = firstProgram(take, channel - 1);
  const sound = drums ? 'Drums' : programName(program);
  const instrument = shared ? sound : take.name.trim() || instrumentName(take) || sound;
  return {
    id,
    name: instrument.slice(0, 200),
    ink,
    channel,
    sound: { program, drums, chosen: false },
    rechannel: false,
    lockedTo: 'beats',
    layers: [[segment]],
    steps: [],
    folded: [],
    muted: false,
    soloed: false,
  };
}

/** Channels (1-16) that any event of the take uses. */
export function channelsOf(take: Take): number[] {
  const seen = new Set<number>();
  const { status, length } = take.events;
  for (let row = 0; row < length; row++) if (status[row] < 0xf0) seen.add((status[row] & 15) + 1);
  return [...seen].sort((a, b) => a - b);
}

function firstProgram({ events }: Take, channel: number): number {
  for (let row = 0; row < events.length; row++)
    if (events.status[row] === (0xc0 | channel)) return events.data1[row];
  return 0;
}

const META_INSTRUMENT_NAME = 0x04;

function instrumentName({ events }: Take): string {
  for (let row = 0; row < events.length; row++) {
    if (events.status[row] === META && events.data1[row] === META_INSTRUMENT_NAME) {
      return decodeText(payloadOf(events, row)).trim();
    }
  }
  return '';
}
