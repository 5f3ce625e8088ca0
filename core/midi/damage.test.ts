import fc from 'fast-check';
import { OrdleError } from '../errors';
import { chunk, fileOfNotes, header } from '../testing/files';
import { inspectMidi, readMidi, writeMidi } from '.';

const NOTE = [0x00, 0x90, 60, 80, 0x60, 0x80, 60, 64];
const END = [0x00, 0xff, 0x2f, 0x00];
const codes = (bytes: number[]) => readMidi(Uint8Array.from(bytes)).repairs.map((repair) => repair.code);
const notes = (bytes: number[]) => inspectMidi(readMidi(Uint8Array.from(bytes))).notes;

/** The error a hopeless file is refused with. */
function refusal(bytes: number[]): OrdleError {
  try {
    readMidi(Uint8Array.from(bytes));
  } catch (error) {
    if (error instanceof OrdleError) return error;
    throw error;
  }
  throw new Error('was not refused');
}

describe('repairs', () => {
  it('ends a track that has no end, with the place', () => {
    const bytes = [...header(0, 1, 96), ...chunk('MTrk', NOTE)];
    expect(readMidi(Uint8Array.from(bytes)).repairs).toEqual([
      {
        code: 'missing-end-of-track',
        message: expect.stringContaining('no end-of-track'),
        track: 0,
        byte: bytes.length,
      },
    ]);
    expect(notes(bytes)).toBe(1);
  });

  it.each([
    ['too long', 4000],
    ['too short', 5],
    ['absurd', 0x7fffffff],
  ])('reads a chunk whose length is %s', (_, claimed) => {
    const bytes = [
      ...header(1, 2, 96),
      ...chunk('MTrk', [...NOTE, ...END], claimed),
      ...chunk('MTrk', [...NOTE, ...END]),
    ];
    expect(codes(bytes)).toEqual(['chunk-length']);
    expect(notes(bytes)).toBe(2);
  });

  it('keeps what is there of a truncated last chunk', () => {
    const bytes = [...header(0, 1, 96), ...chunk('MTrk', [...NOTE, ...NOTE, ...END]).slice(0, -7)];
    expect(codes(bytes)).toEqual(['stuck-note', 'missing-end-of-track', 'truncated-chunk']);
    expect(notes(bytes)).toBe(2);
  });

  it('passes over junk and unknown chunks between tracks', () => {
    const track = chunk('MTrk', [...NOTE, ...END]);
    expect(codes([...header(1, 2, 96), ...track, 1, 2, 3, 0xfe, ...track])).toContain('junk-between-chunks');
    expect(notes([...header(1, 2, 96), ...track, 1, 2, 3, 0xfe, ...track])).toBe(2);
    expect(codes([...header(1, 2, 96), ...track, ...chunk('XTRA', [9, 9]), ...track])).toEqual([
      'unknown-chunk',
    ]);
    expect(codes([0x52, 0x49, 0x46, 0x46, ...header(0, 1, 96), ...track])).toEqual(['junk-before-header']);
  });

  it('ends notes that are never released, and says where each was struck', () => {
    const bytes = [
      ...header(0, 1, 96),
      ...chunk('MTrk', [0x00, 0x90, 60, 80, 0x10, 0x90, 62, 80, 0x10, 0x80, 62, 0, 0x20, 0xff, 0x2f, 0]),
    ];
    const { file, repairs } = readMidi(Uint8Array.from(bytes));
    expect(repairs).toEqual([expect.objectContaining({ code: 'stuck-note', byte: 23, track: 0 })]);
    expect(file.tracks[0].events.tick.at(-1)).toBe(0x40);
    expect(readMidi(writeMidi(file)).repairs).toEqual([]);
  });

  it('goes on with the running status after a meta event', () => {
    const bytes = [
      ...header(0, 1, 96),
      ...chunk('MTrk', [0x00, 0x90, 60, 80, 0x00, 0xff, 0x01, 0x01, 0x41, 0x10, 60, 0, ...END]),
    ];
    expect(codes(bytes)).toEqual(['running-status-after-meta']);
    expect(notes(bytes)).toBe(1);
  });

  it('lowers data bytes above 127, leaves out stray system messages, notes bytes after the end', () => {
    expect(
      codes([...header(0, 1, 96), ...chunk('MTrk', [0x00, 0x90, 60, 200, 0x10, 0x80, 60, 0, ...END])]),
    ).toEqual(['data-byte-above-127']);
    expect(codes([...header(0, 1, 96), ...chunk('MTrk', [0x00, 0xf8, ...NOTE, ...END])])).toEqual([
      'stray-system-message',
    ]);
    expect(codes([...header(0, 1, 96), ...chunk('MTrk', [...NOTE, ...END, 1, 2, 3])])).toEqual([
      'data-after-end-of-track',
    ]);
  });

  it('reports a header that promises 65,535 tracks, and takes unusual but possible divisions', () => {
    const track = chunk('MTrk', [...NOTE, ...END]);
    expect(codes([...header(1, 0xffff, 96), ...track])).toEqual(['track-count']);
    expect(codes([...header(0, 1, 0x7fff), ...track])).toEqual([]);
    const film = readMidi(Uint8Array.from([...header(0, 1, 0xe728), ...track])).file;
    expect(film.division).toEqual({ kind: 'smpte', framesPerSecond: 25, ticksPerFrame: 40 });
    expect(writeMidi(film).slice(12, 14)).toEqual(Uint8Array.from([0xe7, 0x28]));
  });

  it('opens a track that claims 2 GB without asking for 2 GB', () => {
    const before = process.memoryUsage().arrayBuffers;
    expect(notes([...header(0, 1, 96), ...chunk('MTrk', [...NOTE, ...END], 0x7fffffff)])).toBe(1);
    expect(process.memoryUsage().arrayBuffers - before).toBeLessThan(1e7);
  });

  it('keeps meta events of types the standard does not allow, byte for byte, and says so', () => {
    const events = [...NOTE, 0, 0xff, 0xaf, 2, 7, 9, ...NOTE, 0, 0xff, 0xd1, 3, 15, 66, 64, ...NOTE, ...END];
    const bytes = [...header(0, 1, 96), ...chunk('MTrk', events)];
    expect(codes(bytes)).toEqual(['bad-meta-type', 'bad-meta-type']);
    expect(notes(bytes)).toBe(3);
    expect(inspectMidi(readMidi(Uint8Array.from(bytes))).tempos).toEqual([{ tick: 0, bpm: 120 }]);
    const again = writeMidi(readMidi(Uint8Array.from(bytes)).file);
    expect(Buffer.from(again).includes(Buffer.from([0xff, 0xaf, 2, 7, 9]))).toBe(true);
    expect(Buffer.from(again).includes(Buffer.from([0xff, 0xd1, 3, 15, 66, 64]))).toBe(true);
  });

  it.each([
    ['covers the events after it', [0x08], true],
    ['is beyond the track', [0x7f], true],
    ['is longer than four bytes', [0x80, 0x80, 0x80, 0x80, 0x80, 0x01], true],
    ['covers bytes that are no events', [0x03, 0x61, 0x62, 0x63], true],
    ['is missing', [], false],
  ])('reads on after an end of track whose length %s', (_, length, more) => {
    const bytes = [
      ...header(0, 1, 96),
      ...chunk('MTrk', [...NOTE, 0, 0xff, 0x2f, ...length, ...(more ? [...NOTE, ...END] : [])]),
    ];
    expect(notes(bytes)).toBe(more ? 2 : 1);
    expect(codes(bytes)).toEqual(more ? ['end-of-track-length'] : []);
  });

  it('ends a track at an end of track with a wrong length when nothing readable follows, and lists the rest', () => {
    const bytes = [...header(0, 1, 96), ...chunk('MTrk', [...NOTE, 0, 0xff, 0x2f, 0x09, 1, 2, 3])];
    expect(codes(bytes)).toEqual(['end-of-track-length', 'data-after-end-of-track']);
    expect(notes(bytes)).toBe(1);
  });

  it.each([
    ['between events', NOTE],
    ['after an event cut short', [...NOTE, 0, 0x90, 60]],
    ['after its end of track', [...NOTE, ...END]],
    ['after its end of track and junk', [...NOTE, ...END, 1, 2, 3]],
  ])('finds the track that a wrong but fitting length swallowed, %s', (_, body) => {
    const next = chunk('MTrk', [0, 0x90, 62, 80, 0x60, 0x80, 62, 64, ...END]);
    const bytes = [...header(1, 2, 96), ...chunk('MTrk', body, body.length + next.length), ...next];
    const { file, repairs } = readMidi(Uint8Array.from(bytes));
    expect(file.tracks.map(({ events }) => [...events.data1])).toEqual([
      [60, 60],
      [62, 62],
    ]);
    expect(repairs.map(({ code }) => code)).toContain('chunk-length');
    if (body.length > NOTE.length + END.length)
      expect(repairs.map(({ code }) => code)).toContain('data-after-end-of-track');
  });

  it('leaves "MTrk" alone inside a text, and where it is notes', () => {
    const text = [0, 0xff, 1, 8, ...Buffer.from('MTrk'), 0, 0, 0, 4];
    // Delta times and note-offs by running status that happen to spell the word.
    const notesThatSpell = [0, 60, 64, 0x4d, 0x54, 0x72, 0x6b, 0x00, 0x00];
    for (const body of [text, notesThatSpell]) {
      const bytes = [...header(0, 1, 96), ...chunk('MTrk', [...NOTE, ...body, ...END])];
      const { file, repairs } = readMidi(Uint8Array.from(bytes));
      expect(repairs).toEqual([]);
      expect(Buffer.from(writeMidi(file))).toEqual(Buffer.from(bytes));
    }
  });

  it('reads 40,000 tracks that each claim the rest of the file in no more than linear time', () => {
    const count = 40_000;
    const bytes = [...header(1, count, 96)];
    for (let left = count - 1; left >= 0; left--)
      bytes.push(...chunk('MTrk', END, END.length + left * (8 + END.length)));
    const whole = Uint8Array.from(bytes);
    const { file } = readMidi(whole);
    expect(file.tracks.length).toBe(count);
  });

  it('keeps but does not follow a tempo of 0', () => {
    const bytes = [...header(0, 1, 96), ...chunk('MTrk', [0, 0xff, 0x51, 3, 0, 0, 0, ...NOTE, ...END])];
    expect(codes(bytes)).toEqual(['bad-tempo']);
    expect(inspectMidi(readMidi(Uint8Array.from(bytes))).tempos).toEqual([{ tick: 0, bpm: 120 }]);
  });
});

describe('refusals', () => {
  it.each([
    ['an empty file', [], 'empty-file'],
    ['a text file', [...Buffer.from('Dear ferry company, ')], 'not-midi'],
    ['a header cut short', [...Buffer.from('MThd'), 0, 0, 0, 6, 0], 'not-midi'],
    ['a header and nothing else', header(0, 1, 96), 'no-tracks'],
    ['division 0', [...header(0, 1, 0), ...chunk('MTrk', END)], 'bad-division'],
    ['0 ticks a frame', [...header(0, 1, 0xe700), ...chunk('MTrk', END)], 'bad-division'],
  ])('refuses %s', (_, bytes, code) => {
    expect(refusal(bytes).code).toBe(code);
    expect(refusal(bytes).message).toMatch(/\.$/);
  });

  it('stops before delta times that would add up beyond what can be counted', () => {
    // Quantities of more than four bytes are the only way a small file can reach such times.
    const bytes = [
      ...header(0, 1, 96),
      ...chunk('MTrk', [...NOTE, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0x7f, 0x90, 60, 1]),
    ];
    expect(codes(bytes)).toEqual(['unreadable-event', 'missing-end-of-track']);
    expect(notes(bytes)).toBe(1);
  });
});

describe('never hangs, never throws anything else', () => {
  const sound = writeMidi(
    fileOfNotes(
      Array.from({ length: 40 }, (_, index) => [index * 50, index * 50 + 70, 40 + index, 90, index % 3]),
    ),
  );

  it('at a file cut at every byte', () => {
    for (let length = 0; length < sound.length; length++) {
      try {
        const { file, repairs } = readMidi(sound.slice(0, length));
        expect(repairs.length).toBeGreaterThan(0);
        expect(readMidi(writeMidi(file)).repairs).toEqual([]);
      } catch (error) {
        expect(error).toBeInstanceOf(OrdleError);
      }
    }
  });

  it('at random bytes after a valid header', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), fc.boolean(), (noise, asTrack) => {
        const body = asTrack ? chunk('MTrk', [...noise]) : [...noise];
        try {
          const { file } = readMidi(Uint8Array.from([...header(1, 1, 96), ...body]));
          const again = readMidi(writeMidi(file));
          expect(again.file.tracks.length).toBe(file.tracks.length);
          expect(again.repairs.filter(({ code }) => !/^bad-/.test(code))).toEqual([]);
        } catch (error) {
          expect(error).toBeInstanceOf(OrdleError);
        }
      }),
      { numRuns: 600 },
    );
  });

  it('at flipped bytes', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(sound.length - 1), fc.nat(255)), { maxLength: 8 }), (flips) => {
        const bytes = sound.slice();
        for (const [at, value] of flips) bytes[at] = value;
        try {
          readMidi(bytes);
        } catch (error) {
          expect(error).toBeInstanceOf(OrdleError);
        }
      }),
    );
  });
});
