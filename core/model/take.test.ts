import fc from 'fast-check';
import { inspectMidi, pickEvents, readMidi, writeMidi } from '../midi';
import { eventLines, fileOfNotes, trackOf, type RawEvent } from '../testing/files';
import { contentKey, fileOfTake, keepsItsKey, restoreTake, takesOfFile, type StoredTake } from '.';

const text = (words: string) => [...Buffer.from(words)];
const TIME: RawEvent[] = [
  [0, 0xff, 0x51, 0, [0x08, 0x7a, 0x23]],
  [0, 0xff, 0x58, 0, [3, 2, 24, 8]],
];

const takeOf = (raw: RawEvent[]) => ({
  name: '',
  division: { kind: 'metrical' as const, ticksPerQuarter: 480 },
  tempos: [],
  meters: [],
  endTick: 480,
  events: trackOf(raw).events,
});

describe('content keys', () => {
  const two: RawEvent[] = [
    [0, 0xff, 1, 0, text('A')],
    [480, 0xff, 1, 0, text('B')],
  ];

  it('tell takes apart that differ only in which event has which text', () => {
    const take = takeOf(two);
    const swapped = { ...take, events: pickEvents(take.events, [1, 0], take.events.tick) };
    const joined = takeOf([
      [0, 0xff, 1, 0, text('AB')],
      [480, 0xff, 1, 0, []],
    ]);
    expect(new Set([take, swapped, joined].map(contentKey)).size).toBe(3);
  });

  it('do not depend on how the events lie in memory', () => {
    const take = takeOf(two);
    const spare = trackOf([[0, 0xff, 1, 0, text('unused')], ...two]).events;
    expect(contentKey({ ...take, events: pickEvents(spare, [1, 2]) })).toBe(contentKey(take));
  });

  it('carry the number of their formula, and find every change of a stored take', () => {
    const [take] = takesOfFile(fileOfNotes([[0, 10, 60, 80]], 480, two));
    expect(take.key).toMatch(/^2:[0-9a-f]{64}$/);
    expect(keepsItsKey(take)).toBe(true);
    fc.assert(
      fc.property(fc.constantFrom('tick', 'status', 'data1', 'data2', 'bytes'), fc.nat(), (name, at) => {
        const column = take.events[name].slice();
        column[at % column.length] += 1;
        expect(keepsItsKey({ ...take, events: { ...take.events, [name]: column } })).toBe(false);
      }),
    );
    const cut = { ...take.events, length: 0 };
    expect(keepsItsKey({ ...take, events: cut })).toBe(false);
    expect(keepsItsKey({ ...take, events: undefined } as unknown as StoredTake)).toBe(false);
    expect(keepsItsKey({ key: take.key } as StoredTake)).toBe(false);
  });
});

describe('a take as a file of its own', () => {
  it('carries the tempo and meter of the file it came from', () => {
    const file = readMidi(
      writeMidi({
        format: 1,
        division: { kind: 'metrical', ticksPerQuarter: 96 },
        tracks: [trackOf(TIME), fileOfNotes([[10, 50, 64, 90]]).tracks[0]],
      }),
    ).file;
    const [conductor, take] = takesOfFile(file);
    const rescued = inspectMidi(readMidi(writeMidi(fileOfTake(take))));
    expect(rescued).toMatchObject({
      division: 96,
      notes: 1,
      repairs: [],
      tempos: [{ tick: 0, bpm: 108 }],
      meters: [{ tick: 0, numerator: 3, denominator: 4 }],
    });
    // The conductor's own track holds its time already and comes back as it was.
    const alone = readMidi(writeMidi(fileOfTake(conductor))).file;
    expect(alone.tracks.map(({ events }) => eventLines(events))).toEqual([eventLines(file.tracks[0].events)]);
    expect(restoreTake(take).notes.length).toBe(1);
  });
});
