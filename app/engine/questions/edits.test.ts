import 'fake-indexeddb/auto';
import { createStep, listOf, type Session } from '@ordle/core';
import { put } from '../../../core/testing/quay';
import { emptyDatabase } from '@/storage/testing/storage';
import { createEngine, demoFile, stepsOn } from '../testing/engine';

const STEPS = [createStep('quantize', { strength: 70 }), createStep('transpose', { semitones: 5 })];

async function opened(name = 'ferry-reed-organ.mid') {
  const engine = createEngine();
  const { session } = await engine.importFile(name, demoFile(name));
  const partId = listOf(session.parts).filter(({ setAside }) => !setAside)[0].id;
  const notesAt = async (of: Session, stop: number) =>
    (await engine.viewPart({ session: of, partId, stop, grid: '1/16', cleaned: false, details: false }))
      .notes;
  return { engine, session, partId, notesAt };
}

describe('what edits are made of', () => {
  beforeEach(async () => void (await emptyDatabase()));

  it('steps are made permanent and come back, and all sounds the same', async () => {
    const { engine, session, partId, notesAt } = await opened();
    const before = stepsOn(session, partId, STEPS);
    const folded = await engine.fold({ session: before, partId, count: 1 });
    const { id } = folded.reference;
    const takes = {
      order: [...session.takes.order, id],
      byId: { ...session.takes.byId, [id]: folded.reference },
    };
    const after = put({ ...before, takes }, folded.part);
    expect(after.parts.byId[partId].steps.order).toHaveLength(1);
    const [was, is] = [await notesAt(before, 2), await notesAt(after, 1)];
    expect([...is.start].map(Math.round)).toEqual([...was.start].map(Math.round));
    expect(is.pitch).toEqual(was.pitch);
    const { part } = await engine.unfold({ session: after, partId });
    expect(part.steps.order).toHaveLength(2);
    expect(await notesAt(put(after, part), 2)).toEqual(was);
    await expect(engine.unfold({ session, partId })).rejects.toMatchObject({ code: 'nothing-folded' });
  });

  it('controllers go along with notes, and onto the clipboard and down again', async () => {
    const { engine, session, partId, notesAt } = await opened();
    const { id, start, end } = await notesAt(session, 0);
    const asked = { session, partId, stop: 0, ids: [...id] };
    const along = await engine.alongEdits({ ...asked, action: { kind: 'move', ticks: 120 } });
    expect(along.length).toBeGreaterThan(0);
    const clips = await engine.clipsOf(asked);
    expect(clips.map(({ lane }) => lane)).toContain('cc11');
    const laid = await engine.layClips({ session, partId, stop: 0, clips, at: Math.max(...end) + 1920 });
    expect(laid.map(({ lane }) => lane).sort()).toEqual(clips.map(({ lane }) => lane).sort());
    const [from, to] = [start[0], start[0] + 1920];
    const stretch = { session, partId, stop: 0, from, to };
    const there = await engine.lanesBetween(stretch);
    expect(there.find(({ lane }) => lane === 'cc11')?.points).toBeGreaterThan(3);
    expect(await engine.lanesBetween({ ...stretch, from: 1e9, to: 2e9 })).toEqual([]);
    const cleared = await engine.clearLanes({ ...stretch, lanes: ['cc11'] });
    expect(cleared.map(({ lane }) => lane)).toEqual(['cc11']);
  });

  it('parts of another session come with their steps, under ids and numbers of their own', async () => {
    const { engine, session } = await opened('ferry-upright-bass.mid');
    const { session: from } = await engine.importFile('organ', demoFile('ferry-reed-organ.mid'));
    const organ = listOf(from.parts).filter(({ setAside }) => !setAside)[0];
    const brought = await engine.bringParts({
      session,
      from: stepsOn(from, organ.id, STEPS),
      ids: [organ.id],
    });
    const [part] = brought.parts;
    expect(listOf(part.steps).map(({ step }) => step)).toEqual(STEPS);
    expect(session.parts.order).not.toContain(part.id);
    const [piece] = listOf(listOf(part.layers)[0].pieces);
    expect(piece.number).toBeGreaterThanOrEqual(session.nextPiece);
  });
});
