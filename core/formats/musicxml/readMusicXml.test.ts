/**
 * Scores made up here, and what our own writer made. Repeats and endings are compared with how npm musicxml-io, which
 * shares no code with this, plays the same document; it takes no jumps by `sound` alone, so those are as the standard
 * says of that element (MusicXML 4.0, from memory).
 */
import { strToU8, zipSync } from 'fflate';
import fc from 'fast-check';
import { parseMidi } from 'midi-file';
import { exportMidi, parse, validate } from 'musicxml-io';
import { OrdleError } from '../../errors';
import { chosenParts, createEvaluator } from '../../evaluate';
import { readMidi, writeMidi } from '../../midi';
import { noteTableOf, takesOfFile } from '../../model';
import { UNITS_PER_QUARTER, notate } from '../../notation';
import { partsAsWritten } from '../../readings';
import { sessionOfFile } from '../../session';
import { createTimeline } from '../../time';
import { writeMxl } from './mxl';
import { readMusicXml } from './readMusicXml';
import { isScoreFile, readMusic } from './scoreFile';
import { writeMusicXml } from './writeMusicXml';

const codeOf = (work: () => unknown): string => {
  try {
    work();
  } catch (error) {
    return error instanceof OrdleError ? error.code : `not ours: ${String(error)}`;
  }
  return 'nothing';
};

const STEPS = ['C', 'D', 'E', 'F', 'G', 'A', 'B'];
/** A measure of one whole note, whose pitch tells which it is; with what else stands before and behind it. */
const bar = (index: number, before = '', behind = '') =>
  `<measure number="${index + 1}">${index === 0 ? '<attributes><divisions>1</divisions><time><beats>4</beats><beat-type>4</beat-type></time></attributes>' : ''}${before}<note><pitch><step>${STEPS[index]}</step><octave>4</octave></pitch><duration>4</duration><voice>1</voice><type>whole</type></note>${behind}</measure>`;
const score = (measures: string, head = '') =>
  `<?xml version="1.0"?><score-partwise version="4.0"><part-list><score-part id="P1"><part-name>Bells</part-name>${head}</score-part></part-list><part id="P1">${measures}</part></score-partwise>`;
const repeat = (direction: 'forward' | 'backward', ending = '') =>
  `<barline location="${direction === 'forward' ? 'left' : 'right'}">${ending}<repeat direction="${direction}"/></barline>`;
const ending = (number: string, type: 'start' | 'stop' | 'discontinue') =>
  `<ending number="${number}" type="${type}"/>`;
const sound = (attributes: string) => `<direction><direction-type><words>x</words></direction-type><sound ${attributes}/></direction>`; // prettier-ignore
/** Letters in the order they are played. */
const played = (xml: string) => readMusicXml(xml).parts[0].notes.map(({ pitch }) => STEPS[[0, 2, 4, 5, 7, 9, 11].indexOf(pitch - 60)]).join(''); // prettier-ignore

function playedByOthers(xml: string): string {
  const { file } = readMidi(Uint8Array.from(exportMidi(parse(xml))));
  const notes = takesOfFile(file, () => '').flatMap((take) => [...take.notes.start.keys()].map((row) => ({ at: take.notes.start[row], pitch: take.notes.pitch[row] }))); // prettier-ignore
  notes.sort((a, b) => a.at - b.at);
  return notes.map(({ pitch }) => STEPS[[0, 2, 4, 5, 7, 9, 11].indexOf(pitch - 60)]).join('');
}

describe('the order measures are played in', () => {
  const cases: [string, string, string][] = [
    ['straight on', bar(0) + bar(1), 'CD'],
    ['a repeat from the start', bar(0) + bar(1, '', repeat('backward')) + bar(2), 'CDCDE'],
    [
      'a repeat between signs',
      bar(0) + bar(1, repeat('forward')) + bar(2, '', repeat('backward')) + bar(3),
      'CDEDEF',
    ],
    [
      'endings',
      bar(0) +
        bar(
          1,
          `<barline location="left">${ending('1', 'start')}</barline>`,
          repeat('backward', ending('1', 'stop')),
        ) +
        bar(
          2,
          `<barline location="left">${ending('2', 'start')}</barline>`,
          `<barline location="right">${ending('2', 'discontinue')}</barline>`,
        ) +
        bar(3),
      'CDCEF',
    ],
    [
      'da capo to the fine',
      bar(0) + bar(1, '', sound('fine="yes"')) + bar(2, '', sound('dacapo="yes"')),
      'CDECD',
    ],
    [
      'dal segno by the coda',
      bar(0) +
        bar(1, sound('segno="s"')) +
        bar(2, '', sound('tocoda="c"')) +
        bar(3, '', sound('dalsegno="s"')) +
        bar(4, sound('coda="c"')),
      'CDEFDEG',
    ],
  ];
  it.each(cases)('%s', (_, measures, expected) => {
    expect(played(score(measures))).toBe(expected);
    if (!/dacapo|dalsegno/.test(measures)) expect(playedByOthers(score(measures))).toBe(expected);
  });

  it('an ending of two passes is played twice before the third', () => {
    const measures =
      bar(0) +
      bar(
        1,
        `<barline location="left">${ending('1, 2', 'start')}</barline>`,
        repeat('backward', ending('1, 2', 'stop')),
      ) +
      bar(
        2,
        `<barline location="left">${ending('3', 'start')}</barline>`,
        `<barline location="right">${ending('3', 'discontinue')}</barline>`,
      ) +
      bar(3);
    expect(played(score(measures))).toBe('CDCDCEF');
  });

  it('a repeat that says so is played more often, and one that never ends does not hang', () => {
    const thrice = bar(0, '', '<barline location="right"><repeat direction="backward" times="3"/></barline>');
    expect(played(score(thrice + bar(1)))).toBe('CCCD');
    const endless = bar(0, sound('segno="s"')) + bar(1, '', sound('dalsegno="s"'));
    expect(played(score(endless))).toBe('CDCD');
  });
});

describe('what is read of a score', () => {
  it('chords, voices, ties, grace notes, tempo, meter, dynamics, transposition, markers', () => {
    const note = (step: string, octave: number, duration: number, more = '') =>
      `<note>${more.includes('<grace') ? '<grace/>' : ''}${more.includes('<chord') ? '<chord/>' : ''}<pitch><step>${step}</step><octave>${octave}</octave></pitch>${duration > 0 ? `<duration>${duration}</duration>` : ''}${more.replace(/<(grace|chord)\/>/g, '')}<voice>1</voice></note>`;
    const xml = score(
      `<measure number="1"><attributes><divisions>2</divisions><time><beats>3</beats><beat-type>4</beat-type></time><transpose><chromatic>-2</chromatic></transpose></attributes>
      <direction><direction-type><rehearsal>A &amp; &#66;</rehearsal></direction-type><sound tempo="90"/></direction>
      <direction><direction-type><dynamics><p/></dynamics></direction-type></direction>
      ${note('D', 5, 2)}${note('F', 5, 2, '<chord/>')}${note('E', 5, 0, '<grace/>')}${note('D', 5, 4, '<tie type="start"/>')}<backup><duration>6</duration></backup><forward><duration>2</duration></forward>${note('G', 4, 4)}</measure>
      <measure number="2">${note('D', 5, 2, '<tie type="stop"/>')}<note><rest/><duration>4</duration></note></measure>`,
      '<midi-instrument id="I1"><midi-channel>1</midi-channel><midi-program>13</midi-program></midi-instrument>',
    );
    const music = readMusicXml(xml);
    expect(music.tempos).toEqual([{ at: 0, bpm: 90 }]);
    expect(music.meters).toEqual([{ at: 0, numerator: 3, denominator: 4 }]);
    expect(music.markers).toEqual([{ at: 0, name: 'A & B' }]);
    expect(music.end).toBe(6);
    const [{ name, program, notes }] = music.parts;
    expect([name, program]).toEqual(['Bells', 12]);
    expect(notes.map(({ at, length, pitch }) => [at, length, pitch])).toEqual([
      [0, 1, 72],
      [0, 1, 75],
      [0.875, 0.125, 74],
      [1, 2, 65],
      [1, 3, 72],
    ]);
    expect(notes[0].velocity).toBe(49);
  });

  it('is the same of a timewise document, compressed, or in another encoding', () => {
    const partwise = score(bar(0) + bar(1));
    const timewise = partwise
      .replaceAll('score-partwise', 'score-timewise')
      .replace('<part id="P1">', '')
      .replace('</part><', '<')
      .replace(/(<measure [^>]*>)/g, '$1<part id="P1">')
      .replaceAll('</measure>', '</part></measure>');
    const notes = (bytes: Uint8Array) =>
      takesOfFile(readMusic(bytes).file, () => '').flatMap((take) => [...take.notes.pitch]);
    const wide = Uint8Array.from([
      0xff,
      0xfe,
      ...[...partwise].flatMap((letter) => [letter.charCodeAt(0), 0]),
    ]);
    const marked = strToU8(`\ufeff${partwise}`);
    for (const bytes of [marked, strToU8(partwise), strToU8(timewise), writeMxl(partwise), wide]) {
      expect(isScoreFile(bytes)).toBe(true);
      expect(notes(bytes)).toEqual([60, 62]);
    }
    expect(isScoreFile(Uint8Array.of(0x4d, 0x54, 0x68, 0x64))).toBe(false);
  });

  it('what is left out is told', () => {
    const lyric = bar(0).replace(
      '</note>',
      '<notations><slur type="start" number="1"/></notations><lyric><text>la</text></lyric></note>',
    );
    const [repair] = readMusic(strToU8(score(lyric))).repairs;
    expect(repair.message).toBe('Of this written score is not read: slurs (1).');
  });

  it('takes the words that are sung along, and they are written again', () => {
    const [first, second] = ['<syllabic>begin</syllabic><text>har</text>', '<text>bour &amp; quay</text>'];
    const withLyric = (measure: string, lyric: string) =>
      measure.replace('</note>', `<lyric>${lyric}</lyric></note>`);
    const sung = withLyric(bar(0), first) + withLyric(bar(1), second);
    let next = 0;
    const { file } = readMusic(strToU8(score(sung)));
    // The lyrics of the file as an independent reader has them.
    const lyrics = parseMidi(writeMidi(file)).tracks.flatMap((track) =>
      track.flatMap((event) => (event.type === 'lyrics' ? [event.text] : [])),
    );
    expect(lyrics).toEqual(['har-', 'bour & quay']);
    const { session, takes } = sessionOfFile(file, 'sung', () => `id${next++}`, 0);
    const takeOf = (key: string) => takes.find((take) => take.key === key) ?? takes[0];
    const parts = [...session.parts.order];
    const written = partsAsWritten(
      chosenParts(session, { parts, version: 'cleaned' }, createEvaluator(takeOf)),
      takeOf,
    );
    const xml = writeMusicXml(
      written.map((each) => each.written),
      { title: 'sung' },
    );
    expect(xml).toContain('<lyric><syllabic>begin</syllabic><text>har</text></lyric>');
    expect(xml).toContain('<lyric><syllabic>single</syllabic><text>bour &amp; quay</text></lyric>');
    expect(validate(parse(xml)).errors).toEqual([]);
  });

  it('gives back what our own writer wrote, whatever is played', () => {
    const timeline = createTimeline({ kind: 'metrical', ticksPerQuarter: 480 }, [], []);
    const plain = fc.tuple(fc.integer({ min: 0, max: 9000 }), fc.integer({ min: 20, max: 3000 }), fc.integer({ min: 24, max: 103 })); // prettier-ignore
    fc.assert(
      fc.property(fc.array(plain, { minLength: 1, maxLength: 40 }), (list) => {
        const notes = noteTableOf(list.map(([start, length, pitch], id) => ({ id, start, end: start + length, pitch }))); // prettier-ignore
        const written = notate({ name: 'Quay', notes, isDrums: false, timeline });
        const { parts } = readMusicXml(writeMusicXml([written], { title: 'Quay' }));
        const starts = new Map<number, number>();
        written.bars.reduce((from, { number, units }) => (starts.set(number, from), from + units), 0);
        const expected = [...written.placeOf]
          .filter(([, { isGrace }]) => !isGrace)
          .map(([id, { bar: number, at }]) => [
            ((starts.get(number) ?? NaN) + at) / UNITS_PER_QUARTER,
            list[id][2],
          ]);
        const graces = [...written.placeOf].length - expected.length;
        const found = parts[0].notes.map(({ at, pitch }) => [at, pitch]);
        expect(found).toHaveLength(expected.length + graces);
        for (const [at, pitch] of expected)
          expect(found.some(([other, same]) => same === pitch && Math.abs(other - at) < 1e-6)).toBe(true);
      }),
      { numRuns: 60 },
    );
  });
});

describe('what is no score, or a hostile one', () => {
  it('is refused in a sentence, at once', () => {
    const bomb = `<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "${'a'.repeat(1000)}"><!ENTITY b "&a;&a;&a;&a;">]>${score(bar(0)).slice(21)}`;
    const deep = `<score-partwise>${'<part>'.repeat(100_000)}`;
    const long = `<score-partwise ${'a="1" '.repeat(200_000)}>`;
    for (const text of [
      bomb,
      deep,
      long,
      '<html><body/></html>',
      '<score-partwise/>',
      '<?xml version="1.0"?>',
      '<score-partwise><part',
    ])
      expect(codeOf(() => readMusicXml(text))).toBe('score-unreadable');
    expect(codeOf(() => readMusic(zipSync({ 'letter.txt': strToU8('Dear museum') })))).toBe(
      'score-unreadable',
    );
    expect(codeOf(() => readMusic(Uint8Array.of(0x50, 0x4b, 3, 4, 0, 0)))).toBe('score-unreadable');
  });
});
