import fc from 'fast-check';
import { headOf, lineOf, readBackUp, type BackedUp } from './backUpFile';

const preferences = { marks: { recipes: [{ name: 'Tighten' }] }, local: { 'ordle-theme': 'dark' } };
const anySession = fc.record({
  name: fc.string({ unit: 'grapheme' }),
  bytes: fc.uint8Array({ maxLength: 60 }),
});
const textOf = (sessions: readonly BackedUp[]) =>
  headOf(sessions.length, preferences) + sessions.map(lineOf).join('');

describe('a back-up', () => {
  it('gives back what it was given', () => {
    fc.assert(
      fc.property(fc.array(anySession), (sessions) => {
        expect(readBackUp(textOf(sessions))).toEqual({ sessions, preferences, damaged: [] });
      }),
    );
  });

  it('that was cut short or damaged gives what is whole, and says of the rest that it is not there', () => {
    fc.assert(
      fc.property(
        fc.array(anySession, { minLength: 1 }),
        fc.double({ min: 0, max: 0.999, noNaN: true }),
        (sessions, share) => {
          const whole = textOf(sessions);
          const head = headOf(sessions.length, preferences).length;
          const cut = whole.slice(0, head + Math.floor((whole.length - head) * share));
          const read = readBackUp(cut);
          expect(sessions.slice(0, read.sessions.length)).toEqual(read.sessions);
          // All but the end of the last line.
          if (cut.length < whole.length - 1) expect(read.damaged.length).toBeGreaterThan(0);
        },
      ),
    );
    const [one, two] = [
      { name: 'Quay', bytes: Uint8Array.of(1) },
      { name: 'Tide', bytes: Uint8Array.of(2) },
    ];
    const broken = textOf([one, two]).replace(lineOf(one).trim(), '{"name":"Quay","file":7}');
    expect(readBackUp(broken)).toEqual({
      sessions: [two],
      preferences,
      damaged: ['The 1. session is damaged, or it was cut short.'],
    });
    const headless = textOf([one]).replace('"marks"', '"marx"');
    expect(readBackUp(headless)).toMatchObject({ sessions: [one], preferences: null });
  });

  it('is told from other files, and from those of a newer Ordle', () => {
    expect(() => readBackUp('MThd')).toThrow('no back-up');
    expect(() => readBackUp('{"ordle":"back-up","version":2}\n')).toThrow('newer Ordle');
  });
});
