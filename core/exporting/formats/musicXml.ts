import { strToU8 } from 'fflate';
import { z } from 'zod';
import { OrdleError } from '../../errors';
import { writeMusicXml, writeMxl } from '../../formats';
import { partsAsWritten } from '../../readings';
import type { FormatKind } from '../formatKind';
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
  files({ chosen, source }, { compressed, staves, finest }) {
    const sounding = chosen.parts.filter(({ material }) => material.notes.length > 0);
    return [
      {
        part: '',
        extension: compressed ? 'mxl' : 'musicxml',
        words: countOf(sounding.length),
        *chunks() {
          const parts = chosen.parts.map((own) => ({
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
          const written = partsAsWritten({ ...chosen, parts }, source.takeOf).map((each) => each.written);
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
