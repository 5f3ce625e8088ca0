import { z } from 'zod';
import { noteTableOf, type Material, type Note } from '../model';
import { noEvents } from '../testing/stepBench';
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

const MATERIALS: [string, Partial<Note>[]][] = [
  ['no notes', []],
  ['one note at tick 0', [{ start: 0, end: 1, pitch: 0, velocity: 1 }]],
  ['all notes at one tick', Array.from({ length: 12 }, (_, index) => ({ start: 2500, end: 2600, pitch: 60 + index, velocity: 1 + 11 * index }))],
  ['overlapping notes of one pitch', Array.from({ length: 9 }, (_, index) => ({ start: 100 * index, end: 5000, pitch: 127, velocity: 127 }))],
  ['a tune across the changes', Array.from({ length: 90 }, (_, index) => ({ start: index * 117, end: index * 117 + 40 + ((index * 37) % 300), pitch: (index * 29) % 128, velocity: 1 + ((index * 53) % 127) }))],
]; // prettier-ignore

interface JsonSchema {
  properties?: Record<string, JsonSchema>;
  anyOf?: JsonSchema[];
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
  to: ['', 'drums'],
}; // prettier-ignore

const WHERES = [{}, { bars: [2, 5] }, { bars: [3, 4], voice: 'inner' }, { bars: [90, 91] }];

/** Every step of a kind with one setting at an end, and all of its numbers at either end together. */
function stepsAtEnds(kind: string): Step[] {
  const schema = z.toJSONSchema(STEP_KINDS.find((each) => each.kind === kind)?.schema ?? z.never(), {
    io: 'input',
    unrepresentable: 'any',
  }) as JsonSchema;
  const settings = Object.entries(schema.properties ?? {}).filter(
    ([name]) =>
      !['kind', 'where', 'on', 'change', 'delete', 'add', 'groove'].includes(name) ||
      (kind !== 'edits' && name === 'add'),
  );
  const ends = settings.map(
    ([name, own]) => [name, MORE[name] && kind !== 'nudge' ? MORE[name] : endsOf(own)] as const,
  );
  const single = ends.flatMap(([name, values]) => values.map((value) => ({ [name]: value })));
  const together = [0, -1].map((end) =>
    Object.fromEntries(ends.map(([name, values]) => [name, values.at(end)])),
  );
  return [{}, ...single, ...together].flatMap((some) =>
    WHERES.flatMap((where) => {
      const filled = { ...some, ...('degrees' in some ? { key: 'C major' } : {}) };
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
      from !== undefined &&
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
    if (touched[from] === 0 && after.start[row] !== before.start[from])
      throw new Error(`${JSON.stringify(step)} moves a note outside its where`);
  }
}

describe.each(STEP_KINDS.map(({ kind }) => kind))('%s with every setting at its ends', (kind) => {
  const steps = stepsAtEnds(kind);

  it.each(MATERIALS)('on %s, across changes of meter and tempo', (_, notes) => {
    const material = { notes: noteTableOf(notes.map((note, id) => ({ id, ...note }))), events: noEvents };
    expect(steps.length).toBeGreaterThanOrEqual(WHERES.length);
    for (const step of steps) {
      const after = applyStep(material, step, context);
      check(material.notes, after.notes, step);
      expect(applyStep(material, step, context)).toEqual(after);
    }
  });
});
