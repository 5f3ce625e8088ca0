import { trackName, type MidiFile } from '../midi';
import type { Take } from '../model';
import {
  channelsOf,
  joinFile,
  otherTempoOfFile,
  type OtherTempo,
  type Part,
  type Session,
  type TakeReference,
} from '../session';

/** A take to be added to a part; its number is given when it is put in. */
export interface NewTake {
  name: string;
  take: string;
  /** The channel of the take that is meant, where it has several. */
  channel: number | null;
}

/** What a file brings a part. */
export interface FileTakes {
  references: TakeReference[];
  found: NewTake[];
  /** Where the file is of another tempo and is laid by its beats: both. */
  otherTempo: OtherTempo | null;
}

/**
 * The performances of a file that a part may choose from: tracks of its name, else those of its channel, else all
 * that hold notes. One of several channels gives its share of the part's channel, or of its first.
 */
export function takesForPart(
  part: Part,
  session: Session,
  fileName: string,
  file: MidiFile,
  newId: () => string,
): FileTakes & { takes: Take[] } {
  const { takes, references } = joinFile(session, file, newId);
  const played = takes.filter(({ notes }) => notes.length > 0);
  const ofName = played.filter(({ events }) => trackName(events).trim() === part.name);
  const ofChannel = played.filter((take) => channelsOf(take).includes(part.channel));
  const wanted = ofName.length > 0 ? ofName : ofChannel.length > 0 ? ofChannel : played;
  const stem = fileName.replace(/\.(mid|midi|kar|smf|musicxml|mxl|xml)$/i, '');
  const keys = new Set(wanted.map(({ key }) => key));
  return {
    takes: wanted,
    references: references.filter(({ id }) => keys.has(id)),
    otherTempo: part.lockedTo === 'beats' ? otherTempoOfFile(file.division, takes, session) : null,
    found: wanted.map((take) => {
      const channels = channelsOf(take);
      const channel =
        channels.length < 2 ? null : channels.includes(part.channel) ? part.channel : channels[0];
      const own = trackName(take.events).trim();
      return { name: wanted.length > 1 && own !== '' ? `${stem}, ${own}` : stem, take: take.key, channel };
    }),
  };
}
