import { mapItems, type Part, type PlacedStep, type Session } from '../session';
import type { Step } from '../steps';
import { secondsToTicks, ticksToSeconds, type Timeline } from '../time';

/** Where what a step says of one tick is said of now. */
type Place = (tick: number) => number;

/**
 * A part whose steps speak of other places in ticks: hand edits, drawn points and presses, blocks, and where a pulse was played. What a pulse has brought to the
 * grid lies by the grid: steps after it stay.
 */
export function carriedPart(part: Part, place: Place, ticksPerQuarter: number): Part {
  let isOnGrid = false;
  const byId: Record<string, PlacedStep> = {};
  for (const id of part.steps.order) {
    const placed = part.steps.byId[id];
    byId[id] = isOnGrid ? placed : { ...placed, step: carriedStep(placed.step, place, ticksPerQuarter) };
    if (placed.step.kind === 'pulse' && placed.step.on) isOnGrid = true;
  }
  return { ...part, steps: { ...part.steps, byId } };
}

function carriedStep(step: Step, place: Place, ticksPerQuarter: number): Step {
  const quarters = (at: number) => Math.max(0, place(at * ticksPerQuarter) / ticksPerQuarter);
  const point = <P extends { at: number }>(each: P): P => ({ ...each, at: place(each.at) });
  switch (step.kind) {
    case 'edits':
      return {
        ...step,
        change: Object.fromEntries(
          Object.entries(step.change).map(([id, { start, end, ...rest }]) => [
            id,
            {
              ...rest,
              ...(start !== undefined && { start: place(start) }),
              ...(end !== undefined && { end: place(end) }),
            },
          ]),
        ),
        add: step.add.map((note) => ({ ...note, start: place(note.start), end: place(note.end) })),
        ...(step.messages && { messages: step.messages.map(place) }),
        ...(step.curves && {
          curves: step.curves.map((curve) => ({
            ...curve,
            from: place(curve.from),
            to: place(curve.to),
            points: curve.points.map(point),
          })),
        }),
      };
    case 'curve':
      if (step.op === 'marks') return { ...step, marks: step.marks.map(point) };
      return step.op === 'draw' ? { ...step, points: step.points.map(point) } : step;
    case 'pedal':
      return step.op === 'draw'
        ? {
            ...step,
            spans: step.spans.map((span) =>
              Array.isArray(span)
                ? ([place(span[0]), place(span[1])] as [number, number])
                : { ...span, start: place(span.start), end: place(span.end) },
            ),
          }
        : step;
    case 'layout':
      return {
        ...step,
        blocks: step.blocks.map((block) => ({
          ...block,
          from: quarters(block.from),
          to: quarters(block.to),
          at: block.at < 0 ? block.at : quarters(block.at),
        })),
      };
    case 'pulse':
      return { ...step, beats: step.beats.map(([played, target]) => [quarters(played), target]) };
    default:
      return step;
  }
}

/** Whether hand edits of so many notes are in the part that they are kept in a table of their own, which is not carried. */
export const hasEditTable = (part: Part): boolean =>
  part.steps.order.some((id) => {
    const { step } = part.steps.byId[id];
    return step.kind === 'edits' && step.table !== undefined;
  });

/** The session under another tempo map and meter: parts locked to beats go along, those locked to seconds stay where they were in real time, with all that was done to them by hand. */
export function underMap(
  session: Session,
  maps: Pick<Session, 'tempos' | 'meters'>,
  from: Timeline,
  to: Timeline,
): Session {
  const place: Place = (tick) => Math.max(0, secondsToTicks(to.tempo, ticksToSeconds(from.tempo, tick)));
  const isSame = JSON.stringify(session.tempos) === JSON.stringify(maps.tempos);
  return {
    ...session,
    tempos: maps.tempos,
    meters: maps.meters,
    parts: isSame
      ? session.parts
      : mapItems(session.parts, (part) =>
          part.lockedTo === 'seconds' ? carriedPart(part, place, from.ticksPerQuarter) : part,
        ),
  };
}
