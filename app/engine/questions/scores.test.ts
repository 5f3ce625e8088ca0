import 'fake-indexeddb/auto';
import type { Part, Session } from '@ordle/core';
import { put } from '../../../core/testing/quay';
import { emptyDatabase } from '@/storage/testing/storage';
import { createEngine, exported, demoFile, partOf } from '../testing/engine';

const FOG = { name: 'fog.musicxml', bytes: demoFile('ferry-fog-signal.musicxml') };
const withReference = (session: Session, part: Part, reference: Part['reference']) =>
  put(session, { ...part, reference });

async function opened(name: string, part: string) {
  const engine = createEngine();
  const { session } = await engine.importFile('demo', demoFile(name));
  return { engine, session, part: partOf(session, part) };
}

describe('a score beside a part', () => {
  beforeEach(async () => void (await emptyDatabase()));

  it('is found in the playing, stored, and there again for an engine that is started anew', async () => {
    const { engine, session, part } = await opened('ferry-fog-signal.mid', 'Fog signal');
    const { reference } = await engine.layScore({ session, parts: part.id, given: { file: FOG } });
    expect(reference).toMatchObject({
      name: 'Fog signal',
      firstBar: 1,
      bars: [0, 4, 8, 12, 16, 20, 24, 28, 32],
    });
    const laid = withReference(session, part, reference);
    const asked = { session: laid, partId: part.id, version: 'played' as const, barsAStrip: 12 };
    const page = await engine.playedScore(asked);
    expect(page?.marks.map(({ is }) => is)).toEqual(Array(56).fill('right'));
    expect(page?.strips.map(({ from, to }) => [from, to])).toEqual([[1, 9]]);
    expect(await createEngine().playedScore(asked)).toEqual(page);
    // It goes along with the session as a file.
    const file = await exported(engine, laid, { formats: [{ format: 'ordle', options: {} }] });
    await emptyDatabase();
    const again = await createEngine().importFile('again', file);
    expect(partOf(again.session, 'Fog signal').reference).toEqual(reference);
  });

  it('may be another part, as it is cleaned, or that part of a score that is found best', async () => {
    const { engine, session, part } = await opened('ferry-marimba-take-2.mid', 'Marimba');
    // The first take is what is written, and the second one is followed along it.
    const { parts } = await engine.joinFile({ session, bytes: demoFile('ferry-marimba-take-1.mid') });
    const other = parts.find(({ name }) => name.startsWith('Marimba')) ?? parts[0];
    const both: Session = {
      ...session,
      parts: {
        order: [...session.parts.order, other.id],
        byId: { ...session.parts.byId, [other.id]: other },
      },
    };
    const { reference } = await engine.layScore({ session: both, parts: part.id, given: { part: other.id } });
    const laid = withReference(both, part, reference);
    const readings = await engine.scoreReadings({ session: laid, partId: part.id });
    expect(readings?.played.written).toBe(319);
    expect(readings?.played.right).toBeGreaterThan(305);
  });

  it('of other music is refused, and so is one for a part without notes', async () => {
    const { engine, session, part } = await opened('ferry-upright-bass.mid', 'Upright bass');
    const lay = (parts: string) => engine.layScore({ session, parts, given: { file: FOG } });
    await expect(lay(part.id)).rejects.toThrow('Hardly anything of “fog” is found');
    await expect(lay('gone')).rejects.toThrow('There are no notes in this part');
    expect(
      await engine.playedScore({ session, partId: part.id, version: 'played', barsAStrip: 4 }),
    ).toBeNull();
    await expect(engine.beatsByScore({ session, partId: part.id })).rejects.toThrow('No score is laid');
  });
});
