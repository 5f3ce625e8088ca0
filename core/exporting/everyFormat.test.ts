import { unzipSync } from 'fflate';
import { parse, validate } from 'musicxml-io';
import { listOf, mapItems, orderedOf, type Session } from '../session';
import { createStep } from '../steps';
import { HELD, choiceOf, filesWritten, mid, sourceOf, together, workshop } from '../testing/exporting';
import { fileOfNotes, trackOf } from '../testing/files';
import { FORMAT_IDS, planExport, writeExport } from '.';

/** A session whose texts are made to do harm. */
const hostile = (): ReturnType<typeof sourceOf> => {
  const bad = `<script>alert(1)</script>&"'=1+1,\u0001`;
  return sourceOf(
    {
      ...fileOfNotes([]),
      tracks: [
        trackOf([
          [0, 0xff, 6, 0, [...Buffer.from(bad)]],
          [0, 0x90, 60, 90],
          [0, 0xff, 5, 0, [...Buffer.from(bad)]],
          [480, 0x80, 60, 64],
        ]),
      ],
    },
    (session): Session => ({
      ...session,
      name: bad,
      parts: mapItems(session.parts, (part) => ({
        ...part,
        name: bad,
        steps: orderedOf([{ id: 's', step: createStep('quantize') }]),
      })),
    }),
  );
};

describe('every format', () => {
  const everything = (source: ReturnType<typeof sourceOf>) =>
    choiceOf(
      source,
      FORMAT_IDS.map((format) => ({ format, options: {} })),
    );

  it('goes into one zip, which an independent reader of zips finds whole', async () => {
    const source = sourceOf(HELD, (session) => ({
      ...session,
      parts: mapItems(session.parts, (part) => ({
        ...part,
        steps: orderedOf([{ id: 's', step: createStep('quantize') }]),
      })),
    }));
    const plan = planExport(source, everything(source));
    expect([plan.name, plan.isZip]).toEqual(['Quay.zip', true]);
    expect(plan.files.map(({ name }) => name)).toEqual(
      [
        'Quay.mid',
        'Quay.musicxml',
        'Quay.csv',
        'Quay.wav',
        'Quay, clean-up.html',
        'Quay.ordle',
        'Quay - Nylon Guitar, recipe.json',
        'Quay - Nylon Guitar, groove.json',
      ].map((name) => name.replace('Nylon Guitar', listOf(source.session.parts)[0].name)),
    );
    const shares: number[] = [];
    const files = unzipSync(await together(writeExport(plan, workshop, (share) => shares.push(share))));
    expect(Object.keys(files)).toEqual(plan.files.map(({ name }) => name));
    for (const { name, format } of plan.files) {
      const alone = await filesWritten(source, { format, options: {} });
      expect(Buffer.compare(files[name], alone[name])).toBe(0);
    }
    expect(shares.at(-1)).toBe(1);
    expect(shares.every((share, at) => at === 0 || share >= shares[at - 1])).toBe(true);
  });

  it('is the same whenever it is written', async () => {
    const write = async (now: number) => {
      jest.useFakeTimers({ now, doNotFake: ['nextTick', 'setImmediate', 'queueMicrotask'] });
      const source = sourceOf(HELD);
      const bytes = await together(writeExport(planExport(source, everything(source)), workshop));
      jest.useRealTimers();
      return Buffer.from(bytes);
    };
    const [one, other] = [await write(Date.UTC(2001, 1, 3)), await write(Date.UTC(2031, 7, 9, 13))];
    expect(one.equals(other)).toBe(true);
  });

  it('takes what a person wrote for text', async () => {
    const source = hostile();
    const plan = planExport(source, everything(source));
    const files = unzipSync(await together(writeExport(plan, workshop)));
    // eslint-disable-next-line no-control-regex
    for (const name of Object.keys(files)) expect(name).not.toMatch(/[<>"\u0000-\u001f]/);
    const text = (ending: string) => {
      const name = Object.keys(files).find((each) => each.endsWith(ending)) ?? '';
      return Buffer.from(files[name]).toString();
    };
    expect(text('.html')).not.toMatch(/<script/i);
    expect(text('.html')).toContain('&lt;script&gt;');
    const xml = text('.musicxml');
    expect(xml).not.toMatch(/<script/i);
    expect(validate(parse(xml)).errors).toEqual([]);
    expect(() => JSON.parse(text('recipe.json')) as unknown).not.toThrow();
  });

  it('says of nothing that there is nothing', () => {
    const source = sourceOf(HELD);
    expect(() => planExport(source, choiceOf(source, []))).toThrow('No format is chosen');
    expect(() => planExport(source, choiceOf(source, [mid()], { parts: [] }))).toThrow('No part is chosen');
    const empty = sourceOf(fileOfNotes([]));
    expect(() => planExport(empty, choiceOf(empty, [mid()]))).toThrow('no notes');
    const silent = sourceOf({ ...fileOfNotes([]), tracks: [trackOf([[0, 0xb0, 7, 90]])] });
    expect(() => planExport(silent, choiceOf(silent, [{ format: 'wav', options: {} }]))).toThrow(
      'nothing in these parts',
    );
    expect(() => planExport(source, choiceOf(source, [{ format: 'pdf', options: {} }]))).toThrow(
      '"pdf" is no format',
    );
    expect(() => planExport(source, choiceOf(source, [{ format: 'wav', options: { bits: 8 } }]))).toThrow(
      'WAV: bits',
    );
  });
});

test('the clean-up report tells what each step did', async () => {
  const source = sourceOf(HELD, (session) => ({
    ...session,
    parts: mapItems(session.parts, (part) => ({
      ...part,
      steps: orderedOf([
        { id: 'a', step: createStep('quantize', { grid: '1/4', strength: 100 } as object) },
        { id: 'b', step: createStep('velocity') },
        { id: 'c', step: { ...createStep('transpose', { semitones: 12 } as object), on: false } },
      ]),
    })),
  }));
  const [page] = Object.values(await filesWritten(source, { format: 'report', options: {} }));
  const html = Buffer.from(page).toString();
  // Five strokes of six were thirty ticks early: 31.3 ms at 120 bpm, 50 at 75.
  const [row] = /<tr><th scope="row">Quantize[^]*?<\/tr>/.exec(html) ?? [''];
  expect([...row.matchAll(/<td>([^<]*)<\/td>/g)].slice(1, 5).map(([, cell]) => cell)).toEqual([
    '5',
    '5',
    '50.0',
    '50.0',
  ]);
  expect(html).toContain('Transpose octave up (off)');
  expect(html).toContain('75.0 to 120.0 bpm, 4/4.');
  expect(html).not.toMatch(/<script|https?:/);
  expect(html.match(/<svg/g)?.length).toBe(4);
});
