import { parse } from 'csv-parse/sync';
import fc from 'fast-check';
import { parseMidi } from 'midi-file';
import { mapItems } from '../session';
import { fileOfNotes, trackOf, type PlainNote, type RawEvent } from '../testing/files';
import { filesWritten, sourceOf, together } from '../testing/exporting';
import { csvOf, textField } from './csv';

const read = (bytes: Uint8Array): string[][] =>
  parse(Buffer.from(bytes), { record_delimiter: '\r\n' }) as string[][];

describe('tables', () => {
  it('give every text back to an independent reader; a formula is none any more', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(fc.string({ unit: 'grapheme' }), { minLength: 1 }), async (texts) => {
        const bytes = await together(
          csvOf(
            ['a', 'b'],
            texts.map((text) => `${textField(text)},1`),
          ),
        );
        const [, ...rows] = read(bytes);
        expect(rows.map(([text]) => text)).toEqual(
          texts.map((text) => (/^[=+\-@\t\r]/.test(text) ? `'${text}` : text)),
        );
      }),
    );
  });

  it('hold the notes as an independent reader finds them in the MIDI file', async () => {
    const anyNotes = fc.array(
      fc.record({ start: fc.nat(20000), length: fc.integer({ min: 1, max: 3000 }), pitch: fc.nat(127) }),
      { minLength: 1, maxLength: 40 },
    );
    await fc.assert(
      fc.asyncProperty(anyNotes, async (list) => {
        // One note of a pitch at a time: readers pair overlapping ones in ways of their own.
        const free = new Map<number, number>();
        const notes = [...list]
          .sort((a, b) => a.start - b.start)
          .flatMap(({ start, length, pitch }, at): PlainNote[] => {
            if (start < (free.get(pitch) ?? 0)) return [];
            free.set(pitch, start + length);
            return [[start, start + length, pitch, 1 + (at % 127)]];
          });
        const source = sourceOf(fileOfNotes(notes));
        const { 'Quay.csv': table } = await filesWritten(source, { format: 'csv', options: {} });
        const { 'Quay.mid': midi } = await filesWritten(source, { format: 'mid', options: {} });
        const [header, ...rows] = read(table);
        expect(header.join()).toBe(
          'part,channel,bar,beat,tick,startTick,lengthTicks,startSeconds,lengthSeconds,pitch,name,velocity,release',
        );
        const on = new Map<number, number[]>();
        const peer: number[][] = [];
        let tick = 0;
        for (const event of parseMidi(midi).tracks.flat()) {
          tick += event.deltaTime;
          if (event.type === 'noteOn') on.set(event.noteNumber, [tick, event.velocity]);
          if (event.type !== 'noteOff') continue;
          const [start, velocity] = on.get(event.noteNumber) ?? [NaN, NaN];
          peer.push([start, tick - start, event.noteNumber, velocity]);
        }
        peer.sort((a, b) => a[0] - b[0] || a[2] - b[2]);
        expect(rows.map((row) => [row[5], row[6], row[9], row[11]].map(Number))).toEqual(peer);
        for (const row of rows) {
          const [bar, beat, rest, start] = [row[2], row[3], row[4], row[5]].map(Number);
          expect((bar - 1) * 1920 + (beat - 1) * 480 + rest).toBe(start);
          expect(row[7]).toBe((start / 960).toFixed(6));
        }
      }),
      { numRuns: 50 },
    );
  });

  it('keep a name that would be a formula harmless, and one with quotes whole', async () => {
    const source = sourceOf(fileOfNotes([[0, 480, 60, 90]]), (session) => ({
      ...session,
      parts: mapItems(session.parts, (part) => ({ ...part, name: '=HYPERLINK("x",1)' })),
    }));
    const { 'Quay.csv': table } = await filesWritten(source, { format: 'csv', options: {} });
    expect(Buffer.from(table).toString()).toContain(`\r\n"'=HYPERLINK(""x"",1)",1,1,1,0,0,480,`);
    expect(read(table)[1][0]).toBe(`'=HYPERLINK("x",1)`);
  });

  it('tell controllers by their lanes, raw, and tempo and meter by their places', async () => {
    const events: RawEvent[] = [
      [0, 0xff, 0x51, 0, [7, 0xa1, 0x20]],
      [0, 0xff, 0x58, 0, [3, 2, 24, 8]],
      [0, 0xb0, 64, 127],
      [0, 0xc0, 24, 0],
      [0, 0x90, 60, 80],
      [240, 0xe0, 1, 65],
      [300, 0xd0, 33, 0],
      [310, 0xa0, 60, 44],
      [480, 0x80, 60, 30],
      [1440, 0xff, 0x51, 0, [0x0f, 0x42, 0x40]],
    ];
    const file = { ...fileOfNotes([]), tracks: [trackOf(events)] };
    const tables = ['notes', 'controllers', 'tempo'];
    const written = await filesWritten(sourceOf(file), { format: 'csv', options: { tables } });
    expect(Object.keys(written)).toEqual(['Quay, notes.csv', 'Quay, controllers.csv', 'Quay, tempo.csv']);
    const rows = (name: string) => read(written[`Quay, ${name}.csv`]).map((row) => row.slice(1).join());
    expect(rows('controllers')).toEqual([
      'channel,tick,seconds,lane,value',
      '1,0,0.000000,cc64,127',
      '1,0,0.000000,program,24',
      '1,240,0.250000,bend,8321',
      '1,300,0.312500,pressure,33',
      '1,310,0.322917,key60,44',
    ]);
    expect(read(written['Quay, tempo.csv']).map((row) => row.join())).toEqual([
      'bar,beat,tick,seconds,what,value',
      '1,1,0,0.000000,meter,3/4',
      '1,1,0,0.000000,tempo,120.000000',
      '2,1,0,1.500000,tempo,60.000000',
    ]);
    expect(rows('notes')[1].endsWith(',60,C4,80,30')).toBe(true);
  });
});
