import { createStep } from '../steps';
import type { Recipe } from './recipe';

const recipe = (name: string, steps: Recipe['steps']): Recipe => ({
  ordle: 'recipe',
  version: 1,
  name,
  steps,
});

/**
 * A few recipes of our own to begin with. Strengths by common practice: 75 to 85 % where life is wanted, some 35 %
 * for a light hand.
 *
 * @public
 */
export const BUILT_IN_RECIPES: readonly Recipe[] = [
  recipe('tighten gently', [createStep('quantize', { strength: 35, chords: 'spread', leaveWithinMs: 6 })]),
  recipe('tighten, alive', [createStep('quantize', { strength: 80, chords: 'spread', leaveWithinMs: 6 })]),
  recipe('tight drums, keep flams', [
    createStep('quantize', { strength: 90, keepFlams: true }),
    createStep('remove', { doublesWithinMs: 25 }),
  ]),
  recipe('piano: keep the rolls', [
    createStep('quantize', { grid: '1/16', strength: 75, chords: 'spread', chordMs: 60, leaveWithinMs: 10 }),
  ]),
  recipe('even loudness', [createStep('velocity', { compress: { ratio: 2, around: 76 }, limit: [30, 115] })]),
  recipe('tidy up', [
    createStep('remove', { shorterThanMs: 20, doublesWithinMs: 50 }),
    createStep('length', { noOverlap: true }),
  ]),
];
