import { encodeText, readMidi, writeMidi } from '../midi';
import type { StoredTake, Take } from '../model';
import { sessionOfFile, type Session } from '../session';
import { trackOf, type RawEvent } from './files';

const TEMPO: RawEvent = [0, 0xff, 0x51, 0, [7, 0xa1, 0x20]];
const METER: RawEvent = [0, 0xff, 0x58, 0, [4, 2, 24, 8]];

/**
 * The bytes of a file of two tracks, 480 ticks a quarter: tempo, meter and markers, and eight bars of a stroke each.
 */
export function conductedFile(markers: readonly [tick: number, name: string][]): { bytes: Uint8Array } {
  const conducting: RawEvent[] = [
    TEMPO,
    METER,
    ...markers.map(([tick, name]): RawEvent => [tick, 0xff, 0x06, 0, [...encodeText(name)]]),
  ];
  const strokes = Array.from({ length: 8 }, (_, bar): RawEvent[] => [
    [bar * 1920, 0x90, 60 + bar, 90],
    [bar * 1920 + 480, 0x80, 60 + bar, 64],
  ]).flat();
  const bytes = writeMidi({
    format: 1,
    division: { kind: 'metrical', ticksPerQuarter: 480 },
    tracks: [trackOf(conducting), trackOf([[0, 0xff, 0x03, 0, [...encodeText('Piano')]], ...strokes])],
  });
  return { bytes };
}

/** The session of a file's bytes, with the way to its takes and how many notes they hold. */
export function sessionOf(bytes: Uint8Array) {
  let next = 0;
  const { session, takes: all } = sessionOfFile(readMidi(bytes).file, 'Quay', () => `id${next++}`, 0);
  const byKey = new Map(all.map((take): [string, Take] => [take.key, take]));
  return {
    session,
    takes: (key: string) => byKey.get(key) as Take,
    notes: all.reduce((sum, { notes }) => sum + notes.length, 0),
  };
}

/** The takes of a session as they are stored. */
export const storedTakesOf = (session: Session, takes: (key: string) => Take): StoredTake[] =>
  session.takes.order.map((id) => {
    const { key, name, division, tempos, meters, events, endTick } = takes(id);
    return { key, name, division, tempos, meters, events, endTick };
  });
