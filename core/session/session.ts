import { z } from 'zod';
import { LANE_PATTERN } from '../curves';
import { FIRST_DRAWN_ID } from '../model';
import { stepSchema } from '../steps';
import { inputMapSchema } from './inputMap';
import { notationSchema } from './notationSettings';
import { orderedSchema } from './ordered';
import { referenceSchema } from './reference';

/** Version of the session document; raised with every change of shape, and older ones are migrated forward. */
export const SESSION_VERSION = 2;

/**
 * Raised with everything that is added to the document and can be left out, so that no migration is needed: a program
 * that does not know it says that the document is of a newer one, and does not take it for damaged. 1: where the ticks
 * of many hand edits lie (`places`). 2: which parts were recorded together (`recording`). 3: beats that were laid by
 * hand and their places in the bars (`pulse`). 4: what was recorded here (`recorded`, `brings`, `input`). 5: which line
 * the points of a hand edit were made of (`line`). 6: how a part is written down (`notation`). 7: the score
 * that is laid beside a part (`reference`), and the step that goes by it.
 */
export const SESSION_MINOR = 7;

/** How a source may be divided (command line, `separate`). */
const SPLIT_PATTERN = /^(channel|drum|voice|hand|pitch:(\d|[1-9]\d|1[01]\d|12[0-7]))$/;

/** What things are known by: never a name every object has. */
const name = z
  .string()
  .min(1, 'must not be empty')
  .max(500, 'is too long')
  .refine((text) => !(text in {}), { message: 'is a name that cannot be used' });

const tick = z.number().min(0).max(Number.MAX_SAFE_INTEGER);

export const divisionSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('metrical'), ticksPerQuarter: z.int().min(1).max(0x7fff) }),
  z.strictObject({
    kind: z.literal('smpte'),
    framesPerSecond: z.int().min(1).max(128),
    ticksPerFrame: z.int().min(1).max(255),
  }),
]);

/** A take as the session knows it; `id` is its content key. */
export const takeReferenceSchema = z.strictObject({
  id: name,
  name: z.string(),
  noteCount: z.int().min(0),
  /** How it was recorded, where it was recorded here. */
  recorded: z
    .strictObject({
      input: z.string().max(200),
      /** Ms that were taken off what arrived. */
      latencyMs: z.number().min(-1000).max(1000),
      /** The speed it was played at, as a share of the session's tempo. */
      speed: z.number().min(0.25).max(1),
      passes: z.int().min(1),
      /** How often the sound broke off meanwhile, so that places may be off. */
      slips: z.int().min(0),
    })
    .optional(),
});

/** What a piece lays: a performance as it was played, or another part as it is cleaned. */
export const sourceSchema = z.union([z.strictObject({ take: name }), z.strictObject({ part: name })]);

/** One share of a source: `by` says how it is divided, `label` which share is meant. See `core/assembly/shares.ts`. */
export const splitSchema = z.strictObject({
  by: z.string().regex(SPLIT_PATTERN, 'must be "channel", "drum", "voice", "hand" or "pitch:" and a pitch'),
  label: z.string(),
  /**
   * By hand: how many semitones the line that follows the music is moved, from each bar on up to the next named; bars
   * rise.
   */
  line: z
    .array(z.strictObject({ bar: z.int().min(1), shift: z.int().min(-127).max(127) }))
    .max(10_000)
    .optional(),
});

/**
 * A stretch of a source laid into a part: from `from` up to `to` (null: its end) of the source, placed so that `from`
 * falls on `at`; in the session's ticks, or in seconds where the part is locked to seconds. `rest` says which of the
 * events that belong to no channel come along.
 */
export const pieceSchema = z.strictObject({
  id: name,
  /**
   * What its notes are known by; shared only by pieces of one layer that lay different stretches of one source at one
   * place.
   */
  number: z.int().min(0),
  source: sourceSchema,
  split: splitSchema.optional(),
  from: tick,
  to: tick.nullable(),
  at: tick,
  rest: z.enum(['all', 'untimed', 'none']),
  /**
   * What it lays of its source, where that is not all: its notes, or some lanes alone. Such a lane counts over those of
   * all other layers where the piece lies.
   */
  brings: z
    .union([z.enum(['all', 'notes']), z.array(z.string().regex(LANE_PATTERN)).min(1).max(260)])
    .optional(),
  /** What becomes of notes that sound over the seam at its start, where that is not as in the rest of the part. */
  held: z.enum(['ring', 'cut']).optional(),
  /** The id its first row had before pieces had numbers: what is drawn by chance goes on being drawn by it. */
  formerFirst: z.int().min(0).optional(),
});

/**
 * A performance a part may lay pieces of: `source` from `from` up to `to` (null: its end), its place in the part
 * `slide` later than in the source. `number` is what its notes are known by. In ticks, or in seconds where the part
 * is locked to seconds.
 */
export const partTakeSchema = z.strictObject({
  id: name,
  name: z.string().max(200),
  number: z.int().min(0),
  source: sourceSchema,
  split: splitSchema.optional(),
  from: tick,
  to: tick.nullable(),
  slide: z.number(),
});

/** Pieces that lie one after the other; the layers of a part sound together. */
export const layerSchema = z.strictObject({
  id: name,
  name: z.string(),
  pieces: orderedSchema(pieceSchema),
});

/** What becomes of two notes of one pitch and channel in different layers that start together. */
export const doublesSchema = z.strictObject({
  keep: z.enum(['both', 'louder', 'longer', 'first']),
  withinMs: z.number().min(0).max(1000),
});

/**
 * How pieces meet. `held`: what becomes of notes that sound over a seam. `by`: "music" goes by the musical bar and
 * hands controllers over; "tick" lays everything to the tick as it stands, which is how parts were put together
 * before seams were looked after.
 */
export const seamsSchema = z.strictObject({ held: z.enum(['ring', 'cut']), by: z.enum(['music', 'tick']) });

const second = z.number().min(0);
const seconds = z.array(second).max(100_000);

/** At a time there is a beat, the so-manieth of its bar from 1, and of the bar of a number where that was said. */
export const beatPlaceSchema = z.strictObject({
  at: second,
  beat: z.int().min(1).max(32),
  bar: z.int().min(1).max(100_000).optional(),
});

const handBeats = {
  /** Beats a person set, one by one or by tapping. */
  beats: seconds,
  /** From the first of these to the second there are no beats but those a person set. */
  only: z
    .array(z.tuple([second, second]))
    .max(10_000)
    .optional(),
  places: z.array(beatPlaceSchema).max(10_000).optional(),
  /** How beats are divided. */
  division: z.enum(['binary', 'ternary']).optional(),
};

/**
 * What is known of a performance's beats, in seconds: what a person said of them, which always holds, and what the
 * finding of all others goes by (the shortest and longest a beat may be, how many make a bar, times that are none);
 * and how closely the tempo follows them.
 */
export const beatHintsSchema = z.strictObject({
  ...handBeats,
  /** All beats, as they stood when they were last changed by hand: then none is found any more. */
  laid: seconds.optional(),
  /** What stood before all beats were put to another level or phase, so that the same press can take it back; of a
   * halving, which beat was kept first. */
  was: z
    .strictObject({
      ...handBeats,
      by: z.enum(['shift', 'halve', 'double']),
      from: z.int().min(0).max(1),
      laid: seconds,
    })
    .optional(),
  period: z.tuple([z.number().positive(), z.number().positive()]).optional(),
  beatsPerBar: z.int().min(1).max(32).optional(),
  /** Times at which what was found is no beat. */
  without: seconds.optional(),
  settling: z.enum(['beats', 'bars', 'smooth', 'steady']),
  /** To how many bpm the settled tempos are rounded; without it they are as they come out. */
  roundTo: z.number().positive().max(100).optional(),
});

export const placedStepSchema = z.strictObject({ id: name, step: stepSchema });

export const partSchema = z.strictObject({
  id: name,
  name: z.string().max(200),
  ink: z.int().min(0).max(7),
  /** The group it belongs to, by its name; parts of a group are shown under it and set together. */
  group: z.string().min(1).max(200).optional(),
  channel: z.int().min(1).max(16),
  /** `chosen`: picked by a person, so the takes' own program changes give way. */
  sound: z.strictObject({
    program: z.int().min(0).max(127),
    drums: z.boolean(),
    chosen: z.boolean().default(false),
  }),
  /** Whether a person chose `channel`; then everything of the part is written on it. */
  rechannel: z.boolean().default(false),
  lockedTo: z.enum(['beats', 'seconds']).default('beats'),
  /**
   * What was recorded together, and so has one pulse: the parts of one recording, by its name. Those that name none
   * are one too, which is how the parts of one file begin.
   */
  recording: z.string().max(500).optional(),
  /**
   * What a person says of the beats of the performance, in seconds from its start; they are found by it anew each
   * time.
   */
  pulse: beatHintsSchema.optional(),
  /** What becomes of what is played into it. */
  input: inputMapSchema.optional(),
  /** How it is written down. */
  notation: notationSchema.optional(),
  /** The written score that is laid beside it. */
  reference: referenceSchema.optional(),
  /** Names of findings a person looked at and lets be. */
  dismissed: z.array(z.string()).max(100_000).optional(),
  /** The performances to choose from; without it those its pieces are of. */
  takes: orderedSchema(partTakeSchema).optional(),
  layers: orderedSchema(layerSchema),
  doubles: doublesSchema,
  /**
   * Of lanes that several layers have, the id of the layer whose counts; without an entry the first that has it, of
   * the sustain pedal all.
   */
  lanes: z.record(z.string(), z.string()).optional(),
  seams: seamsSchema,
  steps: orderedSchema(placedStepSchema),
  /** Steps that were made permanent, oldest first: the take they became, and what the part was made of before. */
  folded: z
    .array(
      z.strictObject({
        at: z.number(),
        take: name,
        layers: orderedSchema(layerSchema),
        doubles: doublesSchema,
        seams: seamsSchema,
        steps: orderedSchema(placedStepSchema),
      }),
    )
    .default([]),
  /** Kept but silent: it lives on inside another part. */
  setAside: z.boolean().default(false),
  muted: z.boolean(),
  soloed: z.boolean(),
});

export const temposSchema = z.array(
  z.strictObject({ tick, microsecondsPerQuarter: z.int().min(1).max(0xffffff) }),
);

export const metersSchema = z.array(
  z.strictObject({
    tick,
    numerator: z.int().min(1).max(255),
    denominator: z
      .int()
      .min(1)
      .max(1024)
      .refine((value) => Number.isInteger(Math.log2(value)), { message: 'must be a power of two' }),
  }),
);

/** A named place of the music; it begins a section that lasts to the next one. */
export const markerSchema = z.strictObject({ id: name, tick, name: z.string().max(200) });

export const sessionSchema = z.strictObject({
  ordle: z.literal('session'),
  version: z.literal(SESSION_VERSION),
  id: name,
  name: z.string().max(200),
  createdAt: z.number(),
  division: divisionSchema,
  sourceFormat: z.union([z.literal(0), z.literal(1), z.literal(2)]),
  tempos: temposSchema,
  meters: metersSchema,
  /** Markers as a person left them, written in place of those of the files; without it those of the files hold. */
  markers: z.array(markerSchema).max(10_000).optional(),
  takes: orderedSchema(takeReferenceSchema),
  conductor: z.strictObject({ take: name, events: z.enum(['all', 'timed']) }).nullable(),
  parts: orderedSchema(partSchema),
  /** The number the next piece gets; it never goes down, not by undo either. */
  nextPiece: z.int().min(0),
  /** The id the next note drawn by hand gets; it never goes down. */
  nextNoteId: z.int().min(FIRST_DRAWN_ID),
});

/**
 * A session as it is stored, JSON throughout: tempo, meter and markers in ticks, and parts by id in their order, each
 * with references to its takes and the line of its steps. What was played is in the takes it refers to, never in it.
 *
 * @public
 */
export type Session = z.infer<typeof sessionSchema>;
export type Part = z.infer<typeof partSchema>;
export type Layer = z.infer<typeof layerSchema>;
export type Piece = z.infer<typeof pieceSchema>;
export type PartTake = z.infer<typeof partTakeSchema>;
export type Split = z.infer<typeof splitSchema>;
export type HandLine = NonNullable<Split['line']>;
export type PulseHints = z.infer<typeof beatHintsSchema>;
export type Marker = z.infer<typeof markerSchema>;
export type Doubles = z.infer<typeof doublesSchema>;
export type Seams = z.infer<typeof seamsSchema>;
export type PlacedStep = z.infer<typeof placedStepSchema>;
export type TakeReference = z.infer<typeof takeReferenceSchema>;

/** A whole part before any step was put on it: what is laid, and how it meets. */
export const PLAIN_DOUBLES: Doubles = { keep: 'both', withinMs: 30 };
export const PLAIN_SEAMS: Seams = { held: 'ring', by: 'music' };
