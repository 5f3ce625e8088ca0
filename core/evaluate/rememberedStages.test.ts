import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { createStep } from '../steps';
import { readMidi, writeMidi } from '../midi';
import { orderedOf, listOf, sessionOfFile } from '../session';
import { fileOfNotes } from '../testing/files';
import { createTimeline } from '../time';
import { createEvaluator } from '.';
import { createRemembered } from './rememberedStages';

/**
 * Bytes of columns once the garbage is collected; what was let go is given back in the background, which is waited
 * for: until collecting gives back no more.
 */
async function bytesInUse(): Promise<number> {
  setFlagsFromString('--expose-gc');
  const gc = runInNewContext('gc') as () => void;
  let before = Infinity;
  for (;;) {
    gc();
    await new Promise((resolve) => setTimeout(resolve, 50));
    const now = process.memoryUsage().arrayBuffers;
    if (now >= before) return now;
    before = now;
  }
}

describe('remembered results', () => {
  it('go when they take too much room, those not used for longest first, never those in use', () => {
    const gone: string[] = [];
    const remembered = createRemembered(100);
    const add = (name: string, bytes: number) => {
      const result = { name };
      remembered.add(result, bytes, () => gone.push(name));
      return result;
    };
    remembered.begin();
    const a = add('a', 40);
    add('b', 40);
    remembered.begin();
    remembered.touch(a);
    add('c', 40);
    expect(gone).toEqual(['b']);
    remembered.begin();
    add('d', 400);
    expect(gone).toEqual(['b', 'a', 'c']);
    // One evaluation may need more than there is room for.
    add('e', 400);
    expect(gone).toEqual(['b', 'a', 'c']);
  });

  it('keep 100 positions of a slider on 100,000 notes within their room', async () => {
    const notes = Array.from({ length: 100_000 }, (_, at): [number, number, number, number] => [
      at * 10, at * 10 + 8, 60, 80,
    ]); // prettier-ignore
    let next = 0;
    const { file } = readMidi(writeMidi(fileOfNotes(notes)));
    const { session, takes } = sessionOfFile(file, 'Quay', () => `id${next++}`, 0);
    const evaluator = createEvaluator((key) => {
      const take = takes.find((each) => each.key === key);
      if (!take) throw new Error('no take');
      return take;
    });
    const timeline = createTimeline(session.division, session.tempos, session.meters);
    // As the engine does, which hands in equal steps as the same objects for as long as it knows them.
    const steps = Array.from({ length: 100 }, (_, at) =>
      createStep('quantize', { strength: at, keepFlams: false }),
    );
    const at = (step: (typeof steps)[number]) => {
      const part = { ...listOf(session.parts)[0], steps: orderedOf([{ id: 'q', step }]) };
      return evaluator.evaluate(part, session, timeline).stages[1];
    };
    const before = await bytesInUse();
    let last;
    for (const step of steps) last = at(step);
    expect(at(steps[99])).toBe(last);
    // Columns that were let go wait for the collector: what counts is how much cannot be let go.
    expect((await bytesInUse()) - before).toBeLessThan(150e6);
  }, 60_000);
});
