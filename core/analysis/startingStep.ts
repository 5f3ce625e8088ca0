import { createStep, type Step, type Where } from '../steps';
import type { PartFacts } from './partFacts';

/** What a part is, as far as the settings of a new step depend on it. */
export interface StartingPoint {
  facts: PartFacts;
  isDrums: boolean;
  /** Part to align to, by id; empty where there is no other. */
  alignTo: string;
  /** Whether other parts get the step too. */
  isOneOfSeveral: boolean;
}

/** Controllers that are on or off, or set something up: nothing to smooth. */
const SWITCHES = new Set([
  'program',
  'cc0',
  'cc6',
  'cc32',
  'cc38',
  'cc64',
  'cc65',
  'cc66',
  'cc67',
  'cc98',
  'cc99',
  'cc100',
  'cc101',
]);

/** Less lateness than this throughout a part is no habit worth taking out. */
const LEAST_BIAS_MS = 3;
/** A pitched note shorter than this was touched by mistake; strokes of drums may be as short. */
const TOUCHED_MS = 25;

/** A new step of a kind with settings to start from, chosen from what is in the part; a person goes on from there. */
export function startingStep(
  kind: Step['kind'],
  { facts, isDrums, alignTo, isOneOfSeveral }: StartingPoint,
  where: Where = {},
): Step {
  switch (kind) {
    // Full strength on every note would flatten a played chord; editors start below it (common practice: 75 to 85 %).
    case 'quantize':
      return createStep('quantize', {
        where,
        grid: facts.grid,
        swing: facts.swing,
        strength: 80,
        chords: !isDrums && facts.chordShare > 0.2 ? 'spread' : 'each',
      });
    case 'groove': {
      const groove =
        facts.grid.startsWith('1/4') || facts.grid.startsWith('1/8') ? 'eighth swing' : 'sixteenth swing';
      // It changes nothing until a groove is picked or an amount is set.
      return createStep('groove', { where, groove, timing: 0 });
    }
    // Skilled players' timing varies by some 10 to 20 ms (from memory); half of that is felt and not yet heard as loose.
    case 'humanize':
      return createStep('humanize', { where, timingMs: 6, velocity: 4, drift: 50 });
    case 'align':
      return createStep('align', { where, to: alignTo, strength: 80 });
    case 'nudge':
      return createStep('nudge', {
        where,
        ms: Math.abs(facts.biasMs) < LEAST_BIAS_MS ? 0 : -Math.round(facts.biasMs),
      });
    // From a bar line a part keeps its place in the bars; several parts keep theirs among each other only from one place.
    case 'stretch':
      return createStep('stretch', {
        where,
        anchor: Object.keys(where).length > 0 ? 'start' : isOneOfSeveral ? 'session' : 'bar',
      });
    case 'remove':
      return createStep('remove', {
        where,
        doublesWithinMs: 40,
        ...(!isDrums && facts.shortestMs < TOUCHED_MS ? { shorterThanMs: TOUCHED_MS } : {}),
      });
    // Smoothing what is there; a lane that holds nothing can only be drawn.
    case 'curve': {
      const shapeable = facts.lanes.filter((each) => !SWITCHES.has(each));
      // Expression where there is some, else the lane with most points.
      const lane = shapeable.includes('cc11') ? 'cc11' : shapeable[0];
      return lane
        ? createStep('curve', { where, lane, op: 'smooth', ms: 60 })
        : createStep('curve', { where, lane: 'cc11', op: 'ramp', from: 64, to: 110 });
    }
    case 'pedal':
      return facts.lanes.includes('cc64')
        ? createStep('pedal', { where, op: 'shift', ms: 0 })
        : createStep('pedal', { where, op: 'repedal' });
    // Both begin as they are: the whole part where it lies, its ends on the same beats.
    case 'layout':
      return createStep('layout', {
        blocks: [{ id: 'block1', from: 0, to: facts.endQuarters, at: 0, times: 1, stretch: 1, held: 'ring' }],
      });
    case 'pulse':
      return createStep('pulse', { beats: [[0, 0], [facts.endQuarters, facts.endQuarters]] }); // prettier-ignore
    default:
      return createStep(kind, { where });
  }
}
