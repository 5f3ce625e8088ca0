import 'fake-indexeddb/auto';
import { createStep, listOf, type Session } from '@ordle/core';
import { put } from '../../../core/testing/quay';
import { emptyDatabase } from '@/storage/testing/storage';
import { createEngine, demoFile, partOf, stepsOn } from '../testing/engine';

/** The bass and the organ of the demo in one session. */
async function together() {
  const engine = createEngine();
  const { session } = await engine.importFile('bass', demoFile('ferry-upright-bass.mid'));
  const { parts, references } = await engine.joinFile({ session, bytes: demoFile('ferry-reed-organ.mid') });
  const added = parts.reduce(
    (all, part) => ({
      ...put(all, part),
      parts: { order: [...all.parts.order, part.id], byId: { ...all.parts.byId, [part.id]: part } },
    }),
    session,
  );
  const takes = {
    order: [...session.takes.order, ...references.map(({ id }) => id)],
    byId: { ...session.takes.byId, ...Object.fromEntries(references.map((each) => [each.id, each])) },
  };
  const whole: Session = { ...added, takes };
  return { engine, session: whole, bass: partOf(whole, 'Upright bass'), organ: partOf(whole, 'Reed organ') };
}

describe('what is asked of all parts', () => {
  beforeEach(async () => void (await emptyDatabase()));

  it('tells how far each is off the grid, and that one that is quantized is not', async () => {
    const { engine, session, bass, organ } = await together();
    const before = await engine.offTheGrid({ session, grid: '1/16' });
    const step = createStep('quantize', { grid: '1/16', strength: 100, keepFlams: false, chords: 'each' });
    const after = await engine.offTheGrid({ session: stepsOn(session, bass.id, [step]), grid: '1/16' });
    expect(before[bass.id]).toBeGreaterThan(1);
    expect(after[bass.id]).toBeCloseTo(0, 6);
    expect(after[organ.id]).toBe(before[organ.id]);
  });

  it('tells where each begins and ends, and reads them, the ones set aside left out', async () => {
    const { engine, session, bass, organ } = await together();
    const spans = await engine.spans({ session });
    expect(spans[bass.id].end).toBeGreaterThan(spans[bass.id].first ?? Infinity);
    const asked = { grid: '1/16', where: {} } as const;
    const all = await engine.readings({ session, ...asked });
    expect(all.parts.map(({ partId }) => partId)).toEqual(expect.arrayContaining([bass.id, organ.id]));
    const aside = put(session, { ...organ, setAside: true });
    const some = await engine.readings({ session: aside, ...asked });
    expect(some.parts.map(({ partId }) => partId)).not.toContain(organ.id);
    expect(some.parts.find(({ partId }) => partId === bass.id)).toEqual(
      all.parts.find(({ partId }) => partId === bass.id),
    );
  });

  it('plays parts at their stops, between as played and as cleaned, with what shares their channel', async () => {
    const { engine, session, bass, organ } = await together();
    const moved = stepsOn(session, bass.id, [createStep('nudge', { ticks: 48 })]);
    const heard = async (of: Session, stops: Record<string, number>, blend: number) =>
      (await engine.playback({ session: of, stops, blend, partIds: [bass.id] })).parts[0];
    const [played, cleaned] = [await heard(moved, { [bass.id]: 0 }, 1), await heard(moved, {}, 1)];
    const half = await heard(moved, {}, 0.5);
    // 48 ticks of a quarter of 480 at 104 bpm.
    const second = (48 / 480) * (60 / 104);
    expect(cleaned.noteStart[5] - played.noteStart[5]).toBeCloseTo(second, 6);
    expect(half.noteStart[5] - played.noteStart[5]).toBeCloseTo(second / 2, 6);
    const shared = put(session, { ...bass, channel: organ.channel });
    const beside = await heard(shared, {}, 1);
    // The swells of the organ hold for the channel.
    expect(beside.eventTime.length).toBeGreaterThan(played.eventTime.length + 50);
  });

  it('lays parts along the bars; one whose source is gone says so, and the others are shown', async () => {
    const { engine, session, bass, organ } = await together();
    const [layer] = listOf(bass.layers);
    const [piece] = listOf(layer.pieces);
    const broken = put(session, {
      ...bass,
      layers: {
        order: [layer.id],
        byId: {
          [layer.id]: {
            ...layer,
            pieces: { order: [piece.id], byId: { [piece.id]: { ...piece, source: { take: 'gone' } } } },
          },
        },
      },
    });
    const rows = await engine.partRows({ session: broken });
    const rowOf = (partId: string) => rows.find((row) => row.partId === partId);
    expect(rowOf(bass.id)?.fault).toMatch(/performance/);
    expect(rowOf(organ.id)?.fault).toBeNull();
    expect(rowOf(organ.id)?.notes.start.length).toBe(120);
  });

  it('parts are written down in strips, by their ids, and the same as a file', async () => {
    const { engine, session, bass, organ } = await together();
    const parts = [bass.id, organ.id];
    const asked = { session, parts: parts.join('\n'), from: 1, to: 1e6 };
    const { strips, partIds, bars } = await engine.score({ ...asked, barsAStrip: 10 });
    expect(partIds).toEqual(parts);
    expect(strips.map(({ from, to }) => [from, to])).toEqual([[1, 11], [11, 21], [21, bars + 1]]); // prettier-ignore
    expect(strips[0].words[0]).toContain('bar 1');
    expect(strips[1].xml).toContain('<measure number="11"');
    const [whole] = (await engine.score({ ...asked, barsAStrip: 1e6 })).strips;
    const file = await engine.musicXml({ ...asked, isCompressed: false });
    expect(new TextDecoder().decode(file)).toBe(whole.xml);
    const some = await engine.score({ ...asked, from: 3, to: 5, barsAStrip: 10 });
    expect(some.strips.map(({ from, to }) => [from, to])).toEqual([[3, 5]]);
    const none = await engine.score({ ...asked, parts: 'nobody', barsAStrip: 10 });
    expect([none.strips, none.partIds]).toEqual([[], []]);
  });

  it('finds the chords of what is pitched, and of one part', async () => {
    const { engine, session, organ } = await together();
    const { chords } = await engine.harmony({ session, partId: organ.id });
    // Written as Dm Bb F C, some of them over another note of the chord.
    const roots = chords.slice(0, 4).map(({ name }) => name.split('/')[0]);
    expect(roots).toEqual(['Dm', 'Bb', 'F', 'C']);
    const contents = await engine.contents({ session });
    expect(Object.keys(contents).sort()).toEqual([...session.parts.order].sort());
  });
});
