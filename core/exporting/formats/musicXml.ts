import { strToU8 } from 'fflate';
import { z } from 'zod';
import { OrdleError } from '../../errors';
import { onlyParts } from '../../evaluate';
import { writeMusicXml, writeMxl } from '../../formats';
import { partsAsWritten } from '../../readings';
import type { FormatKind, Portion } from '../formatKind';
import { countOf } from './midi';

export const musicXmlSettings = z.strictObject({
  /** As one small file, with what is needed to open it. */
  compressed: z.boolean().default(false),
  /** As each part says, where it is not said here. */
  staves: z
    .union([z.literal(1), z.literal(2)])
    .nullable()
    .default(null),
  finest: z.literal([4, 8, 16, 32, 64]).nullable().default(null),
});
export type MusicXmlSettings = z.infer<typeof musicXmlSettings>;

/** MusicXML 4.0, as Score writes it. */
export const musicXml: FormatKind<MusicXmlSettings> = {
  id: 'musicxml',
  title: 'MusicXML',
  tells: 'written music, to engrave',
  options: musicXmlSettings,
  isCut: true,
  cannotHold: () => [
    'Notes stand at written values: how early, late or long each was is not in it.',
    'Of the controllers it holds the pedal alone.',
  ],
  check(portion, options) {
    const [from, to] = portion.chosen.excerpt?.bars ?? [1, Infinity];
    const count = writtenParts(portion, options)
      .flatMap(({ written }) => written.concerns)
      .filter(({ bar }) => bar >= from && bar < to).length;
    if (count === 0) return [];
    const notes = count === 1 ? '1 note is' : `${count.toLocaleString('en')} notes are`;
    return [`${notes} written otherwise than played, so that the page can be read; Score lists them.`];
  },
  files({ chosen, source }, options) {
    const { compressed } = options;
    const sounding = chosen.parts.filter(({ material }) => material.notes.length > 0);
    return [
      {
        part: '',
        extension: compressed ? 'mxl' : 'musicxml',
        words: countOf(sounding.length),
        *chunks() {
          const written = writtenParts({ chosen, source }, options).map((each) => each.written);
          if (written.length === 0)
            throw new OrdleError(
              'nothing-to-export',
              'There are no notes in these parts to be written down.',
            );
          const xml = writeMusicXml(written, {
            title: chosen.session.name,
            ...(chosen.excerpt && { bars: chosen.excerpt.bars }),
          });
          yield compressed ? writeMxl(xml) : strToU8(xml);
        },
      },
    ];
  },
};

/** The parts as notation, each by its own settings but for what the options say. */
function writtenParts(
  { chosen, source }: Pick<Portion, 'chosen' | 'source'>,
  { staves, finest }: MusicXmlSettings,
): ReturnType<typeof partsAsWritten> {
  // Read as a whole, as Score reads it: how a bar is written depends on the others.
  const ids = chosen.parts.map(({ part }) => part.id);
  const whole = chosen.excerpt ? onlyParts(chosen.excerpt.whole, ids) : chosen;
  const parts = whole.parts.map((own) => ({
    ...own,
    part: {
      ...own.part,
      notation: {
        ...own.part.notation,
        ...(staves !== null && { staves }),
        ...(finest !== null && { finest }),
      },
    },
  }));
  return partsAsWritten({ ...whole, parts }, source.takeOf);
}
