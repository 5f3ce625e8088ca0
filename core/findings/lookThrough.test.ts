import { nameOfFinding } from '.';

describe('the name of a finding', () => {
  it('goes by its notes, whatever steps do to their places, and by its place where it has none', () => {
    expect(nameOfFinding({ kind: 'overlap', notes: [3, 4], tick: 480 })).toBe(
      nameOfFinding({ kind: 'overlap', notes: [3, 4], tick: 500 }),
    );
    expect(nameOfFinding({ kind: 'overlap', notes: [3, 4], tick: 480 })).not.toBe(
      nameOfFinding({ kind: 'double-strike', notes: [3, 4], tick: 480 }),
    );
    expect(nameOfFinding({ kind: 'pedal-left-down', notes: [], tick: 480 })).not.toBe(
      nameOfFinding({ kind: 'pedal-left-down', notes: [], tick: 960 }),
    );
  });
});
