import { UNITS_PER_QUARTER, type WrittenBar, type WrittenItem, type WrittenPart } from '../../notation';
import type { Clef } from '../../session';
import { directionXml } from './directionXml';
import { notesXml } from './noteXml';
import { element, textElement } from './xml';

/** Clefs by sign, line and octave. */
const CLEF_SIGNS: Record<Clef, string> = {
  treble: '<sign>G</sign><line>2</line>',
  bass: '<sign>F</sign><line>4</line>',
  alto: '<sign>C</sign><line>3</line>',
  tenor: '<sign>C</sign><line>4</line>',
  'treble-8': '<sign>G</sign><line>2</line><clef-octave-change>-1</clef-octave-change>',
  percussion: '<sign>percussion</sign>',
};

/** Voices of a staff have numbers of their own in the file: 1 and 2, 5 and 6. */
const voiceNumber = (staff: number, voice: number): number => 4 * staff + voice;

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
  if (!goesOn && shown[0]) shown[0].bars = withTempo(shown[0].bars, parts[0].bars);
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

/** Some bars of a part, the first of which says at which tempo it goes even where that was said before. */
function withTempo([first, ...rest]: readonly WrittenBar[], all: readonly WrittenBar[]): WrittenBar[] {
  if (!first) return [];
  const said = all
    .filter(({ number }) => number < first.number)
    .flatMap(({ directions }) => directions)
    .findLast(({ what }) => what === 'tempo');
  const saysIt = first.directions.some(({ what, at }) => what === 'tempo' && at === 0);
  return [
    said && !saysIt ? { ...first, directions: [{ ...said, at: 0 }, ...first.directions] } : first,
    ...rest,
  ];
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
          lines.push(directionXml(next, item.at, staff, part.staves, unit, isCompound));
          waiting.shift();
        }
        lines.push(...notesXml(part, index, item, staff, voiceNumber(staff, number), unit));
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
