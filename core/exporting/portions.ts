import { blocksOf, endOfBlock, lengthOf } from '../arranging';
import { OrdleError } from '../errors';
import { endOfChosen, excerptOf, markersOf, onlyParts, type Chosen } from '../evaluate';
import { orderedOf } from '../session';
import { sectionsOf } from '../sections';
import { barAt } from '../time';
import type { ExportSource, Portion } from './formatKind';

/** What of the chosen parts is written: all, some bars (the second not counted), or each section or block by itself. */
export type Extent =
  | { of: 'all' }
  | { of: 'bars'; bars: readonly [from: number, to: number] }
  | { of: 'sections' }
  | { of: 'blocks' };

/**
 * The portions that are written as files of their own, cut at bar lines. Throws `no-sections` where the music has none
 * and sections are asked for.
 */
export function portionsOf(source: ExportSource, chosen: Chosen, extent: Extent): Portion[] {
  const whole: Portion = { source, chosen, name: '', number: 0 };
  if (extent.of === 'all') return [whole];
  if (extent.of === 'bars') return [{ ...whole, chosen: excerptOf(chosen, extent.bars) }];
  const made = extent.of === 'sections' ? sectionsIn(whole) : blocksIn(whole);
  // What has no note anywhere makes no file.
  return made.flatMap((portion) => {
    const parts = portion.chosen.parts.filter(({ material }) => material.notes.length > 0);
    return parts.length === 0 ? [] : [{ ...portion, chosen: { ...portion.chosen, parts } }];
  });
}

function sectionsIn({ source, chosen }: Portion): Portion[] {
  const { session, timeline } = chosen;
  const sections = sectionsOf(markersOf(session, source.takeOf), timeline.meter, endOfChosen(chosen));
  if (sections.length === 0)
    throw new OrdleError(
      'no-sections',
      'This session has no sections: set markers over the bars on the Bench or on Parts, or export by blocks.',
    );
  return sections.map(({ name, bars }, at) => ({
    source,
    name,
    number: at + 1,
    chosen: excerptOf(chosen, bars),
  }));
}

/** Each block of each part, from the line of the bar it begins in to that after its end; muted ones are left out. */
function blocksIn({ source, chosen }: Portion): Portion[] {
  const { timeline } = chosen;
  const quarter = timeline.ticksPerQuarter;
  return chosen.parts.flatMap(({ part, material }) => {
    const last = material.notes.end.reduce((most, end) => Math.max(most, end), 0);
    // As it was played it lies as it was played, whatever its layout makes of it.
    const laid = chosen.version === 'played' ? { ...part, steps: orderedOf([]) } : part;
    const blocks = blocksOf(laid, last / quarter)
      .filter(({ muted }) => muted !== true)
      .sort((a, b) => a.at - b.at);
    return blocks.map((block, at): Portion => {
      const end = Math.min(endOfBlock(block), block.at + lengthOf(block));
      const from = barAt(timeline.meter, block.at * quarter + 1e-6).number;
      const to = barAt(timeline.meter, Math.max(0, end * quarter - 1e-3)).number + 1;
      return {
        source,
        name: `block ${at + 1}`,
        number: at + 1,
        chosen: excerptOf(onlyParts(chosen, [part.id]), [from, Math.max(from + 1, to)]),
      };
    });
  });
}
