import { drumName } from '../midi';
import type { WrittenBar, WrittenItem, WrittenNote, WrittenPart } from './written';

const ALTERED: Record<string, string> = {
  '-2': ' double flat',
  '-1': ' flat',
  '1': ' sharp',
  '2': ' double sharp',
};

const noteInWords = ({ step, alter, octave, pitch }: WrittenNote, isDrums: boolean): string =>
  isDrums ? (drumName(pitch) ?? `piece ${pitch}`) : `${step}${ALTERED[alter] ?? ''} ${octave}`;

function itemInWords({ notes, value, tuplet, isWholeBar }: WrittenItem, isDrums: boolean): string {
  const length = `${value.dots === 1 ? 'dotted ' : ''}${value.type}${tuplet ? ` of ${tuplet.actual}` : ''}`;
  if (isWholeBar) return 'rest';
  if (notes.length === 0) return `rest ${length}`;
  const tied = notes.every(({ tiedFrom }) => tiedFrom) ? 'held on, ' : '';
  return `${tied}${notes.map((note) => noteInWords(note, isDrums)).join(' and ')} ${length}`;
}

/** What stands in a bar of a part, for those who do not see it: voice by voice. */
export function barInWords({ name, isDrums }: WrittenPart, { number, staves }: WrittenBar): string {
  const voices = staves.flatMap((list, staff) =>
    list.map(({ items }, voice) => {
      const lead = staves.length > 1 ? `${staff === 0 ? 'upper' : 'lower'} staff` : '';
      const which = [lead, list.length > 1 ? `voice ${voice + 1}` : ''].filter(Boolean).join(', ');
      return `${which ? `${which}: ` : ''}${items.map((item) => itemInWords(item, isDrums)).join(', ')}`;
    }),
  );
  return `${name}, bar ${number}: ${voices.join('; ')}.`;
}
