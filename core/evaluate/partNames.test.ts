import { encodeText } from '../midi';
import type { Take } from '../model';
import { listOf, sessionOfFile } from '../session';
import { trackOf, type RawEvent } from '../testing/files';
import { nameToWrite } from '.';

const named = (name: string): RawEvent[] => (name ? [[0, 0xff, 3, 0, [...encodeText(name)]]] : []);
const strokes = (...all: [channel: number, pitch: number][]): RawEvent[] => [
  ...all.map(([channel, pitch]): RawEvent => [0, 0x90 | channel, pitch, 80]),
  ...all.map(([channel, pitch]): RawEvent => [400, 0x80 | channel, pitch, 0]),
];

/** What the parts of a file of these tracks are called, and the track names they are written with. */
function namesOf(tracks: RawEvent[][]): [string, string | null][] {
  let next = 0;
  const division = { kind: 'metrical', ticksPerQuarter: 480 } as const;
  const file = { format: 1, division, tracks: tracks.map((events) => trackOf(events)) } as const;
  const { session, takes } = sessionOfFile(file, 'Quay', () => `id${next++}`, 0);
  const takeOf = (key: string) => takes.find((take) => take.key === key) as Take;
  return listOf(session.parts).map((part) => [part.name, nameToWrite(part, takeOf)]);
}

describe('names of parts', () => {
  it('keep that of their track, also where several share it, and are written as the file had them', () => {
    expect(
      namesOf([
        named('Evening'),
        [...named('Bells'), ...strokes([0, 60])],
        [...named('Band'), ...strokes([1, 60], [9, 38])],
      ]),
    ).toEqual([
      ['Bells', 'Bells'],
      ['Band, Acoustic Grand Piano', null],
      ['Band, Acoustic Snare', null],
    ]);
  });

  it('of drum tracks are those of their piece, where they play one', () => {
    expect(
      namesOf([
        [],
        strokes([9, 36]),
        strokes([9, 38]),
        strokes([9, 42], [9, 46]),
        [...named('Kit'), ...strokes([9, 49])],
        [...named('Kit'), ...strokes([9, 42], [9, 46])],
      ]),
    ).toEqual([
      ['Bass Drum 1', null],
      ['Acoustic Snare', null],
      ['Drums', null],
      ['Kit, Crash Cymbal 1', 'Kit'],
      ['Kit', 'Kit'],
    ]);
  });
});
