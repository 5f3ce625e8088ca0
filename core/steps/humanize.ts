import { z } from 'zod';
import { drawnBy as defaultDraw, sortedByStart, withColumns, type Material } from '../model';
import { secondsToTicks, ticksToSeconds } from '../time';
import { normalOf } from './random';
import { PERCENT, numberSetting, whole } from './numberSettings';
import { stepBase } from './settings';
import { namesNoNotes, saysNoTicks, type StepContext, type StepKind } from './stepKind';

const schema = z.strictObject({
  kind: z.literal('humanize'),
  ...stepBase,
  timingMs: numberSetting(0, 500, 0, { unit: 'ms', usual: [0, 40], step: 0.5 }),
  velocity: numberSetting(0, 64, 0, { usual: [0, 30], step: 0.5 }),
  lengthPct: numberSetting(0, 100, 0, { unit: '%', usual: [0, 50] }),
  drift: numberSetting(0, 100, 0, PERCENT),
  seed: whole(0, 0xffffffff).default(1),
});

export type HumanizeStep = z.infer<typeof schema>;

/** Deviations at which the chances are cut off. */
const LIMIT = 2.5;
/**
 * Seconds over which the slow parts of a player's timing forget themselves. Three wanderings at spaced rates, equally
 * strong, fall off about as 1/f does between them (Hennig et al. 2011 find 1/f-like timing in skilled players; the
 * sum is common practice).
 */
const MEMORIES = [0.8, 3.2, 12.8];

/**
 * Adds chance to starts, velocities and lengths: each of `timingMs`, `velocity` and `lengthPct` is one standard
 * deviation of a normal distribution cut off at 2.5. Of the timing's variance the share `drift` wanders slowly, the
 * rest is drawn note by note.
 */
function apply(
  material: Material,
  step: HumanizeStep,
  { timeline, drawnBy = defaultDraw }: StepContext,
  touched: Uint8Array,
): Material {
  const { notes } = material;
  if (notes.length === 0 || (step.timingMs === 0 && step.velocity === 0 && step.lengthPct === 0))
    return material;
  const { tempo } = timeline;
  const start = notes.start.slice();
  const end = notes.end.slice();
  const velocity = notes.velocity.slice();
  const slow = createWandering(step.seed);
  const [driftShare, ownShare] = [Math.sqrt(step.drift / 100), Math.sqrt(1 - step.drift / 100)];
  for (let row = 0; row < notes.length; row++) {
    if (touched[row] === 0) continue;
    const id = drawnBy(notes.id[row]);
    const second = ticksToSeconds(tempo, notes.start[row]);
    const length = notes.end[row] - notes.start[row];
    if (step.timingMs > 0) {
      const own = normalOf(step.seed, id, 0, LIMIT);
      const deviation = step.drift === 0 ? own : clip(driftShare * slow(second, id) + ownShare * own);
      start[row] = Math.max(0, secondsToTicks(tempo, second + (deviation * step.timingMs) / 1000));
    }
    const factor = step.lengthPct > 0 ? 1 + (normalOf(step.seed, id, 1, LIMIT) * step.lengthPct) / 100 : 1;
    end[row] = start[row] + Math.max(1, length * factor);
    if (step.velocity > 0)
      velocity[row] = Math.min(
        127,
        Math.max(1, velocity[row] + normalOf(step.seed, id, 2, LIMIT) * step.velocity),
      );
  }
  return { ...material, notes: sortedByStart(withColumns(notes, { start, end, velocity })) };
}

const clip = (value: number) => Math.max(-LIMIT, Math.min(LIMIT, value));

/**
 * Deviations that wander: a sum of first-order autoregressive processes (Ornstein and Uhlenbeck 1930) sampled at the
 * notes' times.
 */
function createWandering(seed: number): (second: number, id: number) => number {
  const states = MEMORIES.map(() => ({ value: NaN, second: 0 }));
  return (second, id) => {
    let sum = 0;
    states.forEach((state, index) => {
      const chance = normalOf(seed, id, 10 + index, 4);
      const kept = Number.isNaN(state.value)
        ? 0
        : Math.exp(-Math.max(0, second - state.second) / MEMORIES[index]);
      state.value = kept === 0 ? chance : state.value * kept + chance * Math.sqrt(1 - kept * kept);
      state.second = second;
      sum += state.value;
    });
    return sum / Math.sqrt(MEMORIES.length);
  };
}

function describe({ timingMs, velocity, lengthPct, drift }: HumanizeStep): string {
  const words = [
    ...(timingMs > 0 ? [`±${timingMs} ms${drift > 0 ? `, drift ${drift} %` : ''}`] : []),
    ...(velocity > 0 ? [`velocity ±${velocity}`] : []),
    ...(lengthPct > 0 ? [`length ±${lengthPct} %`] : []),
  ];
  return words.join(', ') || 'nothing yet';
}

/** Adds the unevenness of a player. */
export const humanize: StepKind<HumanizeStep> = {
  kind: 'humanize',
  title: 'Humanize',
  work: 'feel',
  hint: 'Add the unevenness of a player',
  schema,
  // Skilled players' timing varies by some 10 to 20 ms (from memory); half of that is felt and not yet heard as loose.
  start: () => ({ timingMs: 6, velocity: 4, drift: 50 }),
  mapTicks: saysNoTicks,
  mapIds: namesNoNotes,
  apply,
  describe,
  movesTime: true,
  measure: ({ timingMs, velocity }) => (timingMs === 0 && velocity > 0 ? 'evenness' : 'grid'),
  values: ({ timingMs, velocity }) => (timingMs === 0 && velocity > 0 ? 'velocity' : null),
};
