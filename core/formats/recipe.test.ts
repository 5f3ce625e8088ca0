import { OrdleError } from '../errors';
import { BUILT_IN_RECIPES, parseRecipe, recipeJsonSchema } from '.';

const recipe = (steps: unknown[], more = {}) =>
  JSON.stringify({ ordle: 'recipe', version: 1, name: 'Quay', steps, ...more });
const fault = (text: string) => {
  try {
    parseRecipe(text);
  } catch (error) {
    if (error instanceof OrdleError) return error.message;
    throw error;
  }
  throw new Error('was accepted');
};

describe('recipes', () => {
  it('fill in every default', () => {
    expect(parseRecipe(recipe([{ kind: 'quantize' }])).steps[0]).toEqual({
      kind: 'quantize',
      on: true,
      where: {},
      grid: '1/16',
      edge: 'start',
      keepLength: true,
      strength: 100,
      swing: 50,
      shiftMs: 0,
      leaveWithinMs: 0,
      leaveBeyond: 100,
      chords: 'each',
      chordMs: 30,
      keepFlams: true,
      flamMs: 60,
      minLength: '1/64',
      drumEnds: false,
    });
  });

  it.each([
    [
      [{ kind: 'quantize' }, { kind: 'quantize' }, { kind: 'quantize', strength: 101 }],
      'steps[2].strength: must be 0 to 100',
    ],
    [[{ kind: 'quantize', swing: 49 }], 'steps[0].swing: must be 50 to 75'],
    [[{ kind: 'quantize', strength: '80' }], 'steps[0].strength: must be a number, 0 to 100'],
    [[{ kind: 'quantize', strenght: 80 }], 'steps[0].strenght: is not a setting this version knows'],
    [
      [{ kind: 'quantize', where: { bars: [3, 3] } }],
      'steps[0].where.bars: the second bar must come after the first',
    ],
    [[{ kind: 'quantize', where: { bar: [3, 4] } }], 'steps[0].where.bar: is not a setting'],
    [[{ kind: 'quantize', where: { pitch: [3, 400] } }], 'steps[0].where.pitch[1]: must be 0 to 127'],
    [[{ kind: 'quantize', grid: '1/3' }], 'steps[0].grid'],
    [[{ kind: 'polish' }], 'steps[0].kind: "polish" is not a kind of step'],
    [[{}], 'steps[0].kind: undefined is not a kind of step'],
    [[{ kind: 'curve' }], 'steps[0].op: undefined is not a choice; known are "scale", "add"'],
    [
      [
        { kind: 'pedal', op: 'draw' },
        { kind: 'pedal', op: 'lift' },
      ],
      'steps[1].op: "lift" is not a choice; known are "shift", "extend", "repedal", "fromLengths", "draw", "remove"',
    ],
  ])('refuse %j with the path of the fault', (steps, sentence) => {
    expect(fault(recipe(steps))).toContain(sentence);
  });

  it('refuse other files, other versions and broken JSON', () => {
    expect(fault('{')).toContain('not valid JSON');
    expect(fault('[]')).toContain('cannot be used');
    expect(fault(recipe([], { version: 2 }))).toContain('version: must be 1');
    expect(fault(recipe([], { extra: 1 }))).toContain('extra: is not a setting');
  });

  it('have a JSON Schema that names the kinds', () => {
    expect(JSON.stringify(recipeJsonSchema())).toContain('"quantize"');
  });

  it('built in are valid recipes', () => {
    for (const recipe of BUILT_IN_RECIPES) expect(parseRecipe(JSON.stringify(recipe))).toEqual(recipe);
  });
});
