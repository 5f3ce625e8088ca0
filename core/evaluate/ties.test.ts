import fc from 'fast-check';
import { parseMidi } from 'midi-file';
import { writeMidi } from '../midi';
import { createStep } from '../steps';
import { fileOfNotes } from '../testing/files';
import { cleanFile } from '.';

/** Notes as a reader that pairs first-in first-out finds them: start, end, pitch, velocity; in order. */
function pairedByPeer(bytes: Uint8Array): number[][] {
  const open = new Map<number, [number, number][]>();
  const notes: number[][] = [];
  let tick = 0;
  for (const event of parseMidi(bytes).tracks[0]) {
    tick += event.deltaTime;
    if (event.type === 'noteOn')
      open.set(event.noteNumber, [...(open.get(event.noteNumber) ?? []), [tick, event.velocity]]);
    else if (event.type === 'noteOff') {
      const [first, ...rest] = open.get(event.noteNumber) ?? [];
      if (first) notes.push([first[0], tick, event.noteNumber, first[1]]);
      open.set(event.noteNumber, rest);
    }
  }
  return notes.sort((a, b) => a[0] - b[0] || a[1] - b[1] || a[3] - b[3]);
}

/**
 * Strokes up to a beat are brought onto one line, their ends left; and those that are loud are made far longer
 * before.
 */
const STEPS = [
  createStep('length', { scale: 300, noOverlap: false, where: { velocity: [64, 127] } }),
  createStep('quantize', { grid: '1/2', keepLength: false, keepFlams: false }),
];

describe('strokes of one pitch brought to one tick', () => {
  it('are written so that another reader gives each its own end', () => {
    // The first becomes the longer one: by the old order the reader would give it the shorter's end.
    const file = fileOfNotes([[230, 400, 60, 110], [236, 500, 60, 30]], 480); // prettier-ignore
    const cleaned = cleanFile(file, STEPS).file;
    expect(pairedByPeer(writeMidi(cleaned))).toEqual([[0, 500, 60, 30], [0, 740, 60, 110]]); // prettier-ignore
  });

  it('keep their ends, however many there are', () => {
    const anyNotes = fc.array(
      fc.record({
        start: fc.integer({ min: 1, max: 100 }),
        length: fc.integer({ min: 120, max: 400 }),
        velocity: fc.integer({ min: 1, max: 127 }),
      }),
      { minLength: 1, maxLength: 6 },
    );
    fc.assert(
      fc.property(anyNotes, (list) => {
        const file = fileOfNotes(
          list.map(({ start, length, velocity }): [number, number, number, number] => [
            start,
            start + length,
            60,
            velocity,
          ]),
          480,
        );
        const expected = pairedByPeer(writeMidi(file)).map(([start, end, pitch, velocity]) => [
          0,
          velocity >= 64 ? start + 3 * (end - start) : end,
          pitch,
          velocity,
        ]);
        const cleaned = pairedByPeer(writeMidi(cleanFile(file, STEPS).file));
        const inOrder = (notes: number[][]) => [...notes].sort((a, b) => a[1] - b[1] || a[3] - b[3]);
        expect(inOrder(cleaned)).toEqual(inOrder(expected));
      }),
    );
  });
});
