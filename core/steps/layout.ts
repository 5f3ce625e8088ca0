import { z } from 'zod';
import type { Material } from '../model';
import { applyLayout, copyIds } from './layoutCopies';
import { numberSetting, whole } from './numberSettings';
import { quarterAt, type Placing } from './placing';
import { partWide } from './settings';
import { namesNoNotes, type StepContext, type StepKind, type StepCommon } from './stepKind';

const quarters = z
  .number('must be a number of quarters')
  .min(0, 'must not be below 0')
  .max(1e7, 'must be at most 10000000');

const blockSchema = z
  .strictObject({
    /** Known by it in a session, so that copies keep their identities when others come and go. */
    id: z.string().optional(),
    from: quarters,
    to: quarters,
    at: z
      .number('must be a number of quarters')
      .min(-1e7, 'must be at least -10000000')
      .max(1e7, 'must be at most 10000000'),
    times: whole(1, 10_000).default(1),
    stretch: numberSetting(0.01, 100, 1, { step: 0.001 }),
    held: z.enum(['ring', 'cut'], 'must be "ring" or "cut"').default('ring'),
    /** Only there where it is true: the block keeps its place and lays nothing. */
    muted: z.boolean().optional(),
  })
  .refine(({ from, to }) => from < to, { message: 'to must come after from', path: ['to'] });

const schema = z.strictObject({
  kind: z.literal('layout'),
  ...partWide,
  blocks: z
    .array(blockSchema, 'must be a list of blocks')
    .min(1, 'must hold at least one block')
    .max(10_000, 'must hold at most 10000 blocks'),
});

export type LayoutStep = z.infer<typeof schema>;
export type LayoutBlock = z.infer<typeof blockSchema>;

function apply(material: Material, step: LayoutStep, context: StepContext): Material {
  return applyLayout(material, step.blocks, context);
}

/**
 * A block where its source and its place lie now; its start is cut off where that comes before the session begins,
 * and it is gone where nothing is left.
 */
function placedBlock(block: LayoutBlock, placing: Placing): LayoutBlock[] {
  const [from, to, at] = [block.from, block.to, block.at].map((place) => quarterAt(placing, place));
  const cut = Math.max(0, -from);
  // What is told to lie before the start goes on doing so: only what is not there any more is left out.
  if (to <= Math.max(0, from)) return [];
  return [{ ...block, from: from + cut, to, at: at + cut * block.stretch }];
}

function describe({ blocks }: LayoutStep): string {
  const copies = blocks.reduce((sum, { times }) => sum + times, 0);
  const words = blocks.length === 1 ? '1 stretch' : `${blocks.length} stretches`;
  return copies === blocks.length ? words : `${words}, ${copies} copies`;
}

export const isLayout = (step: StepCommon): step is LayoutStep => step.kind === 'layout';

/** Says where stretches of the cleaned part lie along the bars. */
export const layout: StepKind<LayoutStep> = {
  kind: 'layout',
  title: 'Layout',
  work: 'time',
  hint: 'Repeat, move, trim or leave out stretches',
  schema,
  // It begins as it is: the whole part where it lies.
  start: ({ facts }) => ({
    blocks: [{ id: 'block1', from: 0, to: facts.endQuarters, at: 0, times: 1, stretch: 1, held: 'ring' }],
  }),
  mapTicks: (step, placing) => ({
    ...step,
    blocks: step.blocks.flatMap((block) => placedBlock(block, placing)),
  }),
  mapIds: namesNoNotes,
  idsMade: ({ blocks }, id) => copyIds(blocks, id),
  apply,
  describe,
  measure: () => 'notes',
  movesTime: true,
  partWide: true,
  oncePerPart: true,
  laysOut: true,
};
