import { readMidi, writeMidi } from '../midi';
import { listOf, timelineOf } from '../session';
import { takesOfPart } from '../takes';
import { chanceOf } from '../steps/random';
import { fileOfNotes } from '../testing/files';
import { filesTogether } from './filesTogether';
import { gatherFiles } from './takesOfFiles';

/** Sixteen bars of eighths on some pitches, `late` ms behind at 120 bpm, from a quarter on. */
function played(late: number, { base = 60, from = 0, seed = 1, beats = 64 } = {}) {
  const rows = Array.from({ length: 2 * beats }, (_, at): [number, number, number, number] => {
    const start = Math.round(
      from * 480 + 480 + at * 240 + (late + 6 * (2 * chanceOf(seed, at, 0) - 1)) * 0.96,
    );
    return [start, start + 150, base + ((at * 5) % 7), 80];
  });
  return readMidi(writeMidi(fileOfNotes(rows, 480))).file;
}

describe('what several files are', () => {
  it.each([
    ['takes', [played(5), played(20, { seed: 2 }), played(-8, { seed: 3 })]],
    ['parts', [played(5), played(5, { base: 36 })]],
    ['sessions', [played(5), played(5, { beats: 20 })]],
    ['sessions', [played(5)]],
  ] as const)('is seen from their notes: %s', (proposal, files) => {
    expect(filesTogether(files).proposal).toBe(proposal);
  });
});

describe('a session of several files', () => {
  let next = 0;
  const newId = () => `id${next++}`;
  const files = [
    { name: 'take 1.mid', file: played(12) },
    { name: 'take 2.mid', file: played(30, { seed: 2 }) },
    // Begun two bars later, as after another count-in.
    { name: 'take 3.mid', file: played(-10, { from: 8, seed: 3 }) },
  ];

  it('has them as takes that lie on each other, what each is late taken off', () => {
    const { session } = gatherFiles(files, 'takes', { name: 'all', isLinedUp: true }, newId, 0);
    const [part] = listOf(session.parts);
    const takes = takesOfPart(part, session);
    expect(takes.map(({ name }) => name)).toEqual(['take 1', 'take 2', 'take 3']);
    const ms = (ticks: number) => (1000 * ticks) / (2 * timelineOf(session).ticksPerQuarter);
    const slides = takes.map(({ slide }) => ms(slide));
    expect(slides[0]).toBeCloseTo(-12, -0.5);
    expect(slides[1]).toBeCloseTo(-30, -0.5);
    expect(slides[2]).toBeCloseTo(-4000 + 10, -0.5);
  });

  it('has them where they were played where that is wanted, or as parts of one recording', () => {
    const as = gatherFiles(files, 'takes', { name: 'all', isLinedUp: false }, newId, 0);
    expect(takesOfPart(listOf(as.session.parts)[0], as.session).map(({ slide }) => slide)).toEqual([0, 0, 0]);
    const { session } = gatherFiles(files, 'parts', { name: 'all', isLinedUp: true }, newId, 0);
    expect(session.parts.order).toHaveLength(3);
    expect(new Set(listOf(session.parts).map(({ recording }) => recording)).size).toBe(1);
    const numbers = listOf(session.parts).flatMap(({ layers }) =>
      listOf(layers).flatMap(({ pieces }) => listOf(pieces).map(({ number }) => number)),
    );
    expect(new Set(numbers).size).toBe(3);
  });
});
