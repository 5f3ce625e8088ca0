import { unzipSync } from 'fflate';
import fc from 'fast-check';
import { parseMidi, type MidiEvent } from 'midi-file';
import { read as readOtherwise } from 'midifile-ts';
import { parse, validate } from 'musicxml-io';
import { listOf, mapItems, orderedOf, type Session } from '../session';
import { createStep } from '../steps';
import { choiceOf, filesWritten, sourceOf, together, workshop } from '../testing/exporting';
import { fileOfNotes, trackOf, type PlainNote, type RawEvent } from '../testing/files';
import { conductedFile } from '../testing/markedSession';
import { readMidi, writeMidi } from '../midi';
import { chosenParts, excerptOf } from '../evaluate';
import { FORMAT_IDS, checkFormats, planExport, soundingOf, writeExport } from '.';
import type { MidiOptions } from './formats/midi';

const BAR = 1920;
const mid = (options: Partial<MidiOptions> = {}) => ({ format: 'mid', options });

/** Events of all tracks with their ticks, as an independent reader has them. */
function peerEvents(bytes: Uint8Array): (MidiEvent & { tick: number })[] {
  return parseMidi(bytes).tracks.flatMap((track) => {
    let tick = 0;
    return track.map((event) => ({ ...event, tick: (tick += event.deltaTime) }));
  });
}
const strokes = (bytes: Uint8Array): [tick: number, pitch: number][] =>
  peerEvents(bytes).flatMap((event) => (event.type === 'noteOn' ? [[event.tick, event.noteNumber]] : []));

/** Tempo, meter, a program, the pedal down from the first bar to the fourth, and a stroke on every bar line, early. */
const HELD = (() => {
  const events: RawEvent[] = [
    [0, 0xff, 0x51, 0, [7, 0xa1, 0x20]],
    [0, 0xff, 0x58, 0, [4, 2, 24, 8]],
    [0, 0xc0, 24, 0],
    [10, 0xb0, 64, 127],
    [2 * BAR, 0xff, 0x51, 0, [0x0c, 0x35, 0x00]],
    [3 * BAR + 100, 0xb0, 64, 0],
  ];
  for (let bar = 0; bar < 6; bar++) {
    const start = Math.max(0, bar * BAR - 30);
    events.push([start, 0x90, 60 + bar, 90], [start + 600, 0x80, 60 + bar, 64]);
    events.push([bar * BAR + 960, 0x90, 72, 90], [bar * BAR + 1100, 0x80, 72, 64]);
  }
  return { ...fileOfNotes([]), tracks: [trackOf(events.sort((a, b) => a[0] - b[0]))] };
})();

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

describe('MIDI files', () => {
  it('with another division lie at the same time, to a tick of it', async () => {
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 1, max: 32767 }), async (division) => {
        const { 'Quay.mid': bytes } = await filesWritten(sourceOf(HELD), mid({ division }));
        expect(parseMidi(bytes).header.ticksPerBeat).toBe(division);
        const own = strokes((await filesWritten(sourceOf(HELD), mid()))['Quay.mid']);
        strokes(bytes).forEach(([tick], at) =>
          expect(Math.abs(tick - (own[at][0] * division) / 480)).toBeLessThanOrEqual(0.5),
        );
      }),
      { numRuns: 30 },
    );
    const { 'Quay.mid': same } = await filesWritten(sourceOf(HELD), mid({ division: 480 }));
    expect(same).toEqual(writeMidi(HELD));
    const film = { ...HELD, division: { kind: 'smpte' as const, framesPerSecond: 25, ticksPerFrame: 40 } };
    await expect(filesWritten(sourceOf(film), mid({ division: 96 }))).rejects.toMatchObject({
      code: 'division',
    });
  });

  it('leave sounds and names out where they are not wanted, and go out a file a part', async () => {
    const bank: RawEvent[] = [
      [0, 0xff, 3, 0, [...Buffer.from('Bass')]],
      [0, 0xb0, 0, 8],
      [0, 0xb0, 32, 1],
      [0, 0xc0, 33, 0],
      [0, 0xb0, 7, 99],
      [0, 0x90, 40, 80],
      [480, 0x80, 40, 64],
      [480, 0x91, 50, 80],
      [960, 0x81, 50, 64],
    ];
    const source = sourceOf({ ...fileOfNotes([]), format: 1, tracks: [trackOf([]), trackOf(bank)] });
    const kinds = (bytes: Uint8Array) =>
      peerEvents(bytes)
        .map((event) => (event.type === 'controller' ? `cc${event.controllerType}` : event.type))
        .filter((kind) => /^cc|program|trackName/.test(kind));
    const bare = await filesWritten(source, mid({ programs: false, names: false }));
    expect(kinds(bare['Quay.mid'])).toEqual(['cc7']);
    const apart = await filesWritten(source, mid({ apart: true }));
    expect(Object.values(apart).map((bytes) => strokes(bytes).map(([, pitch]) => pitch))).toEqual([
      [40],
      [50],
    ]);
  });
});

/** A session whose texts are made to do harm. */
const hostile = (): ReturnType<typeof sourceOf> => {
  const bad = `<script>alert(1)</script>&"'=1+1,\u0001`;
  return sourceOf(
    {
      ...fileOfNotes([]),
      tracks: [
        trackOf([
          [0, 0xff, 6, 0, [...Buffer.from(bad)]],
          [0, 0x90, 60, 90],
          [0, 0xff, 5, 0, [...Buffer.from(bad)]],
          [480, 0x80, 60, 64],
        ]),
      ],
    },
    (session): Session => ({
      ...session,
      name: bad,
      parts: mapItems(session.parts, (part) => ({
        ...part,
        name: bad,
        steps: orderedOf([{ id: 's', step: createStep('quantize') }]),
      })),
    }),
  );
};

test('what sounds is what the MIDI file has, note by note, also of some bars and with overlaps', async () => {
  const bars = fc.option(
    fc.integer({ min: 1, max: 4 }).map((from): [number, number] => [from, from + 2]),
    { nil: null },
  );
  await fc.assert(
    fc.asyncProperty(bars, fc.constantFrom('played' as const, 'cleaned' as const), async (range, version) => {
      const source = sourceOf(HELD, (session) => ({
        ...session,
        parts: mapItems(session.parts, (part) => ({
          ...part,
          steps: orderedOf([{ id: 's', step: createStep('quantize', { grid: '1/4' } as object) }]),
        })),
      }));
      const extent = range ? ({ of: 'bars', bars: range } as const) : ({ of: 'all' } as const);
      const [bytes] = Object.values(await filesWritten(source, mid(), { extent, version }));
      const { session: read, takeOf, evaluator } = sourceOf(readMidi(Uint8Array.from(bytes)).file);
      const heard = (
        of: Session,
        from: typeof takeOf,
        by: typeof evaluator,
        only: typeof range,
        as: typeof version,
      ) => {
        const chosen = chosenParts(of, { parts: of.parts.order, version: as }, by);
        const { parts } = soundingOf(only ? excerptOf(chosen, only) : chosen, from);
        return parts.flatMap(({ playback }) =>
          Array.from(playback.noteStart, (start, row) => [
            start.toFixed(9),
            playback.noteEnd[row].toFixed(9),
            playback.notePitch[row],
            playback.noteVelocity[row],
          ]),
        );
      };
      const own = heard(source.session, source.takeOf, source.evaluator, range, version);
      expect(own.length).toBeGreaterThan(2);
      expect(own).toEqual(heard(read, takeOf, evaluator, null, 'played'));
    }),
    { numRuns: 20 },
  );
});

describe('what is told before it is written', () => {
  const told = (format: string, options: object) =>
    checkFormats(sourceOf(HELD), choiceOf(sourceOf(HELD), [{ format, options }]))[0].sentences;

  it('is how far a coarser division moves notes, and nothing of one that moves none', () => {
    // A tick of 96 to the quarter lasts 8.3 ms at the slowest tempo, which is 75.
    expect(told('mid', { division: 96 })).toEqual([expect.stringContaining('notes move by up to 4.2 ms')]);
    for (const division of [480, 960, null]) expect(told('mid', { division })).toEqual([]);
  });

  it('is how long sound lasts and how large it gets, and how much is written otherwise than played', () => {
    // Two bars at 120 and four at 75 bpm; the last stroke ends 1100 ticks into the last bar.
    expect(told('wav', { tail: 'bar' })).toEqual(['It lasts 0:16: some 3.0 MB a file.']);
    expect(told('csv', {})).toEqual([]);
    expect(told('musicxml', { finest: 4 })[0]).toMatch(/^\d+ notes are written otherwise than played/);
  });
});

describe('every format', () => {
  const everything = (source: ReturnType<typeof sourceOf>) =>
    choiceOf(
      source,
      FORMAT_IDS.map((format) => ({ format, options: {} })),
    );

  it('goes into one zip, which an independent reader of zips finds whole', async () => {
    const source = sourceOf(HELD, (session) => ({
      ...session,
      parts: mapItems(session.parts, (part) => ({
        ...part,
        steps: orderedOf([{ id: 's', step: createStep('quantize') }]),
      })),
    }));
    const plan = planExport(source, everything(source));
    expect([plan.name, plan.isZip]).toEqual(['Quay.zip', true]);
    expect(plan.files.map(({ name }) => name)).toEqual(
      [
        'Quay.mid',
        'Quay.musicxml',
        'Quay.csv',
        'Quay.wav',
        'Quay, clean-up.html',
        'Quay.ordle',
        'Quay - Nylon Guitar, recipe.json',
        'Quay - Nylon Guitar, groove.json',
      ].map((name) => name.replace('Nylon Guitar', listOf(source.session.parts)[0].name)),
    );
    const shares: number[] = [];
    const files = unzipSync(await together(writeExport(plan, workshop, (share) => shares.push(share))));
    expect(Object.keys(files)).toEqual(plan.files.map(({ name }) => name));
    for (const { name, format } of plan.files) {
      const alone = await filesWritten(source, { format, options: {} });
      expect(Buffer.compare(files[name], alone[name])).toBe(0);
    }
    expect(shares.at(-1)).toBe(1);
    expect(shares.every((share, at) => at === 0 || share >= shares[at - 1])).toBe(true);
  });

  it('is the same whenever it is written', async () => {
    const write = async (now: number) => {
      jest.useFakeTimers({ now, doNotFake: ['nextTick', 'setImmediate', 'queueMicrotask'] });
      const source = sourceOf(HELD);
      const bytes = await together(writeExport(planExport(source, everything(source)), workshop));
      jest.useRealTimers();
      return Buffer.from(bytes);
    };
    const [one, other] = [await write(Date.UTC(2001, 1, 3)), await write(Date.UTC(2031, 7, 9, 13))];
    expect(one.equals(other)).toBe(true);
  });

  it('takes what a person wrote for text', async () => {
    const source = hostile();
    const plan = planExport(source, everything(source));
    const files = unzipSync(await together(writeExport(plan, workshop)));
    // eslint-disable-next-line no-control-regex
    for (const name of Object.keys(files)) expect(name).not.toMatch(/[<>"\u0000-\u001f]/);
    const text = (ending: string) => {
      const name = Object.keys(files).find((each) => each.endsWith(ending)) ?? '';
      return Buffer.from(files[name]).toString();
    };
    expect(text('.html')).not.toMatch(/<script/i);
    expect(text('.html')).toContain('&lt;script&gt;');
    const xml = text('.musicxml');
    expect(xml).not.toMatch(/<script/i);
    expect(validate(parse(xml)).errors).toEqual([]);
    expect(() => JSON.parse(text('recipe.json')) as unknown).not.toThrow();
  });

  it('says of nothing that there is nothing', () => {
    const source = sourceOf(HELD);
    expect(() => planExport(source, choiceOf(source, []))).toThrow('No format is chosen');
    expect(() => planExport(source, choiceOf(source, [mid()], { parts: [] }))).toThrow('No part is chosen');
    const empty = sourceOf(fileOfNotes([]));
    expect(() => planExport(empty, choiceOf(empty, [mid()]))).toThrow('no notes');
    const silent = sourceOf({ ...fileOfNotes([]), tracks: [trackOf([[0, 0xb0, 7, 90]])] });
    expect(() => planExport(silent, choiceOf(silent, [{ format: 'wav', options: {} }]))).toThrow(
      'nothing in these parts',
    );
    expect(() => planExport(source, choiceOf(source, [{ format: 'pdf', options: {} }]))).toThrow(
      '"pdf" is no format',
    );
    expect(() => planExport(source, choiceOf(source, [{ format: 'wav', options: { bits: 8 } }]))).toThrow(
      'WAV: bits',
    );
  });
});

test('the clean-up report tells what each step did', async () => {
  const source = sourceOf(HELD, (session) => ({
    ...session,
    parts: mapItems(session.parts, (part) => ({
      ...part,
      steps: orderedOf([
        { id: 'a', step: createStep('quantize', { grid: '1/4', strength: 100 } as object) },
        { id: 'b', step: createStep('velocity') },
        { id: 'c', step: { ...createStep('transpose', { semitones: 12 } as object), on: false } },
      ]),
    })),
  }));
  const [page] = Object.values(await filesWritten(source, { format: 'report', options: {} }));
  const html = Buffer.from(page).toString();
  // Five strokes of six were thirty ticks early: 31.3 ms at 120 bpm, 50 at 75.
  const [row] = /<tr><th scope="row">Quantize[^]*?<\/tr>/.exec(html) ?? [''];
  expect([...row.matchAll(/<td>([^<]*)<\/td>/g)].slice(1, 5).map(([, cell]) => cell)).toEqual([
    '5',
    '5',
    '50.0',
    '50.0',
  ]);
  expect(html).toContain('Transpose octave up (off)');
  expect(html).toContain('75.0 to 120.0 bpm, 4/4.');
  expect(html).not.toMatch(/<script|https?:/);
  expect(html.match(/<svg/g)?.length).toBe(4);
});
