import { z } from 'zod';
import { pickEvents, staysPut, type EventColumns } from '../midi';
import { mergeOrder, sortedByStart, withColumns, type Material } from '../model';
import { lastAtOrBefore } from '../time';
import { PERCENT, numberSetting } from './numberSettings';
import { gridQuarterAt, quarterAt } from './placing';
import { partWide } from './settings';
import { namesNoNotes, type StepContext, type StepKind, type StepCommon } from './stepKind';

const quarters = z
  .number('must be a number of quarters')
  .min(0, 'must not be below 0')
  .max(1e7, 'must be at most 10000000');

const schema = z.strictObject({
  kind: z.literal('pulse'),
  ...partWide,
  /** Where beats were played and where they are to lie, in quarters from the start. */
  beats: z
    .array(z.tuple([quarters, quarters], 'must be a pair of played and target'), 'must be a list of pairs')
    .min(2, 'must hold at least two pairs')
    .max(1_000_000, 'must hold at most 1000000 pairs')
    .superRefine((beats, context) => {
      const at = beats.findIndex(
        ([played, target], index) =>
          index > 0 && (played <= beats[index - 1][0] || target <= beats[index - 1][1]),
      );
      if (at >= 0)
        context.addIssue({
          code: 'custom',
          path: [at],
          message: 'must come after the pair before it, on both sides',
        });
    }),
  strength: numberSetting(0, 100, 100, PERCENT),
});

export type PulseStep = z.infer<typeof schema>;

/**
 * Moves played beats onto others: new place = t + strength/100 x (map(t) - t), for starts, ends and everything else
 * of the part alike. Between two pairs the map is even; outside them it has the ratio of the nearest two.
 */
function apply(material: Material, step: PulseStep, { timeline, channel }: StepContext): Material {
  const place = createPulse(step, timeline.ticksPerQuarter);
  const { notes } = material;
  const [start, end] = [notes.start.map(place), notes.end.map(place)];
  for (let row = 0; row < notes.length; row++)
    if (start[row] !== notes.start[row] || end[row] !== notes.end[row])
      end[row] = Math.max(end[row], start[row] + 1);
  const events = placedEvents(material.events, place, channel);
  const moved =
    start.some((tick, row) => tick !== notes.start[row]) || end.some((tick, row) => tick !== notes.end[row]);
  if (!moved && events === material.events) return material;
  return { notes: moved ? sortedByStart(withColumns(notes, { start, end }), true) : notes, events };
}

/** The map as a function of ticks; nothing goes below 0. */
export function createPulse(
  { beats, strength }: Pick<PulseStep, 'beats' | 'strength'>,
  ticksPerQuarter: number,
) {
  const played = Float64Array.from(beats, ([at]) => at * ticksPerQuarter);
  const target = Float64Array.from(beats, ([, to]) => to * ticksPerQuarter);
  return (tick: number): number => {
    const row = Math.min(played.length - 2, Math.max(0, lastAtOrBefore(played, tick)));
    const ratio = (target[row + 1] - target[row]) / (played[row + 1] - played[row]);
    const mapped = target[row] + (tick - played[row]) * ratio;
    return Math.max(0, tick + (strength / 100) * (mapped - tick));
  };
}

/** What comes to lie before the start is left out, for all but two pairs, without which there would be no map. */
function risingPairs(pairs: readonly [number, number][]): [number, number][] {
  const kept = pairs.filter(([played, target]) => played >= 0 && target >= 0);
  if (kept.length >= 2) return kept;
  const last = pairs.slice(-2);
  const by = Math.max(0, ...last.map(([played, target]) => Math.max(-played, -target)));
  return last.map(([played, target]) => [played + by, target + by]);
}

/**
 * Every event of a part at its new place, but for those that stay put, and those of other channels where one is named
 * (0-15).
 */
function placedEvents(events: EventColumns, place: (tick: number) => number, channel?: number): EventColumns {
  const tick = events.tick.map((at, row) => {
    const foreign =
      channel !== undefined && events.status[row] < 0xf0 && (events.status[row] & 15) !== channel;
    return foreign || staysPut(events, row) ? at : place(at);
  });
  if (tick.every((at, row) => at === events.tick[row])) return events;
  return pickEvents(
    { ...events, tick },
    mergeOrder(events.length, (a, b) => tick[a] - tick[b]),
  );
}

function describe({ beats, strength }: PulseStep): string {
  const words = `${beats.length} beats`;
  return strength === 100 ? words : `${words}, ${strength} %`;
}

export const isPulse = (step: StepCommon): step is PulseStep => step.kind === 'pulse';

/** Moves a performance's own beats onto those of the session. */
export const pulse: StepKind<PulseStep> = {
  kind: 'pulse',
  title: 'Pulse',
  work: 'time',
  hint: 'Move played beats onto the bars',
  schema,
  // It begins as it is: its ends on the same beats.
  start: ({ facts: { endQuarters } }) => ({
    beats: [
      [0, 0],
      [endQuarters, endQuarters],
    ],
  }),
  mapTicks: (step, placing) => ({
    ...step,
    beats: risingPairs(
      step.beats.map(([played, target]) => [quarterAt(placing, played), gridQuarterAt(placing, target)]),
    ),
  }),
  mapIds: namesNoNotes,
  putsOnGrid: true,
  apply,
  describe,
  movesTime: true,
  partWide: true,
};
