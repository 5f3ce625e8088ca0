import type { Direction } from '../../notation';
import { element, textElement } from './xml';

/** What stands over or under the notes, as an element; places are behind the note at `from`. */
export function directionXml(
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
