import type { CurveEdit, EditColumns, Step, Where } from '../steps';

const scaledWhere = (where: Where, scale: number): Where =>
  where.length
    ? { ...where, length: [Math.round(where.length[0] * scale), Math.round(where.length[1] * scale)] }
    : where;

const scaledPair = ([from, to]: readonly [number, number], scale: number): [number, number] => [
  from * scale,
  to * scale,
];

/** Hand edits of many notes with their places in ticks `scale` times as long. */
export function scaledColumns(columns: EditColumns, scale: number): EditColumns {
  const { id, fields, pitch, velocity, channel } = columns;
  return {
    id,
    fields,
    start: columns.start.map((tick) => tick * scale),
    end: columns.end.map((tick) => tick * scale),
    pitch,
    velocity,
    channel,
  };
}

function scaledCurves(curves: readonly CurveEdit[], scale: number): CurveEdit[] {
  return curves.map((curve) => ({
    ...curve,
    from: curve.from * scale,
    to: curve.to * scale,
    points: curve.points.map((point) => ({ ...point, at: point.at * scale })),
  }));
}

type Settings = Extract<Step, { kind: 'edits' }>;

function scaledEdits(step: Settings, scale: number): Settings {
  const change = Object.fromEntries(
    Object.entries(step.change).map(([id, { start, end, ...rest }]) => [
      id,
      {
        ...rest,
        ...(start !== undefined && { start: start * scale }),
        ...(end !== undefined && { end: end * scale }),
      },
    ]),
  );
  const add = step.add.map((note) => ({ ...note, start: note.start * scale, end: note.end * scale }));
  return {
    ...step,
    change,
    add,
    ...(step.curves && { curves: scaledCurves(step.curves, scale) }),
    ...(step.messages && { messages: step.messages.map((at) => at * scale) }),
  };
}

/**
 * A step for a session whose ticks are another length: everything it says in ticks is `scale` times as many. Columns of hand edits are named by their
 * content and are to be scaled for themselves (`scaledColumns`).
 */
export function scaledStep(step: Step, scale: number): Step {
  if (scale === 1) return step;
  const where = scaledWhere(step.where, scale);
  switch (step.kind) {
    case 'edits':
      return { ...scaledEdits(step, scale), where };
    case 'nudge':
      return { ...step, where, ticks: step.ticks * scale };
    case 'stretch':
      return { ...step, where, ...(step.toTicks !== undefined && { toTicks: step.toTicks * scale }) };
    case 'length':
      return {
        ...step,
        where,
        ...(step.limit && { limit: scaledPair(step.limit, scale) }),
        ...(step.legato && { legato: { ...step.legato, gapTicks: step.legato.gapTicks * scale } }),
      };
    case 'pedal':
      return step.op === 'draw'
        ? {
            ...step,
            where,
            spans: step.spans.map((span) =>
              Array.isArray(span)
                ? scaledPair(span, scale)
                : { ...span, start: span.start * scale, end: span.end * scale },
            ),
          }
        : { ...step, where };
    case 'curve':
      return step.op === 'draw'
        ? { ...step, where, points: step.points.map((point) => ({ ...point, at: point.at * scale })) }
        : { ...step, where };
    default:
      return { ...step, where } as Step;
  }
}
