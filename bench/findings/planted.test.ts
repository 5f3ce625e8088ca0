import { REACH } from './findings';
import { ratesOf, tallyOfPlanted } from './planted';

describe('faults planted in the demo music', () => {
  it('are found, and little else', () => {
    const tallies = tallyOfPlanted(3);
    const { recall, precision } = ratesOf(tallies.values());
    expect(recall).toBeGreaterThanOrEqual(REACH.recall);
    expect(precision).toBeGreaterThanOrEqual(REACH.precision);
    // Every kind that is planted at all is found more often than not.
    for (const [kind, { planted, found }] of tallies)
      expect({ kind, most: found * 2 >= planted }).toEqual({ kind, most: true });
    expect([...tallies.values()].filter(({ planted }) => planted > 0).length).toBeGreaterThanOrEqual(8);
  });
});
