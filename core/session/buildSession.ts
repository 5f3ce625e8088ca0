import { z } from 'zod';
import { OrdleError } from '../errors';
import { DRUM_CHANNEL, type MidiFile } from '../midi';
import { takesOfFile, type Take } from '../model';
import { barNumbered, createTimeline } from '../time';
import { channelsOf, referTo, sessionOfFile, type ImportedFile } from './importFile';
import type { Part, Segment, Session } from './session';

/** How files make up a session: parts, their layers, and which bars of which file supply each. Bars as in a recipe's where. */
export const sessionPlanSchema = z.strictObject({
  name: z.string(),
  /** The file whose tempo and meter the session takes. */
  lead: z.string(),
  parts: z.array(
    z.strictObject({
      name: z.string(),
      layers: z.array(
        z.array(z.strictObject({ file: z.string(), bars: z.tuple([z.int(), z.int()]).nullable() })),
      ),
      muted: z.boolean(),
    }),
  ),
});

export type SessionPlan = z.infer<typeof sessionPlanSchema>;

/**
 * Builds a session from a plan and the files it names; the last track with notes of each file is the take. Throws `plan-file`
 * when a file is missing or holds no notes.
 */
export function buildSession(
  plan: SessionPlan,
  files: ReadonlyMap<string, MidiFile>,
  newId: () => string,
  now: number,
): ImportedFile {
  const fileNamed = (name: string) => {
    const file = files.get(name);
    if (!file)
      throw new OrdleError(
        'plan-file',
        `The session "${plan.name}" needs the file ${name}, which is not there.`,
      );
    return file;
  };
  const lead = sessionOfFile(fileNamed(plan.lead), plan.name, newId, now);
  const takeByFile = new Map<string, Take>();
  for (const { file } of plan.parts.flatMap((part) => part.layers.flat())) {
    if (!takeByFile.has(file)) takeByFile.set(file, lastTake(file, fileNamed(file)));
  }
  const takes = [lead.takes[0], ...takeByFile.values()];
  const references = referTo(takes, 0);
  const parts = plan.parts.map((part, index): Part => {
    const layers = part.layers.map((layer) =>
      layer.map(({ file, bars }) => segmentOf(takeByFile.get(file), bars, lead.session)),
    );
    const take = takeByFile.get(part.layers[0][0].file);
    const channel = take ? channelsOf(take)[0] : 1;
    return {
      id: newId(),
      name: part.name,
      ink: index % 8,
      channel,
      sound: { program: programOf(take, channel - 1), drums: channel - 1 === DRUM_CHANNEL, chosen: false },
      rechannel: false,
      lockedTo: 'beats',
      layers,
      steps: [],
      folded: [],
      muted: part.muted,
      soloed: false,
    };
  });
  const nextNoteId = references.reduce((sum, reference) => sum + reference.noteCount, 0);
  return { session: { ...lead.session, takes: references, parts, nextNoteId }, takes };
}

function lastTake(name: string, file: MidiFile): Take {
  const take = takesOfFile(file).findLast((candidate) => candidate.notes.length > 0);
  if (!take) throw new OrdleError('plan-file', `The file ${name} holds no notes.`);
  return take;
}

function segmentOf(take: Take | undefined, bars: [number, number] | null, session: Session): Segment {
  const segment = { take: take?.key ?? '', channel: null, rest: 'untimed' as const };
  if (!bars) return { ...segment, from: 0, to: null, at: 0 };
  const { meter, ticksPerQuarter } = createTimeline(session.division, session.tempos, session.meters);
  // Seams lie a thirty-second before the bar line: what was played a little early belongs to the bar it was meant for.
  const seam = (bar: number) => Math.max(0, barNumbered(meter, bar).start - ticksPerQuarter / 8);
  return { ...segment, from: seam(bars[0]), to: seam(bars[1]), at: seam(bars[0]) };
}

function programOf(take: Take | undefined, channel: number): number {
  const events = take?.events;
  for (let row = 0; events && row < events.length; row++) {
    if (events.status[row] === (0xc0 | channel)) return events.data1[row];
  }
  return 0;
}
