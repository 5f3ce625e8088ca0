import fc from 'fast-check';
import { readMidi, writeMidi, type MidiFile } from '../midi';
import type { Take } from '../model';
import { mapItems, orderedOf, sessionOfFile, type Part, type Session } from '../session';
import { parseRecipe } from '../formats';
import { createStep, type Step } from '../steps';
import { OrdleError } from '../errors';
import { STEPS_OF_EVERY_KIND } from '../testing/extremes';
import { trackOf, type RawEvent } from '../testing/files';
import { cleanFile, createEvaluator, exportSession, optionsAsItCame } from '.';

/** How many files and recipes are tried; more are with ORDLE_CASES. */
const CASES = Number(process.env.ORDLE_CASES ?? 300);

const channel = fc.constantFrom(0, 1, 9);
const tick = fc.tuple(fc.nat(40), fc.nat(3)).map(([step, off]) => step * 60 + off * 7);
const bytes = fc.uint8Array({ maxLength: 4 }).map((list) => Array.from(list));

/**
 * What may stand in a track: notes that end, that do not, that have no length, strays; every kind of message, text
 * and system exclusive.
 */
const anyEvents: fc.Arbitrary<RawEvent[]> = fc.oneof(
  {
    weight: 8,
    arbitrary: fc
      .tuple(tick, channel, fc.integer({ min: 58, max: 64 }), fc.integer({ min: 1, max: 127 }), fc.nat(700))
      .map(([at, on, pitch, velocity, length]): RawEvent[] => [
        [at, 0x90 | on, pitch, velocity],
        [at + length, 0x80 | on, pitch, length % 128],
      ]),
  },
  fc.tuple(tick, channel).map(([at, on]): RawEvent[] => [[at, 0x90 | on, 61, 70]]),
  fc.tuple(tick, channel).map(([at, on]): RawEvent[] => [[at, 0x80 | on, 62, 10]]),
  {
    weight: 4,
    arbitrary: fc
      .tuple(tick, channel, fc.constantFrom(1, 6, 7, 11, 64, 64, 66, 100, 101), fc.nat(127))
      .map(([at, on, controller, value]): RawEvent[] => [[at, 0xb0 | on, controller, value]]),
  },
  fc.tuple(tick, channel, fc.nat(127)).map(([at, on, value]): RawEvent[] => [[at, 0xe0 | on, 0, value]]),
  fc.tuple(tick, channel, fc.nat(127)).map(([at, on, value]): RawEvent[] => [[at, 0xc0 | on, value, 0]]),
  fc.tuple(tick, channel, fc.nat(127)).map(([at, on, value]): RawEvent[] => [[at, 0xd0 | on, value, 0]]),
  fc.tuple(tick, channel, fc.nat(127)).map(([at, on, value]): RawEvent[] => [[at, 0xa0 | on, 60, value]]),
  fc
    .tuple(tick, fc.constantFrom(0x01, 0x03, 0x04, 0x05, 0x06, 0x07, 0x21, 0x59, 0x7f), bytes)
    .map(([at, type, body]): RawEvent[] => [[at, 0xff, type, 0, type === 0x21 ? [body.length % 2] : body]]),
  fc
    .tuple(tick, bytes)
    .map(([at, body]): RawEvent[] => [[at, 0xf0, 0, 0, [...body.map((byte) => byte & 127), 0xf7]]]),
);

const anyTrack = fc
  .array(anyEvents, { maxLength: 12 })
  .map((lists) => trackOf(lists.flat().sort((a, b) => a[0] - b[0])));

const TIME: RawEvent[] = [
  [0, 0xff, 0x51, 0, [7, 0xa1, 0x20]],
  [0, 0xff, 0x58, 0, [3, 2, 24, 8]],
  [900, 0xff, 0x51, 0, [9, 0x27, 0xc0]],
];

/**
 * A file as a reader finds it: of any format, with a track that conducts or one that conducts and plays, counting
 * ticks or frames.
 */
const anyFile: fc.Arbitrary<MidiFile> = fc
  .record({
    format: fc.constantFrom(0, 1, 1, 1, 2),
    tracks: fc.array(anyTrack, { minLength: 1, maxLength: 4 }),
    conducts: fc.boolean(),
    frames: fc.integer({ min: 0, max: 9 }),
  })
  .map(({ format, tracks, conducts, frames }) => {
    const own = format === 0 ? tracks.slice(0, 1) : tracks;
    const division =
      frames === 0
        ? ({ kind: 'smpte', framesPerSecond: 25, ticksPerFrame: 40 } as const)
        : ({ kind: 'metrical', ticksPerQuarter: frames === 1 ? 25 : 480 } as const);
    const all = conducts && format === 1 ? [trackOf(TIME), ...own] : own;
    return readMidi(writeMidi({ format: format as 0 | 1 | 2, division, tracks: all })).file;
  });

const WHERES: Partial<Step['where']>[] = [
  {},
  {},
  { bars: [1, 2] },
  { pitch: [60, 62] },
  { voice: 'highest' },
  { channel: 2 },
  { hand: 'left' },
];
const anySteps = fc.array(
  fc.tuple(fc.constantFrom(...STEPS_OF_EVERY_KIND), fc.constantFrom(...WHERES)).map(([step, where]): Step => {
    const isPartWide = step.kind === 'layout' || step.kind === 'pulse';
    return isPartWide || Object.keys(where).length === 0 ? step : ({ ...step, where } as Step);
  }),
  { maxLength: 3 },
);

/** What a person does who opens a file, puts steps on every part, and writes it as it came. */
function byThePage(file: MidiFile, steps: readonly Step[]): Uint8Array {
  let next = 0;
  const { session: opened, takes } = sessionOfFile(file, 'Quay', () => `id${next++}`, 0);
  const takeOf = (key: string) => takes.find((take) => take.key === key) as Take;
  const line = steps.map((step, index) => ({ id: `s${index}`, step }));
  const session: Session = {
    ...opened,
    parts: mapItems(opened.parts, (part): Part => ({ ...part, steps: orderedOf(line) })),
  };
  if (session.parts.order.length === 0) return writeMidi(file);
  return writeMidi(
    exportSession(session, optionsAsItCame(file.format, session), createEvaluator(takeOf), takeOf),
  );
}

/** What comes of it: the bytes, or the code of a refusal. */
function outcome(work: () => Uint8Array): string {
  try {
    return Buffer.from(work()).toString('hex');
  } catch (error) {
    if (error instanceof OrdleError) return error.code;
    throw error;
  }
}

describe('the page, the command line and the library', () => {
  it('give the same bytes, whatever the file and the recipe', () => {
    fc.assert(
      fc.property(anyFile, anySteps, (file, steps) => {
        const recipe = parseRecipe(JSON.stringify({ ordle: 'recipe', version: 1, steps }));
        const cleaned = outcome(() => writeMidi(cleanFile(file, recipe.steps).file));
        if (file.format !== 2) expect(cleaned).toBe(outcome(() => byThePage(file, steps)));
        else {
          // Each sequence is a piece of its own.
          const alone = file.tracks.map((track) => ({ ...file, format: 0 as const, tracks: [track] }));
          const songs = alone.map((song) => outcome(() => byThePage(song, steps)));
          const refused = songs.find((song) => !song.startsWith('4d54'));
          if (refused) expect(cleaned).toBe(refused);
          else
            expect(readMidi(Buffer.from(cleaned, 'hex')).file.tracks).toEqual(
              songs.flatMap((song) => readMidi(Buffer.from(song, 'hex')).file.tracks),
            );
        }
      }),
      { numRuns: CASES },
    );
  }, 600_000);

  it('leave a file that no step touches what it was, byte for byte', () => {
    const resting = createStep('velocity', { add: 9, where: { pitch: [0, 1] } });
    fc.assert(
      fc.property(anyFile, (file) => {
        const before = Buffer.from(writeMidi(file)).toString('hex');
        for (const steps of [[], [resting]])
          expect(Buffer.from(writeMidi(cleanFile(file, steps).file)).toString('hex')).toBe(before);
      }),
      { numRuns: CASES },
    );
  }, 600_000);
});
