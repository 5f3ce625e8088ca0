import { z } from 'zod';
import { OrdleError } from '../errors';
import { DRUM_CHANNEL, type MidiFile } from '../midi';
import { takesOfFile, type Take } from '../model';
import { barNumbered, createTimeline } from '../time';
import { channelsOf, layerOf, referencesTo, sessionOfFile, type ImportedFile } from './importFile';
import { orderedOf } from './ordered';
import { emptyPart } from './emptyPart';
import type { Part, Piece, Session } from './session';

/**
 * How files make up a session: parts, their layers, and which bars of which file supply each. Bars as in a recipe's
 * where.
 */
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
 * Builds a session from a plan and the files it names; the last track with notes of each file is the take. Throws
 * `plan-file` when a file is missing or holds no notes.
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
  let number = 0;
  const parts = plan.parts.map((part, index): Part => {
    const layers = part.layers.map((layer, place) =>
      layerOf(
        layer.map(({ file, bars }) => pieceOf(takeByFile.get(file), bars, lead.session, number++)),
        place,
      ),
    );
    const take = takeByFile.get(part.layers[0][0].file);
    const channel = take ? channelsOf(take)[0] : 1;
    return {
      ...emptyPart({
        id: newId(),
        name: part.name,
        ink: index % 8,
        channel,
        sound: { program: programOf(take, channel - 1), drums: channel - 1 === DRUM_CHANNEL, chosen: false },
        layers: orderedOf(layers),
      }),
      muted: part.muted,
      // Each file was recorded by itself.
      recording: part.layers[0][0].file,
    };
  });
  return {
    session: {
      ...lead.session,
      takes: orderedOf(referencesTo(takes)),
      parts: orderedOf(parts),
      nextPiece: number,
    },
    takes,
  };
}

function lastTake(name: string, file: MidiFile): Take {
  const take = takesOfFile(file).findLast((candidate) => candidate.notes.length > 0);
  if (!take) throw new OrdleError('plan-file', `The file ${name} holds no notes.`);
  return take;
}

function pieceOf(
  take: Take | undefined,
  bars: [number, number] | null,
  session: Session,
  number: number,
): Piece {
  const piece = { id: `piece${number}`, number, source: { take: take?.key ?? '' }, rest: 'untimed' as const };
  if (!bars) return { ...piece, from: 0, to: null, at: 0 };
  const { meter } = createTimeline(session.division, session.tempos, session.meters);
  const [from, to] = bars.map((bar) => barNumbered(meter, bar).start);
  return { ...piece, from, to, at: from };
}

function programOf(take: Take | undefined, channel: number): number {
  const events = take?.events;
  for (let row = 0; events && row < events.length; row++) {
    if (events.status[row] === (0xc0 | channel)) return events.data1[row];
  }
  return 0;
}
