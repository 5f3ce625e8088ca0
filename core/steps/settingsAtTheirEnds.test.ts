import { z } from 'zod';
import { noteTableOf, type Material, type Note } from '../model';
import { createEventBuilder, type EventColumns } from '../midi';
import { createTimeline } from '../time';
import { STEP_KINDS, applyStep, stepSchema, touchedRows, type Step, type StepContext } from '.';

/** Three bars of 4/4, then 7/8, then 5/16; a tempo of 120 that falls to 60 and jumps to 200, off the bar lines. */
const timeline = createTimeline(
  { kind: 'metrical', ticksPerQuarter: 480 },
  [
    { tick: 0, microsecondsPerQuarter: 500000 },
    { tick: 2500, microsecondsPerQuarter: 1000000 },
    { tick: 7000, microsecondsPerQuarter: 300000 },
  ],
  [
    { tick: 0, numerator: 4, denominator: 4 },
    { tick: 5760, numerator: 7, denominator: 8 },
    { tick: 9120, numerator: 5, denominator: 16 },
  ],
);
const strokes = noteTableOf([0, 470, 490, 2400, 7777].map((start) => ({ start, end: start + 10 })));
const context: StepContext = { timeline, isDrums: false, otherPart: () => strokes };

/** Controllers, bends, pressures and a pedal on two channels, some at one tick. */
const EVENTS = (() => {
  const builder = createEventBuilder();
  builder.add(0, 0xb0, 101, 0);
  builder.add(0, 0xb0, 100, 0);
  builder.add(0, 0xb0, 6, 12);
  for (let row = 0; row < 60; row++) {
    builder.add(row * 150, 0xb0 | (row % 2), 11, (row * 31) % 128);
    builder.add(row * 150, 0xb0, 64, row % 3 === 0 ? 127 : 0);
    builder.add(row * 150 + 70, 0xe0, (row * 17) % 128, (row * 37) % 128);
    builder.add(row * 150 + 70, 0xd0, (row * 11) % 128, 0);
  }
  return builder.build();
})();

const MATERIALS: [string, Partial<Note>[]][] = [
  ['no notes', []],
  ['one note at tick 0', [{ start: 0, end: 1, pitch: 0, velocity: 1 }]],
  [
    'all notes at one tick',
    Array.from({ length: 12 }, (_, index) => ({
      start: 2500,
      end: 2600,
      pitch: 60 + index,
      velocity: 1 + 11 * index,
    })),
  ],
  [
    'overlapping notes of one pitch',
    Array.from({ length: 9 }, (_, index) => ({ start: 100 * index, end: 5000, pitch: 127, velocity: 127 })),
  ],
  [
    'a tune across the changes',
    Array.from({ length: 90 }, (_, index) => ({
      start: index * 117,
      end: index * 117 + 40 + ((index * 37) % 300),
      pitch: (index * 29) % 128,
      velocity: 1 + ((index * 53) % 127),
    })),
  ],
];

interface JsonSchema {
  properties?: Record<string, JsonSchema>;
  anyOf?: JsonSchema[];
  oneOf?: JsonSchema[];
  minimum?: number;
  exclusiveMinimum?: number;
  maximum?: number;
  enum?: unknown[];
  const?: unknown;
  type?: string;
}

/** The least and the greatest a setting can be, each choice of a list, and both truths. */
function endsOf(schema: JsonSchema): unknown[] {
  if (schema.enum) return schema.enum;
  if (schema.type === 'boolean') return [true, false];
  if (schema.type === 'number' || schema.type === 'integer') {
    const low = schema.minimum ?? (schema.exclusiveMinimum === undefined ? undefined : 1);
    return [low, schema.maximum].filter((end) => end !== undefined);
  }
  if (schema.anyOf) return schema.anyOf.flatMap(endsOf);
  if (schema.type === 'object' && schema.properties) {
    const ends = Object.entries(schema.properties).map(([key, own]) => [key, endsOf(own)] as const);
    return [0, 1].map((end) =>
      Object.fromEntries(ends.map(([key, values]) => [key, values.at(end === 0 ? 0 : -1)])),
    );
  }
  return [];
}

/** Settings that are no plain numbers or choices, at their ends. */
const MORE: Record<string, unknown[]> = {
  grid: ['1/1', '1/128', '1/64T', '1/2D', { count: 64, in: '1/128' }, ['1/4', '1/8T']],
  set: ['1/1', '1/128T'],
  key: ['C major', 'F# minor'],
  into: [[0, 127], [60, 71]],
  sections: [[{ bars: [1, 1000000], semitones: 127 }], [{ bars: [2, 4], semitones: -127 }]],
  limit: [[1, 1], [1, 127]],
  outside: [[0, 0], [0, 127]],
  'align.to': ['', 'drums'],
  'curve.to': ['bend', 'cc0', 'cc119', 'pressure'],
  'curve.from': [-12800, 12800],
  lane: ['cc11', 'bend', 'pressure', 'cc64'],
  range: [[-12800, -12800], [12800, 12800]],
  rate: [{ hz: 0.01 }, { hz: 50 }, { note: '1/128' }],
}; // prettier-ignore

/** What a kind cannot do without, and the settings it is tried with. */
const NEEDED: Record<string, object[]> = {
  layout: [
    { blocks: [{ from: 0, to: 4, at: 0 }] },
    { blocks: [{ from: 0, to: 1e7, at: 1e7, stretch: 100 }] },
    {
      blocks: [
        { from: 3, to: 9.5, at: -1e7, held: 'cut' },
        { from: 1, to: 4, at: 2, times: 40, stretch: 0.01 },
      ],
    },
  ],
  pulse: [
    {
      beats: [
        [0, 0],
        [1e7, 1e-3],
      ],
    },
    {
      beats: [
        [0, 1],
        [1, 1.5],
        [2.25, 9],
      ],
    },
    {
      beats: [
        [1, 0],
        [2, 1e7],
      ],
    },
  ],
};

/** Kinds that touch the whole part, whatever is wanted. */
const PART_WIDE = Object.keys(NEEDED);

const WHERES = [{}, { bars: [2, 5] }, { bars: [3, 4], voice: 'inner' }, { bars: [90, 91] }];

/**
 * Every step of a kind, by each of its operations where it has some, with one setting at an end, and all of them at
 * either end together.
 */
function stepsAtEnds(kind: string): Step[] {
  const schema = z.toJSONSchema(STEP_KINDS.find((each) => each.kind === kind)?.schema ?? z.never(), {
    io: 'input',
    unrepresentable: 'any',
  }) as JsonSchema;
  return (schema.oneOf ?? schema.anyOf ?? [schema]).flatMap((branch) => stepsOfBranch(kind, branch));
}

/** Keys that are no settings, or lists of notes. */
const PASSED_OVER = [
  'kind',
  'op',
  'where',
  'on',
  'change',
  'delete',
  'groove',
  'points',
  'spans',
  'marks',
  'table',
];

function stepsOfBranch(kind: string, { properties = {} }: JsonSchema): Step[] {
  const settings = Object.entries(properties).filter(
    ([name]) => !PASSED_OVER.includes(name) && !(kind === 'edits' && name === 'add'),
  );
  const ends = settings.map(
    ([name, own]) =>
      [
        name,
        MORE[`${kind}.${name}`] ?? (kind === 'nudge' ? endsOf(own) : (MORE[name] ?? endsOf(own))),
      ] as const,
  );
  const single = ends.flatMap(([name, values]) => values.map((value) => ({ [name]: value })));
  const together = [0, -1].map((end) =>
    Object.fromEntries(ends.map(([name, values]) => [name, values.at(end)])),
  );
  const op = properties.op ? { op: properties.op.const } : {};
  return [...(NEEDED[kind] ?? [{}]), ...single, ...together].flatMap((some) =>
    (PART_WIDE.includes(kind) ? [{}] : WHERES).flatMap((where) => {
      const filled = {
        ...op,
        ...NEEDED[kind]?.[0],
        ...some,
        ...('degrees' in some ? { key: 'C major' } : {}),
      };
      const parsed = stepSchema.safeParse({ kind, where, ...filled });
      return parsed.success ? [parsed.data] : [];
    }),
  );
}

/** What must hold of any result: finite whole notes in order, each at most once, no new ones. */
function check(before: Material['notes'], after: Material['notes'], step: Step) {
  const touched = touchedRows(before, step.where, timeline);
  const rowOf = new Map(Array.from(before.id, (id, row) => [id, row]));
  const seen = new Set<number>();
  for (let row = 0; row < after.length; row++) {
    const from = rowOf.get(after.id[row]);
    const fine =
      // A layout makes copies, which are notes of their own.
      (from !== undefined || step.kind === 'layout') &&
      !seen.has(after.id[row]) &&
      Number.isFinite(after.start[row]) &&
      after.start[row] >= 0 &&
      after.end[row] - after.start[row] >= 1 - 1e-6 &&
      after.velocity[row] >= 1 &&
      after.velocity[row] <= 127 &&
      after.pitch[row] <= 127 &&
      (row === 0 || after.start[row] >= after.start[row - 1]);
    // Said once with everything that is needed to find the fault, rather than a million expectations.
    if (!fine)
      throw new Error(
        `${JSON.stringify(step)} makes of row ${from} ${after.start[row]} ${after.end[row]} ${after.velocity[row]}`,
      );
    seen.add(after.id[row]);
    if (from !== undefined && touched[from] === 0 && after.start[row] !== before.start[from])
      throw new Error(`${JSON.stringify(step)} moves a note outside its where`);
  }
}

/** Events in order, at places and with bytes a file can hold. */
function checkEvents({ length, tick, status, data1, data2 }: EventColumns, step: Step) {
  for (let row = 0; row < length; row++) {
    const fine =
      Number.isFinite(tick[row]) &&
      tick[row] >= (row === 0 ? 0 : tick[row - 1]) &&
      status[row] >= 0x80 &&
      data1[row] < 128 &&
      data2[row] < 128;
    if (!fine)
      throw new Error(
        `${JSON.stringify(step)} makes an event ${tick[row]} ${status[row]} ${data1[row]} ${data2[row]}`,
      );
  }
}

/** The columns that are not the same in two tables, byte for byte. */
const differing = <T extends object>(one: T, other: T) =>
  (Object.keys(one) as (keyof T)[]).filter((name) => {
    const [a, b] = [one[name], other[name]];
    if (!ArrayBuffer.isView(a) || !ArrayBuffer.isView(b)) return a !== b;
    return Buffer.compare(bytesOf(a), bytesOf(b)) !== 0;
  });
const bytesOf = ({ buffer, byteOffset, byteLength }: ArrayBufferView) =>
  new Uint8Array(buffer, byteOffset, byteLength);

describe.each(STEP_KINDS.map(({ kind }) => kind))('%s with every setting at its ends', (kind) => {
  const steps = stepsAtEnds(kind);

  it.each(MATERIALS)('on %s, across changes of meter and tempo', (_, notes) => {
    const material = { notes: noteTableOf(notes.map((note, id) => ({ id, ...note }))), events: EVENTS };
    expect(steps.length).toBeGreaterThanOrEqual(3);
    for (const step of steps) {
      const after = applyStep(material, step, context);
      check(material.notes, after.notes, step);
      checkEvents(after.events, step);
      const again = applyStep(material, step, context);
      expect([step, differing(again.notes, after.notes), differing(again.events, after.events)]).toEqual([
        step,
        [],
        [],
      ]);
    }
  });
});
