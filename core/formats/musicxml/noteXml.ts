import type { WrittenItem, WrittenNote, WrittenPart } from '../../notation';
import { drumPlace } from './drumStaff';
import { element, escapedXml } from './xml';

/** The velocity that is forte: `dynamics` is a percentage of it (MusicXML documentation, from memory). */
export const FORTE = 90;

/** The id of a note in the file: a note of the part, its first written value; the others of a tie have none. */
export const xmlIdOf = (part: number, id: number): string => `p${part + 1}n${id}`;

/** The note of the part an id of the file is of; null for other ids. */
export function noteOfXmlId(xmlId: string): { part: number; id: number } | null {
  const match = /^p(\d+)n(-?\d+)(?:\.\d+)?$/.exec(xmlId);
  return match ? { part: Number(match[1]) - 1, id: Number(match[2]) } : null;
}

/** A chord or a rest with its grace notes, as the elements of its notes. */
export function notesXml(
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
        (notations ? element('notations', notations) : '') +
        lyricOf(note),
      attributesOf(index, note),
    );
  });
  return [...graces, ...chord];
}

/** A syllable with a hyphen behind it goes on in the next one. */
function lyricOf({ lyric }: WrittenNote): string {
  const text = lyric?.trim().replace(/-$/, '');
  if (!text) return '';
  const syllabic = lyric?.trim().endsWith('-') ? 'begin' : 'single';
  return element('lyric', `<syllabic>${syllabic}</syllabic><text>${escapedXml(text)}</text>`);
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
