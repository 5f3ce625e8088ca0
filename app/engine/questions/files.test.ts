import 'fake-indexeddb/auto';
import { cleanFile, createStep, listOf, midiOptions, readMidi, writeMidi, type Session } from '@ordle/core';
import { openDatabase } from '@/storage/database';
import { emptyDatabase } from '@/storage/testing/storage';
import { createEngine, demoFile, exported, stepsOn } from '../testing/engine';

const BASS = 'ferry-upright-bass.mid';
const asked = (session: Session) => ({
  session,
  choice: { parts: session.parts.order, version: 'cleaned' as const },
  options: midiOptions.parse({}),
});
const playing = ({ parts }: Session) => listOf(parts).filter(({ setAside }) => !setAside);

describe('what comes into the engine and goes out', () => {
  beforeEach(async () => void (await emptyDatabase()));

  it('a file comes in, is stored, and goes out as it came; cleaned, as the library cleans it', async () => {
    const engine = createEngine();
    const { session, repairs, unkept } = await engine.importFile(BASS, demoFile(BASS));
    expect([repairs, unkept]).toEqual([[], []]);
    expect(await (await openDatabase()).count('takes')).toBe(session.takes.order.length);
    const { file } = readMidi(demoFile(BASS));
    const asItCame = await exported(engine, session);
    expect(asItCame).toEqual(writeMidi(cleanFile(file, []).file));
    const steps = [createStep('quantize'), createStep('humanize')];
    const cleaned = await exported(engine, stepsOn(session, playing(session)[0].id, steps));
    expect(cleaned).toEqual(writeMidi(cleanFile(file, steps).file));
  });

  it('an engine that knows nothing yet answers the same, from storage', async () => {
    const { session } = await createEngine().importFile(BASS, demoFile(BASS));
    const steps = stepsOn(session, playing(session)[0].id, [createStep('quantize')]);
    expect(await exported(createEngine(), steps)).toEqual(await exported(createEngine(), steps));
    await emptyDatabase();
    await expect(exported(createEngine(), steps)).rejects.toThrow('There is nothing to export. ');
    // What cannot be worked out is told before it is written.
    const { waiting } = await createEngine().checkExport(asked(steps));
    expect(waiting.map(({ partId }) => partId)).toEqual(session.parts.order);
  });

  it('no file is refused with an error that is known, and nothing is stored', async () => {
    const engine = createEngine();
    const text = new TextEncoder().encode('Dear editor, the ferry is late.');
    await expect(engine.importFile('letter.txt', text)).rejects.toMatchObject({ name: 'OrdleError' });
    expect(await (await openDatabase()).count('takes')).toBe(0);
  });

  it('a session goes out as a file and comes back with all it had, as a session of its own', async () => {
    const engine = createEngine();
    const { session } = await engine.importFile(BASS, demoFile(BASS));
    const steps = stepsOn(session, playing(session)[0].id, [createStep('quantize')]);
    const bytes = await exported(engine, steps, { formats: [{ format: 'ordle', options: {} }] });
    await emptyDatabase();
    const other = createEngine();
    const { session: back } = await other.importFile('quay.ordle', bytes);
    expect(back.id).not.toBe(session.id);
    expect({ ...back, id: session.id, createdAt: session.createdAt }).toEqual(steps);
    expect(await exported(other, back)).toEqual(await exported(engine, steps));
    await expect(other.joinFile({ session: back, bytes })).rejects.toMatchObject({ code: 'session-file' });
  });

  it('a second file joins: its parts and takes, told apart by number', async () => {
    const engine = createEngine();
    const { session } = await engine.importFile(BASS, demoFile(BASS));
    const { parts, references } = await engine.joinFile({
      session,
      bytes: demoFile('ferry-reed-organ.mid'),
    });
    expect(parts.map(({ name }) => name)).toContain('Reed organ');
    const numbers = parts.flatMap(({ layers }) =>
      listOf(layers).flatMap(({ pieces }) => listOf(pieces).map(({ number }) => number)),
    );
    expect(numbers.every((number) => number >= session.nextPiece)).toBe(true);
    expect(new Set(numbers).size).toBe(numbers.length);
    expect(references.every(({ id }) => !Object.hasOwn(session.takes.byId, id))).toBe(true);
  });

  it('a plan makes a session of several files; one that is not there is named', async () => {
    const engine = createEngine();
    const plan = {
      name: 'Quay',
      lead: BASS,
      parts: [{ name: 'Bass', layers: [[{ file: BASS, bars: null }]], muted: false }],
    };
    const { session } = await engine.buildPlan(plan, [[BASS, demoFile(BASS)]]);
    expect(listOf(session.parts).map(({ name }) => name)).toEqual(['Bass']);
    const short = { ...plan, lead: 'fog.mid' };
    await expect(engine.buildPlan(short, [[BASS, demoFile(BASS)]])).rejects.toMatchObject({
      code: 'plan-file',
      message: expect.stringContaining('fog.mid'),
    });
  });

  it('the check before an export tells which parts go out as they were played', async () => {
    const engine = createEngine();
    const { session } = await engine.importFile(BASS, demoFile(BASS));
    const [{ id }] = playing(session);
    const check = (steps: Session) => engine.checkExport(asked(steps));
    expect((await check(session)).sameNotes).toContain(id);
    expect((await check(stepsOn(session, id, [createStep('nudge', { ticks: 5 })]))).sameNotes).not.toContain(
      id,
    );
  });
});
