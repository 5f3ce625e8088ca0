import 'fake-indexeddb/auto';
import { createStep, listOf, orderedOf, takesOfPart } from '@ordle/core';
import { put } from '../../../core/testing/quay';
import { emptyDatabase } from '@/storage/testing/storage';
import { createEngine, demoFile, stepsOn } from '../testing/engine';

/** A take of the demo as a session of its own, with steps on its part. */
async function opened(name = 'ferry-marimba-take-1.mid', steps: Parameters<typeof stepsOn>[2] = []) {
  const engine = createEngine();
  const { session } = await engine.importFile(name, demoFile(name));
  const partId = listOf(session.parts).filter(({ setAside }) => !setAside)[0].id;
  return { engine, partId, session: stepsOn(session, partId, steps) };
}

const looked = { grid: '1/16', cleaned: false, details: false } as const;

describe('what is asked of a part', () => {
  beforeEach(async () => void (await emptyDatabase()));

  it('shows it at a stop, beside the stop before', async () => {
    const { engine, session, partId } = await opened(undefined, [
      createStep('quantize', { strength: 100, keepFlams: false }),
    ]);
    const played = await engine.viewPart({ session, partId, stop: 0, ...looked });
    const cleaned = await engine.viewPart({ session, partId, stop: 1, ...looked });
    expect(played.traceStart).toBeNull();
    expect([...(cleaned.traceStart ?? [])].sort()).toEqual([...played.notes.start].sort());
    expect(cleaned.offMs[0]).toBe(played.offMs[0]);
    expect(cleaned.offMs[1]).toBeLessThan(played.offMs[0] / 2);
    expect(cleaned.reading?.touched).toBe(cleaned.notes.length);
  });

  it('picks notes by question and by the where of a step, from the same notes', async () => {
    const { engine, session, partId } = await opened(undefined, [
      createStep('quantize', { where: { bars: [2, 3] } }),
      createStep('transpose', { semitones: 12 }),
    ]);
    const touched = await engine.touchedNotes({ session, partId, stepId: 's0' });
    const { notes } = await engine.viewPart({ session, partId, stop: 0, ...looked });
    // From bar 2 to bar 3, of 4/4 at 480 ticks a quarter; a note belongs to the sixteenth it is nearest to.
    const inBars = [...notes.id].filter(
      (_, row) => Math.floor(Math.round(notes.start[row] / 120) / 16) === 1,
    );
    expect(inBars.length).toBeGreaterThan(10);
    expect(touched).toEqual(Float64Array.from(inBars));
    const low = { session, partId, grid: '1/16' as const };
    const [before, after] = [
      await engine.pickNotes({ ...low, question: { pitch: [0, 66] }, stop: 1 }),
      await engine.pickNotes({ ...low, question: { pitch: [0, 66] }, stop: 2 }),
    ];
    expect(before.length).toBeGreaterThan(10);
    expect([...after]).toEqual([...before].filter((id) => notes.pitch[notes.id.indexOf(id)] + 12 <= 66));
    expect(await engine.touchedNotes({ session, partId, stepId: 'gone' })).toHaveLength(0);
  });

  it('tells a note at every stop, and takes the groove of some notes', async () => {
    const { engine, session, partId } = await opened(undefined, [createStep('transpose', { semitones: 2 })]);
    const { notes } = await engine.viewPart({ session, partId, stop: 0, ...looked });
    const story = await engine.noteStory({ session, partId, id: notes.id[3] });
    expect(story.map((note) => note?.pitch)).toEqual([notes.pitch[3], notes.pitch[3] + 2]);
    const of = (ids: number[] | null) => engine.takeGroove({ session, partId, grid: '1/16', beats: 4, ids });
    const [whole, some] = [await of(null), await of([...notes.id].slice(0, 20))];
    expect(whole.groove.points).toHaveLength(16);
    expect(some.groove).not.toEqual(whole.groove);
  });

  it('divides it by a rule without losing a note', async () => {
    const { engine, session, partId } = await opened('ferry-reed-organ.mid');
    const { notes } = await engine.viewPart({ session, partId, stop: 0, ...looked });
    for (const by of ['pitch:60', 'hand', 'voice'] as const) {
      const shares = await engine.sharesOf({ session, partId, by });
      expect(shares.reduce((sum, share) => sum + share.notes, 0)).toBe(notes.length);
    }
    const { isLeft } = await engine.handPicture({ session, partId, line: [] });
    const byHand = await engine.sharesOf({ session, partId, by: 'hand' });
    const ofHand = (label: string) => byHand.find((share) => share.label === label)?.notes ?? 0;
    expect(ofHand('left')).toBe(isLeft.filter((left) => left === 1).length);
    expect(ofHand('right')).toBe(isLeft.filter((left) => left === 0).length);
  });

  it('compares it: with itself as played nothing is missing, with a take that is gone it says so', async () => {
    const { engine, session, partId } = await opened(undefined, [createStep('quantize')]);
    const compared = await engine.comparison({
      session,
      partId,
      counterpart: { kind: 'part', partId, stage: 'cleaned' },
    });
    expect(compared.counts).toMatchObject({ missing: 0, extra: 0, moved: 0 });
    const played = await engine.comparison({
      session,
      partId,
      counterpart: { kind: 'part', partId, stage: 'played' },
    });
    expect(played.counts).toMatchObject({ missing: 0, extra: 0 });
    expect(played.counts.moved).toBeGreaterThan(100);
    const gone = { kind: 'take', takeId: 'gone' } as const;
    await expect(engine.comparison({ session, partId, counterpart: gone })).rejects.toMatchObject({
      code: 'no-take',
    });
  });

  it('reads its takes one by one; one that is gone from the browser says why, and the others are read', async () => {
    const { engine, session, partId } = await opened();
    const name = 'ferry-marimba-take-2.mid';
    const files = [{ name, bytes: demoFile(name) }];
    const second = await engine.takesOfFiles({ session, partId, files, isLinedUp: false });
    expect(second.brought).toEqual(['ferry-marimba-take-2']);
    const [own] = takesOfPart(session.parts.byId[partId], session);
    const [, brought] = takesOfPart(second.part, session);
    const takes = [
      own,
      { ...own, id: 'other', number: 2, source: brought.source },
      { ...own, id: 'gone', number: 3, source: { take: 'gone' } },
    ];
    const part = { ...session.parts.byId[partId], takes: orderedOf(takes) };
    const rows = await engine.takeRows({ session: put(session, part), partId, grid: '1/16' });
    expect(rows.map(({ fault }) => fault === null)).toEqual([true, true, false]);
    expect(rows[0].notes.start.length).toBeGreaterThan(100);
    expect(rows[1].notes.start.length).toBeGreaterThan(100);
  });
});
