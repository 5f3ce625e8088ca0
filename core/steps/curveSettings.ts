import { z } from 'zod';
import { LANE_PATTERN, RAMP_SHAPES, WAVE_SHAPES } from '../curves';
import { markTableSchema, placedMarkSchema } from './dynamics';
import { numberSetting, range, ranged } from './numberSettings';
import { noteValueSchema, stepBase } from './settings';

/** Cents a bend can be told in at the widest: 127 semitones and a cent short of one more. */
const MOST = 12800;

export const laneSchema = z
  .string('must be a lane')
  .regex(LANE_PATTERN, 'must be a lane: cc0 to cc119, bend, pressure, program, or key0 to key127');

const value = ranged(-MOST, MOST);

const rate = z.union(
  [
    z.strictObject({ hz: ranged(0.01, 50, { unit: 'Hz', usual: [0.1, 12], step: 0.1 }) }),
    z.strictObject({ note: noteValueSchema }),
  ],
  'must be a rate like {"hz": 5.5} or {"note": "1/8"}',
);

export const pointSchema = z.strictObject({
  at: z.number('must be a tick').min(0, 'must be 0 or more').max(1e9, 'must be at most 1000000000'),
  value,
});

const curve = <Op extends string, Shape extends z.ZodRawShape>(op: Op, shape: Shape) =>
  z.strictObject({
    kind: z.literal('curve'),
    ...stepBase,
    lane: laneSchema.default('cc11'),
    op: z.literal(op),
    ...shape,
  });

/**
 * What a curve step may do, by its `op`. Controller and pressure values are 0-127; a bend is in cents at the part's
 * bend range, centre 0. See docs/recipe-format.md.
 */
export const curveSchema = z.discriminatedUnion('op', [
  curve('scale', { percent: numberSetting(0, 1000, 100, { unit: '%', usual: [0, 200] }) }),
  curve('add', { amount: value.default(0) }),
  curve('limit', { range: range(value).default([0, 127]) }),
  curve('invert', {}),
  curve('smooth', { ms: numberSetting(0, 60000, 100, { unit: 'ms', usual: [0, 1000] }) }),
  curve('thin', {
    tolerance: numberSetting(0, MOST, 1, { step: 0.1 }),
    by: z.enum(['held', 'line'], 'must be "held" or "line"').default('held'),
  }),
  curve('snap', { grid: noteValueSchema.default('1/16') }),
  curve('ramp', {
    from: value.default(0),
    to: value.default(127),
    shape: z.enum(RAMP_SHAPES, `must be one of: ${RAMP_SHAPES.join(', ')}`).default('line'),
  }),
  curve('wave', {
    /** The fade-in runs on from the first stretch to the next, instead of beginning anew at each. */
    fadeOnce: z.boolean('must be true or false').optional(),
    shape: z.enum(WAVE_SHAPES, `must be one of: ${WAVE_SHAPES.join(', ')}`).default('sine'),
    depth: numberSetting(0, MOST, 20),
    rate: rate.default({ hz: 5.5 }),
    fadeMs: numberSetting(0, 60000, 0, { unit: 'ms', usual: [0, 3000] }),
  }),
  curve('draw', { points: z.array(pointSchema).max(1e6).default([]) }),
  curve('marks', {
    lane: laneSchema.or(z.literal('velocity')).default('cc11'),
    marks: z.array(placedMarkSchema).max(1e5).default([]),
    table: markTableSchema.default({}),
  }),
  curve('remove', {}),
  curve('convert', { to: laneSchema.default('cc1') }),
  curve('copy', { to: laneSchema.default('cc1') }),
]);

export type CurveStep = z.infer<typeof curveSchema>;
export type CurveOp = CurveStep['op'];

/** The operations in the order of menus: change what is there, tidy it, write anew, move it elsewhere. */
export const CURVE_OPS: readonly { op: CurveOp; title: string }[] = [
  { op: 'scale', title: 'scale' },
  { op: 'add', title: 'add' },
  { op: 'limit', title: 'limit' },
  { op: 'invert', title: 'invert' },
  { op: 'smooth', title: 'smooth' },
  { op: 'thin', title: 'thin' },
  { op: 'snap', title: 'snap to the grid' },
  { op: 'ramp', title: 'ramp' },
  { op: 'wave', title: 'wave' },
  { op: 'draw', title: 'draw' },
  { op: 'marks', title: 'dynamic marks' },
  { op: 'remove', title: 'remove' },
  { op: 'convert', title: 'convert to' },
  { op: 'copy', title: 'copy to' },
];
