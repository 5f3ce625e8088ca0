import fc from 'fast-check';
import type { MidiEvent } from 'midi-file';
import { read as readOtherwise } from 'midifile-ts';
import { readMidi } from '../midi';
import { mapItems, orderedOf } from '../session';
import { createStep } from '../steps';
import { BAR, HELD, filesWritten, mid, peerEvents, sourceOf, strokes } from '../testing/exporting';
import { fileOfNotes, trackOf, type PlainNote, type RawEvent } from '../testing/files';
import { conductedFile } from '../testing/markedSession';

describe('some bars', () => {
  it('are cut by the music: an early stroke begins its own bar, controllers and tempo stand as they stood', async () => {
    const written = await filesWritten(sourceOf(HELD), mid(), { extent: { of: 'bars', bars: [3, 5] } });
    const bytes = written['Quay - bars 3-4.mid'];
    expect(strokes(bytes)).toEqual([
      [0, 62],
      [960, 72],
      [BAR - 30, 63],
      [BAR + 960, 72],
    ]);
    const events = peerEvents(bytes);
    const at = (test: (event: MidiEvent) => boolean) => events.filter(test).map(({ tick }) => tick);
    expect(at((event) => event.type === 'programChange' && event.programNumber === 24)).toEqual([0]);
    expect(at((event) => event.type === 'controller' && event.value === 127)).toEqual([0]);
    expect(at((event) => event.type === 'controller' && event.value === 0)).toEqual([BAR + 100]);
    expect(events.flatMap((event) => (event.type === 'setTempo' ? [event.microsecondsPerBeat] : []))).toEqual(
      [8e5],
    );
    expect(at((event) => event.type === 'timeSignature')).toEqual([0]);
    // It lasts its two bars, so that it can be laid end to end.
    expect(Math.max(...at((event) => event.type === 'endOfTrack'))).toBe(2 * BAR);
  });

  it('take along what speaks for the whole session: the key that holds, texts at their places', async () => {
    const conducting: RawEvent[] = [
      [0, 0xff, 3, 0, [...Buffer.from('Tide')]],
      [0, 0xff, 0x59, 0, [2, 0]],
      [0, 0xff, 0x54, 0, [1, 0, 0, 0, 0]],
      [BAR, 0xff, 1, 0, [...Buffer.from('early')]],
      [2 * BAR, 0xff, 0x59, 0, [0xfd, 1]],
      [3 * BAR, 0xff, 1, 0, [...Buffer.from('slower')]],
    ];
    const strokesAt = [0, 1, 2, 3].flatMap((bar): RawEvent[] => [
      [bar * BAR, 0x90, 60, 90],
      [bar * BAR + 400, 0x80, 60, 64],
    ]);
    const file = {
      ...fileOfNotes([]),
      format: 1 as const,
      tracks: [trackOf(conducting), trackOf(strokesAt)],
    };
    const [bytes] = Object.values(
      await filesWritten(sourceOf(file), mid(), { extent: { of: 'bars', bars: [3, 5] } }),
    );
    const told = peerEvents(bytes).flatMap((event): unknown[] =>
      event.type === 'text' || (event.type === 'trackName' && event.text === 'Tide')
        ? [[event.tick, event.text]]
        : event.type === 'keySignature'
          ? [[event.tick, event.key, event.scale]]
          : event.type === 'smpteOffset'
            ? ['offset']
            : [],
    );
    expect(told).toEqual([
      [0, 'Tide'],
      [0, -3, 1],
      [BAR, 'slower'],
    ]);
  });

  it('laid end to end are the whole', async () => {
    const anyNotes = fc.array(
      fc.record({
        at: fc.nat(63),
        length: fc.integer({ min: 1, max: 4 }),
        pitch: fc.integer({ min: 40, max: 80 }),
      }),
      { minLength: 1, maxLength: 30 },
    );
    await fc.assert(
      fc.asyncProperty(anyNotes, fc.integer({ min: 1, max: 3 }), async (list, step) => {
        const taken = new Set<number>();
        const notes = list.flatMap(({ at, length, pitch }): PlainNote[] => {
          const key = at * 128 + pitch;
          if (taken.has(key)) return [];
          taken.add(key);
          return [[at * 120, at * 120 + Math.min(120, 30 * length), pitch, 90]];
        });
        const source = sourceOf(fileOfNotes(notes));
        const whole = strokes((await filesWritten(source, mid()))['Quay.mid']);
        const joined: [number, number][] = [];
        for (let from = 1; from <= 4; from += step) {
          const extent = { of: 'bars', bars: [from, from + step] } as const;
          const [bytes] = Object.values(await filesWritten(source, mid(), { extent }));
          joined.push(
            ...strokes(bytes).map(([tick, pitch]): [number, number] => [tick + (from - 1) * BAR, pitch]),
          );
        }
        const order = (a: [number, number], b: [number, number]) => a[0] - b[0] || a[1] - b[1];
        expect(joined.sort(order)).toEqual(whole.sort(order));
      }),
      { numRuns: 40 },
    );
  });

  it('keep their places in tables and their numbers in written music', async () => {
    const source = sourceOf(HELD);
    const extent = { of: 'bars', bars: [3, 4] } as const;
    const [table] = Object.values(await filesWritten(source, { format: 'csv', options: {} }, { extent }));
    const rows = Buffer.from(table).toString().trim().split('\r\n').slice(1);
    expect(rows.map((row) => row.split(',')[5])).toEqual([String(2 * BAR - 30), String(2 * BAR + 960)]);
    const written = { format: 'musicxml', options: {} };
    const [xml] = Object.values(await filesWritten(source, written, { extent }));
    // How a bar is written depends on the others: it is that of the whole.
    const notesOf = (bytes: Uint8Array) =>
      [
        ...Buffer.from(bytes)
          .toString()
          .matchAll(/<measure number="3"[^]*?<\/measure>/g),
      ].map(([measure]) =>
        [...measure.matchAll(/<note [^]*?<\/note>/g)].map(([note]) =>
          note.replace(/<duration>.*?<\/duration>/, ''),
        ),
      );
    expect(notesOf(xml)).toEqual(notesOf(Object.values(await filesWritten(source, written))[0]));
    expect(notesOf(xml)[0].length).toBeGreaterThan(1);
    expect(
      [
        ...Buffer.from(xml)
          .toString()
          .matchAll(/<measure number="(\d+)"/g),
      ].map(([, n]) => n),
    ).toEqual(['3']);
  });

  it('that are none are refused', async () => {
    const asked = (bars: [number, number]) =>
      filesWritten(sourceOf(HELD), mid(), { extent: { of: 'bars', bars } });
    await expect(asked([0, 4])).rejects.toMatchObject({ code: 'bars' });
    await expect(asked([4, 4])).rejects.toMatchObject({ code: 'bars' });
  });
});

test('MIDI files of some bars and another division are read alike by two independent readers', async () => {
  const anyDivision = fc.integer({ min: 24, max: 2000 });
  await fc.assert(
    fc.asyncProperty(anyDivision, fc.integer({ min: 1, max: 5 }), async (division, first) => {
      const extent = { of: 'bars', bars: [first, first + 2] } as const;
      const [bytes] = Object.values(await filesWritten(sourceOf(HELD), mid({ division }), { extent }));
      const other = readOtherwise(Uint8Array.from(bytes).buffer).tracks.flatMap((track) => {
        let tick = 0;
        return track.flatMap((event): [number, number][] => {
          tick += event.deltaTime;
          return event.type === 'channel' && event.subtype === 'noteOn' ? [[tick, event.noteNumber]] : [];
        });
      });
      expect(other).toEqual(strokes(bytes));
      expect(other.length).toBeGreaterThan(1);
    }),
    { numRuns: 30 },
  );
});

describe('sections and blocks', () => {
  const sections = () =>
    sourceOf(
      readMidi(
        conductedFile([
          [0, 'Intro'],
          [4 * BAR, 'Verse: 2/3'],
        ]).bytes,
      ).file,
    );

  it('are files of their own, named by section, part and tempo, cut at bar lines', async () => {
    const written = await filesWritten(sections(), mid({ apart: true }), { extent: { of: 'sections' } });
    expect(Object.keys(written)).toEqual(['Intro - Piano - 120 bpm.mid', 'Verse- 2-3 - Piano - 120 bpm.mid']);
    expect(strokes(written['Verse- 2-3 - Piano - 120 bpm.mid']).map(([tick]) => tick)).toEqual(
      [0, 1, 2, 3].map((n) => n * BAR),
    );
    const sound = await filesWritten(
      sections(),
      { format: 'wav', options: { tail: 'bar' } },
      { extent: { of: 'sections' } },
    );
    for (const bytes of Object.values(sound)) expect(bytes.length).toBe(44 + 4 * 8 * 44100);
  });

  it('blocks lie where they lie in the part; muted ones make no file', async () => {
    const blocks = [
      { id: 'a', from: 0, to: 8, at: 0, times: 1, stretch: 1, held: 'ring' as const },
      { id: 'b', from: 16, to: 24, at: 8, times: 2, stretch: 1, held: 'ring' as const },
      { id: 'c', from: 8, to: 16, at: 24, times: 1, stretch: 1, held: 'ring' as const, muted: true },
    ];
    const layout = createStep('layout', { blocks });
    const source = sourceOf(readMidi(conductedFile([]).bytes).file, (session) => ({
      ...session,
      parts: mapItems(session.parts, (part) => ({ ...part, steps: orderedOf([{ id: 's', step: layout }]) })),
    }));
    const written = await filesWritten(source, mid(), { extent: { of: 'blocks' } });
    const pitches = Object.entries(written).map(([name, bytes]) => [
      name,
      strokes(bytes).map(([, pitch]) => pitch),
    ]);
    expect(pitches).toEqual([
      ['block 1 - Piano - 120 bpm.mid', [60, 61]],
      ['block 2 - Piano - 120 bpm.mid', [64, 65]],
    ]);
  });

  it('without markers it is said what to do', async () => {
    const source = sourceOf(HELD);
    await expect(filesWritten(source, mid(), { extent: { of: 'sections' } })).rejects.toMatchObject({
      code: 'no-sections',
    });
  });
});
