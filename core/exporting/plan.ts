import { z } from 'zod';
import { OrdleError } from '../errors';
import { chosenParts } from '../evaluate';
import { bpmOf, type TempoMap } from '../time';
import { filesOf, formatChoiceSchema, formatOf, optionsOf, type FormatChoice } from './formats';
import type { ExportSource, PlannedFile, Portion, Workshop } from './formatKind';
import { PACK_PATTERN, PLAIN_PATTERN, legalName, nameBy, namesApart } from './names';
import { portionsOf, type Extent } from './portions';
import { zipOf } from './zip';

/** What is to be handed on, and how. */
export interface ExportChoice {
  /** Ids of parts. */
  parts: readonly string[];
  version: 'cleaned' | 'played';
  extent: Extent;
  /** How files are called, with the words of `NAME_TOKENS` in braces; null as usual. */
  names: string | null;
  formats: readonly FormatChoice[];
}

const bar = z.int().min(1).max(1_000_000);
export const exportChoiceSchema = z.strictObject({
  parts: z.array(z.string()),
  version: z.enum(['cleaned', 'played']),
  extent: z.discriminatedUnion('of', [
    z.strictObject({ of: z.literal('all') }),
    z.strictObject({ of: z.literal('bars'), bars: z.tuple([bar, bar]) }),
    z.strictObject({ of: z.literal('sections') }),
    z.strictObject({ of: z.literal('blocks') }),
  ]),
  names: z.string().max(500).nullable(),
  formats: z.array(formatChoiceSchema).max(50),
});

/** The files that will be written, by their names; more than one go into a zip. */
export interface ExportPlan {
  files: (PlannedFile & { name: string; format: string })[];
  /** The name of the one file, or of the zip. */
  name: string;
  isZip: boolean;
}

/** Whether files of sections or blocks are asked for. */
export const isPack = ({ of }: Extent): boolean => of === 'sections' || of === 'blocks';

/**
 * What will be written. Throws `nothing-to-export` where nothing would be, and as working the parts out does; `isZip`
 * says that one file goes into a zip too.
 */
export function planExport(source: ExportSource, choice: ExportChoice, isZip = false): ExportPlan {
  if (choice.formats.length === 0)
    throw new OrdleError('nothing-to-export', 'No format is chosen. Choose at least one.');
  const chosen = chosenParts(source.session, choice, source.evaluator);
  const portions = portionsOf(source, chosen, choice.extent);
  const whole: Portion = { source, chosen, name: '', number: 0 };
  const pattern = choice.names?.trim() || (isPack(choice.extent) ? PACK_PATTERN : PLAIN_PATTERN);
  const planned = choice.formats.flatMap((format) => {
    const { isCut } = formatOf(format.format);
    return (isCut ? portions : [whole]).flatMap((portion) =>
      filesOf(portion, format).map((file) => ({
        file,
        format: format.format,
        stem: stemOf(file, portion, isCut ? pattern : PLAIN_PATTERN),
      })),
    );
  });
  if (planned.length === 0)
    throw new OrdleError(
      'nothing-to-export',
      'There is nothing in these parts that could be written so. Choose other parts, other bars or another format.',
    );
  const names = namesApart(planned.map(({ stem, file }) => ({ stem, extension: file.extension })));
  const files = planned.map(({ file, format }, at) => ({ ...file, format, name: names[at] }));
  const zipped = isZip || files.length > 1;
  return { files, isZip: zipped, name: zipped ? `${legalName(source.session.name)}.zip` : files[0].name };
}

function stemOf(file: PlannedFile, { chosen, name, number }: Portion, pattern: string): string {
  const { session, excerpt, timeline, version, parts } = chosen;
  const bpm = bpmAt(timeline.tempo, excerpt?.from ?? 0);
  const stem = nameBy(pattern, {
    session: session.name,
    // Of a section or block with one part it is that part's.
    part: file.part || (name !== '' && parts.length === 1 ? parts[0].part.name : ''),
    section: name,
    number: number === 0 ? '' : String(number).padStart(2, '0'),
    bars: excerpt ? barsInWords(excerpt.bars) : '',
    tempo: String(Math.round(bpm * 10) / 10),
    version: version === 'played' ? 'as played' : '',
  });
  return legalName(file.what ? `${stem}, ${file.what}` : stem);
}

const barsInWords = ([from, to]: readonly [number, number]): string =>
  to - from === 1 ? `bar ${from}` : `bars ${from}-${to - 1}`;

/** The tempo that holds at a tick. */
function bpmAt({ tick, microsecondsPerQuarter }: TempoMap, at: number): number {
  const row = tick.findLastIndex((each) => each <= at);
  return bpmOf(microsecondsPerQuarter[Math.max(0, row)]);
}

/**
 * Writes what was planned, piece by piece: the one file, or the zip. `tell` hears of each share that is done (0 to 1).
 */
export async function* writeExport(
  plan: ExportPlan,
  workshop: Omit<Workshop, 'pause'> & { pause(): Promise<void> },
  tell: (share: number) => void = () => undefined,
): AsyncGenerator<Uint8Array> {
  // A file that has to sound is most of the work; others are told by the second.
  const work = plan.files.map(({ seconds = 1 }) => seconds);
  const all = work.reduce((sum, each) => sum + each, 0);
  let done = 0;
  const chunksOf = (at: number) =>
    plan.files[at].chunks({
      ...workshop,
      async pause(share) {
        tell((done + share * work[at]) / all);
        await workshop.pause();
      },
    });
  async function* each() {
    for (const [at, { name }] of plan.files.entries()) {
      await workshop.pause();
      tell(done / all);
      yield { name, chunks: chunksOf(at) };
      done += work[at];
    }
  }
  if (plan.isZip) yield* zipOf(each());
  else yield* chunksOf(0);
  tell(1);
}

/**
 * What there is to know of what was chosen before it is written, by the format's id. Of sections and blocks the whole
 * is looked at.
 */
export function checkFormats(
  source: ExportSource,
  choice: ExportChoice,
): { format: string; sentences: string[] }[] {
  const chosen = chosenParts(source.session, choice, source.evaluator);
  const extent: Extent = isPack(choice.extent) ? { of: 'all' } : choice.extent;
  const portions = portionsOf(source, chosen, extent);
  return choice.formats.map(({ format, options }) => {
    const kind = formatOf(format);
    const read = optionsOf(kind, options);
    return { format, sentences: portions.flatMap((portion) => kind.check?.(portion, read) ?? []) };
  });
}

/** What a choice leaves out of each format, by the format's id. */
export const leftOut = (formats: readonly FormatChoice[]): { format: string; sentences: string[] }[] =>
  formats.map(({ format, options }) => {
    const kind = formatOf(format);
    return { format, sentences: kind.cannotHold(optionsOf(kind, options)) };
  });
