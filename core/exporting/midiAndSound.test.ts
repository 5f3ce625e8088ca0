import fc from 'fast-check';
import { parseMidi } from 'midi-file';
import { chosenParts, excerptOf } from '../evaluate';
import { readMidi, writeMidi } from '../midi';
import { mapItems, orderedOf, type Session } from '../session';
import { createStep } from '../steps';
import { HELD, choiceOf, filesWritten, mid, peerEvents, sourceOf, strokes } from '../testing/exporting';
import { fileOfNotes, trackOf, type RawEvent } from '../testing/files';
import { checkFormats, soundingOf } from '.';

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
