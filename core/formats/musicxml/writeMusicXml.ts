import {
  UNITS_PER_QUARTER,
  type Direction,
  type WrittenBar,
  type WrittenItem,
  type WrittenNote,
  type WrittenPart,
} from '../../notation';
import type { Clef } from '../../session';
import { drumPlace } from './drumStaff';
import { element, escapedXml, textElement } from './xml';

/** Clefs by sign, line and octave. */
const CLEF_SIGNS: Record<Clef, string> = {
  treble: '<sign>G</sign><line>2</line>',
  bass: '<sign>F</sign><line>4</line>',
  alto: '<sign>C</sign><line>3</line>',
  tenor: '<sign>C</sign><line>4</line>',
  'treble-8': '<sign>G</sign><line>2</line><clef-octave-change>-1</clef-octave-change>',
  percussion: '<sign>percussion</sign>',
};

/** The velocity that is forte: `dynamics` is a percentage of it (MusicXML documentation, from memory). */
const FORTE = 90;

/** Voices of a staff have numbers of their own in the file: 1 and 2, 5 and 6. */
const voiceNumber = (staff: number, voice: number): number => 4 * staff + voice;

/** The id of a note in the file: a note of the part, its first written value; the others of a tie have none. */
export const xmlIdOf = (part: number, id: number): string => `p${part + 1}n${id}`;

/** The note of the part an id of the file is of; null for other ids. */
export function noteOfXmlId(xmlId: string): { part: number; id: number } | null {
  const match = /^p(\d+)n(-?\d+)(?:\.\d+)?$/.exec(xmlId);
  return match ? { part: Number(match[1]) - 1, id: Number(match[2]) } : null;
}

/** What a document is of, and what it says of itself. */
export interface MusicXmlOptions {
  title: string;
  /** Only these bars, from the first up to and without the second, counted from 1. */
  bars?: readonly [number, number];
  /** It goes on from what stands before: the meter and the names of parts are not shown again. */
  goesOn?: boolean;
}

/** Written parts as a MusicXML 4.0 document (partwise), in UTF-8 text. It holds nothing that depends on the clock. */
export function writeMusicXml(
  parts: readonly WrittenPart[],
  { title, bars: [from, to] = [1, Infinity], goesOn = false }: MusicXmlOptions,
): string {
  const longest = parts.reduce(
    (most, { bars }) => (bars.length > most.length ? bars : most),
    parts[0]?.bars ?? [],
  );
  const shown = parts.map((part) => ({
    ...part,
    bars: [...part.bars, ...restBars(part, longest)].filter(({ number }) => number >= from && number < to),
  }));
  const unit = commonUnit(shown);
  const list = shown.map((part, index) => scorePart(part, index, goesOn)).join('');
  const music = shown
    .map((part, index) =>
      element('part', `\n${measures(part, index, unit, goesOn)}`, { id: `P${index + 1}` }),
    )
    .join('\n');
  return [
    '<?xml version="1.0" encoding="UTF-8" standalone="no"?>',
    '<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 4.0 Partwise//EN" "http://www.musicxml.org/dtds/partwise.dtd">',
    '<score-partwise version="4.0">',
    `<work>${textElement('work-title', title)}</work>`,
    '<identification><encoding><software>Ordle</software></encoding></identification>',
    `<part-list>${list}</part-list>`,
    music,
    '</score-partwise>',
    '',
  ].join('\n');
}

/** Bars of rest for a part that ends before others: all parts of a document have as many bars. */
const restBars = ({ bars, staves }: WrittenPart, longest: readonly WrittenBar[]): WrittenBar[] =>
  longest.slice(bars.length).map((bar) => ({
    ...bar,
    fifths: bars[0]?.fifths ?? bar.fifths,
    directions: [],
    staves: Array.from({ length: staves }, () => [{ number: 1, items: [wholeRest(bar.units)] }]),
  }));

const wholeRest = (units: number): WrittenItem => ({
  at: 0,
  units,
  value: { type: 'whole', dots: 0 },
  tuplet: null,
  notes: [],
  graces: [],
  isStaccato: false,
  isRolled: false,
  isWholeBar: true,
  beams: [],
});

/** The largest unit all places and lengths are whole multiples of. */
function commonUnit(parts: readonly WrittenPart[]): number {
  let unit = UNITS_PER_QUARTER;
  const take = (value: number) => {
    let other = Math.round(value);
    while (other > 0) [unit, other] = [other, unit % other];
  };
  for (const { bars } of parts)
    for (const { units, staves, directions } of bars) {
      take(units);
      for (const { at } of directions) take(at);
      for (const { items } of staves.flat())
        for (const item of items) {
          take(item.at);
          take(item.units);
        }
    }
  return unit;
}

function scorePart({ name, isDrums, bars }: WrittenPart, index: number, goesOn: boolean): string {
  const id = `P${index + 1}`;
  const pitches = isDrums
    ? [
        ...new Set(
          bars.flatMap(({ staves }) => staves.flat().flatMap(({ items }) => items.flatMap(soundsOf))),
        ),
      ]
    : [];
  pitches.sort((a, b) => a - b);
  const instruments = pitches
    .map((pitch) =>
      element('score-instrument', textElement('instrument-name', `Piece ${pitch}`), {
        id: `${id}-I${pitch}`,
      }),
    )
    .join('');
  const midi = pitches
    .map((pitch) =>
      element(
        'midi-instrument',
        `<midi-channel>10</midi-channel><midi-unpitched>${pitch + 1}</midi-unpitched>`,
        {
          id: `${id}-I${pitch}`,
        },
      ),
    )
    .join('');
  return element(
    'score-part',
    textElement('part-name', name, { 'print-object': goesOn ? 'no' : undefined }) + instruments + midi,
    { id },
  );
}

const soundsOf = ({ notes, graces }: WrittenItem): number[] =>
  [...notes, ...graces.flat()].map(({ pitch }) => pitch);

const measures = (part: WrittenPart, index: number, unit: number, goesOn: boolean): string =>
  part.bars.map((bar, at) => measure(part, index, bar, at === 0, unit, goesOn)).join('');

function measure(
  part: WrittenPart,
  index: number,
  bar: WrittenBar,
  isFirst: boolean,
  unit: number,
  goesOn: boolean,
): string {
  const lines: string[] = [];
  const said = attributes(part, bar, isFirst, unit, goesOn);
  if (said) lines.push(said);
  let isBehind = false;
  const isCompound = bar.denominator >= 8 && bar.numerator % 3 === 0;
  bar.staves.forEach((voices, staff) =>
    voices.forEach(({ number, items }, voice) => {
      if (isBehind) lines.push(`<backup><duration>${bar.units / unit}</duration></backup>`);
      isBehind = true;
      const carries = voice === 0;
      // The tempo is everybody's: it stands over the first part.
      const waiting = carries
        ? bar.directions.filter((each) => each.staff === staff && (each.what !== 'tempo' || index === 0))
        : [];
      for (const item of items) {
        for (let next = waiting[0]; next && next.at < item.at + item.units; next = waiting[0]) {
          lines.push(direction(next, item.at, staff, part.staves, unit, isCompound));
          waiting.shift();
        }
        lines.push(...notesOf(part, index, item, staff, voiceNumber(staff, number), unit));
      }
    }),
  );
  const content = `\n${lines.join('\n')}\n`;
  return `${element('measure', content, { number: bar.number, implicit: bar.isImplicit ? 'yes' : undefined })}\n`;
}

function attributes(
  part: WrittenPart,
  bar: WrittenBar,
  isFirst: boolean,
  unit: number,
  goesOn: boolean,
): string {
  const said: string[] = [];
  if (isFirst) said.push(`<divisions>${UNITS_PER_QUARTER / unit}</divisions>`);
  if (isFirst || bar.showsKey) said.push(`<key><fifths>${bar.fifths}</fifths><mode>${bar.mode}</mode></key>`);
  if (isFirst || bar.showsMeter)
    said.push(
      element('time', `<beats>${bar.numerator}</beats><beat-type>${bar.denominator}</beat-type>`, {
        'print-object': goesOn && !bar.showsMeter ? 'no' : undefined,
      }),
    );
  if (isFirst) {
    if (part.staves > 1) said.push(`<staves>${part.staves}</staves>`);
    part.clefs.forEach((clef, staff) =>
      said.push(element('clef', CLEF_SIGNS[clef], { number: part.staves > 1 ? staff + 1 : undefined })),
    );
    const { transposition } = part;
    if (transposition !== 0) {
      const octaves = Math.trunc(transposition / 12);
      const chromatic = transposition - 12 * octaves;
      // Steps of the scale a semitone count is written over: the nearest of the major scale.
      const diatonic = Math.sign(chromatic) * Math.round((Math.abs(chromatic) * 7) / 12);
      said.push(
        `<transpose><diatonic>${diatonic}</diatonic><chromatic>${chromatic}</chromatic>${octaves === 0 ? '' : `<octave-change>${octaves}</octave-change>`}</transpose>`,
      );
    }
  }
  return said.length === 0 ? '' : `<attributes>${said.join('')}</attributes>`;
}

function direction(
  of: Direction,
  from: number,
  staff: number,
  staves: number,
  unit: number,
  isCompound: boolean,
): string {
  const offset = of.at > from ? `<offset>${(of.at - from) / unit}</offset>` : '';
  const number = staves > 1 ? `<staff>${staff + 1}</staff>` : '';
  const wrapped = (type: string, placement: 'above' | 'below', sound = '') =>
    element('direction', element('direction-type', type) + offset + number + sound, { placement });
  switch (of.what) {
    case 'tempo':
      return wrapped(
        `<metronome><beat-unit>quarter</beat-unit>${isCompound ? '<beat-unit-dot/>' : ''}<per-minute>${
          isCompound ? Math.round((of.bpm * 20) / 3) / 10 : of.bpm
        }</per-minute></metronome>`,
        'above',
        `<sound tempo="${of.bpm}"/>`,
      );
    case 'words':
      return wrapped(textElement('words', of.words), 'above');
    case 'rehearsal':
      return wrapped(textElement('rehearsal', of.words), 'above');
    case 'dynamic':
      return wrapped(
        `<dynamics>${DYNAMICS.has(of.mark) ? `<${of.mark}/>` : textElement('other-dynamics', of.mark)}</dynamics>`,
        'below',
      );
    case 'hairpin':
      return wrapped(`<wedge type="${of.is}"/>`, 'below');
    case 'pedal':
      return wrapped(`<pedal type="${of.is}" line="yes"/>`, 'below');
    case 'chord':
      return harmony(of.name, offset + number);
  }
}

/** A chord by its name, as `F#m7/C#`: root, what is said of it, and the bass where that is another. */
function harmony(name: string, place: string): string {
  const [, root, sign, words, bass, bassSign] =
    /^([A-G])([#b]?)([^/]*)(?:\/([A-G])([#b]?))?/.exec(name) ?? [];
  if (root === undefined) return '';
  const altered = (which: string, by: string | undefined) =>
    by ? `<${which}-alter>${by === '#' ? 1 : -1}</${which}-alter>` : '';
  return element(
    'harmony',
    `<root><root-step>${root}</root-step>${altered('root', sign)}</root>` +
      textElement('kind', KINDS[words] ?? 'other', { text: words }) +
      (bass ? `<bass><bass-step>${bass}</bass-step>${altered('bass', bassSign)}</bass>` : '') +
      place,
  );
}

/** Kinds of chords MusicXML has a word for, by what stands behind the root. */
const KINDS: Record<string, string | undefined> = {
  '': 'major',
  m: 'minor',
  '7': 'dominant',
  maj7: 'major-seventh',
  m7: 'minor-seventh',
  dim: 'diminished',
  dim7: 'diminished-seventh',
  m7b5: 'half-diminished',
  aug: 'augmented',
  sus4: 'suspended-fourth',
  sus2: 'suspended-second',
  '6': 'major-sixth',
  m6: 'minor-sixth',
  '9': 'dominant-ninth',
  maj9: 'major-ninth',
  m9: 'minor-ninth',
  mMaj7: 'major-minor',
  '5': 'power',
};

/** Marks MusicXML has an element for. */
const DYNAMICS = new Set(['pppp', 'ppp', 'pp', 'p', 'mp', 'mf', 'f', 'ff', 'fff', 'ffff', 'sf', 'sfz', 'fp']);

function notesOf(
  part: WrittenPart,
  index: number,
  item: WrittenItem,
  staff: number,
  voice: number,
  unit: number,
): string[] {
  const place = `<voice>${voice}</voice>`;
  const onStaff = part.staves > 1 ? `<staff>${staff + 1}</staff>` : '';
  const { value, tuplet } = item;
  const written = `<type>${value.type}</type>${value.dots === 1 ? '<dot/>' : ''}`;
  const ratio = tuplet
    ? `<time-modification><actual-notes>${tuplet.actual}</actual-notes><normal-notes>${tuplet.normal}</normal-notes></time-modification>`
    : '';
  const duration = `<duration>${item.units / unit}</duration>`;
  const bracket = tuplet
    ? `${tuplet.starts ? '<tuplet type="start" bracket="yes"/>' : ''}${tuplet.stops ? '<tuplet type="stop"/>' : ''}`
    : '';
  if (item.notes.length === 0) {
    const notations = bracket ? element('notations', bracket) : '';
    const rest = item.isWholeBar ? '<rest measure="yes"/>' : '<rest/>';
    const type = item.isWholeBar ? '' : written;
    return [element('note', `${rest}${duration}${place}${type}${ratio}${onStaff}${notations}`)];
  }
  const beams = item.beams.map((beam, level) => element('beam', beam, { number: level + 1 })).join('');
  const graces = item.graces.flatMap((chord) =>
    chord.map((note, at) =>
      element(
        'note',
        `<grace slash="yes"/>${at > 0 ? '<chord/>' : ''}${sounding(part, note)}${instrumentOf(part, index, note)}${place}<type>eighth</type>${accidental(note)}${headOf(part, note)}${onStaff}`,
        attributesOf(index, note),
      ),
    ),
  );
  const chord = item.notes.map((note, at) => {
    const tied = (note.tiedFrom ? '<tie type="stop"/>' : '') + (note.tiedTo ? '<tie type="start"/>' : '');
    const notations =
      (note.tiedFrom ? '<tied type="stop"/>' : '') +
      (note.tiedTo ? '<tied type="start"/>' : '') +
      (at === 0 ? bracket : '') +
      (part.isDrums && drumPlace(note.pitch).isOpen ? '<technical><open-string/></technical>' : '') +
      (at === 0 && item.isStaccato ? '<articulations><staccato/></articulations>' : '') +
      (item.isRolled ? '<arpeggiate/>' : '');
    return element(
      'note',
      (at > 0 ? '<chord/>' : '') +
        sounding(part, note) +
        duration +
        tied +
        instrumentOf(part, index, note) +
        place +
        written +
        accidental(note) +
        ratio +
        stemOf(part, item, voice) +
        headOf(part, note) +
        onStaff +
        (at === 0 ? beams : '') +
        (notations ? element('notations', notations) : ''),
      attributesOf(index, note),
    );
  });
  return [...graces, ...chord];
}

function attributesOf(index: number, note: WrittenNote) {
  // Only the first of tied values bears the name of the note: ids are there once.
  return {
    id: note.tiedFrom ? undefined : xmlIdOf(index, note.id),
    dynamics: ((100 * note.velocity) / FORTE).toFixed(2),
  };
}

function sounding({ isDrums }: WrittenPart, { pitch, step, alter, octave }: WrittenNote): string {
  if (isDrums) {
    const { step: letter, octave: height } = drumPlace(pitch);
    return `<unpitched><display-step>${letter}</display-step><display-octave>${height}</display-octave></unpitched>`;
  }
  return `<pitch><step>${step}</step>${alter === 0 ? '' : `<alter>${alter}</alter>`}<octave>${octave}</octave></pitch>`;
}

const instrumentOf = ({ isDrums }: WrittenPart, index: number, { pitch }: WrittenNote): string =>
  isDrums ? `<instrument id="P${index + 1}-I${pitch}"/>` : '';

const accidental = (note: WrittenNote): string =>
  note.accidental ? element('accidental', escapedXml(note.accidental)) : '';

function headOf({ isDrums }: WrittenPart, { pitch }: WrittenNote): string {
  const head = isDrums ? drumPlace(pitch).head : 'normal';
  return head === 'normal' ? '' : element('notehead', head);
}

/** Hands up, feet down; other stems are the engraver's. */
const stemOf = ({ isDrums }: WrittenPart, { value }: WrittenItem, voice: number): string =>
  isDrums && value.type !== 'whole' ? element('stem', voice === 1 ? 'up' : 'down') : '';
