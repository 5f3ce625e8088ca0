import '@/zodWithoutEval';
import {
  OrdleError,
  alongEdits,
  beforeFold,
  blendedPlayback,
  buildSession,
  checkExport,
  clearEdits,
  clipsOf,
  createEvaluator,
  exportSession,
  itemOf,
  joinTables,
  kindOf,
  lanesIn,
  pickEvents,
  foldSteps,
  independent,
  isCompressed,
  joinFile,
  latenessOf,
  layoutOf,
  listOf,
  layClips,
  markersOf,
  noteStory,
  partFacts,
  partNamed,
  partsHeard,
  pickRows,
  readMidi,
  restoreTake,
  rowsAnswering,
  sessionOfFile,
  takeGroove,
  timelineOf,
  touchedRows,
  unfoldSteps,
  writeMidi,
  type Part,
  type Timeline,
} from '@ordle/core';
import { expose } from 'comlink';
import { tableOf } from '@/storage/editTables';
import { createDocumentReceiver, type DocumentMessage } from './documentCopy';
import { createLibrary } from './library';
import { packError } from './packedError';
import type { Engine, PartQuestion, PartViewRequest, StopQuestion } from './protocol';
import { cleanedRuler, offMsAt } from './rulers';
import { handPictureOf, partRows, sharesOf } from './partRows';
import { takesForPart } from './takesForPart';
import { packSession, unpackSession } from './sessionFile';
import { assembledView, contestedLanes, takeRows } from './takesView';
import { readingsViewOf } from './readingsView';
import { tempoViewOf } from './tempoView';
import { timingPictureOf } from './timingPicture';
import { viewOfPart } from './viewOfPart';

const library = createLibrary();
const { takeOf, editTable, keep, summon } = library;
const evaluator = createEvaluator(takeOf, editTable);
const newId = () => crypto.randomUUID();

function partOf({ session, partId }: PartQuestion) {
  const part = itemOf(session.parts, partId);
  if (!part) throw new OrdleError('no-part', 'The part is no longer in the session.');
  return { part, session };
}

/** Everything that is needed to work on one part of a document, its takes loaded. */
async function scene({ session, partId }: PartQuestion) {
  const { part } = partOf({ session, partId });
  await summon([part, ...partsHeard(part, session)], session);
  const timeline = timelineOf(session);
  return { part, session, timeline, evaluation: evaluator.evaluate(part, session, timeline) };
}

/** The material of a part at a stop. */
async function atStop(request: StopQuestion) {
  const { part, evaluation, ...rest } = await scene(request);
  return { part, ...rest, material: evaluation.stages[Math.min(request.stop, part.steps.order.length)] };
}

/** The notes of a part at a stop with those of the other parts on its channel, as these are cleaned: what goes along with some must leave all others as they are. */
async function notesOfChannel(request: StopQuestion) {
  const { part, session, timeline, material } = await atStop(request);
  const others = evaluator.aloneBeside(part, session, timeline).map((other) => other.material.notes);
  return { part, material, notes: joinTables([material.notes, ...others]) };
}

/** The cleaned notes of the part that the current step listens to; null where it listens to none. */
function heardBy({ session, stop, cleaned }: PartViewRequest, part: Part, timeline: Timeline) {
  const step = cleaned ? undefined : listOf(part.steps)[stop - 1]?.step;
  const reference = step?.on ? kindOf(step.kind).reference?.(step) : undefined;
  const other = reference === undefined ? undefined : partNamed(session, reference);
  if (!other || other.id === part.id) return null;
  const { stages } = evaluator.evaluate(other, session, timeline);
  return stages[stages.length - 1].notes;
}

const engine: Engine = {
  async adopt(list) {
    for (const take of list) library.adopt(restoreTake(take));
  },

  async adoptTables(list) {
    list.forEach(library.adoptTable);
  },

  async nameColumns(columns) {
    const table = await tableOf(columns);
    library.adoptTable(table);
    return table.key;
  },

  async importFile(name, bytes) {
    if (isCompressed(bytes)) {
      const { session, takes, tables } = await unpackSession(bytes);
      tables.forEach(library.adoptTable);
      // It may be here already, as it was when the file was written.
      const own = { ...session, id: newId(), createdAt: Date.now() };
      return { session: own, repairs: [], tables, unkept: await keep(takes.map(restoreTake)) };
    }
    const { file, repairs } = readMidi(bytes);
    const { session, takes: made } = sessionOfFile(file, name, newId, Date.now());
    return { session, repairs, tables: [], unkept: await keep(made) };
  },

  async joinFile({ session, bytes }) {
    if (isCompressed(bytes))
      throw new OrdleError(
        'session-file',
        'A session file becomes a session of its own. Open it from the shelf, then bring its parts in on Parts.',
      );
    const { file, repairs } = readMidi(bytes);
    const { takes: made, references, parts } = joinFile(session, file, newId);
    return { references, parts, repairs, unkept: await keep(made) };
  },

  async buildPlan(plan, files) {
    const readings = files.map(([name, bytes]) => [name, readMidi(bytes)] as const);
    const { session, takes: made } = buildSession(
      plan,
      new Map(readings.map(([name, reading]) => [name, reading.file])),
      newId,
      Date.now(),
    );
    return {
      session,
      repairs: readings.flatMap(([, reading]) => reading.repairs),
      tables: [],
      unkept: await keep(made),
    };
  },

  async viewPart(request) {
    const { part, session, evaluation, timeline } = await scene(request);
    return viewOfPart(request, {
      part,
      evaluation,
      timeline,
      other: heardBy(request, part, timeline),
      editTable,
      beside: evaluator.aloneBeside(part, session, timeline),
    });
  },

  timingPicture: timingPictureOf,

  async offTheGrid({ session, grid }) {
    const parts = listOf(session.parts);
    await summon(parts, session);
    const timeline = timelineOf(session);
    return Object.fromEntries(
      parts.flatMap((part) => {
        const { stages } = evaluator.evaluate(part, session, timeline);
        const { notes } = stages[stages.length - 1];
        return notes.length === 0 ? [] : [[part.id, offMsAt(notes, cleanedRuler(part, grid), timeline)]];
      }),
    );
  },

  async takeRows({ grid, ...request }) {
    const { part, session } = partOf(request);
    return takeRows(part, session, grid, { evaluator, summon });
  },

  async assembledView({ grid, ...request }) {
    const { part, session } = partOf(request);
    return assembledView(part, session, grid, { evaluator, summon });
  },

  async foundBeats(request) {
    const { part, evaluation, timeline } = await scene(request);
    return tempoViewOf(part, evaluation, timeline);
  },

  async readings({ session, grid }) {
    const parts = listOf(session.parts).filter(({ setAside }) => !setAside);
    await summon(listOf(session.parts), session);
    const timeline = timelineOf(session);
    const read = parts.map((part) => ({ part, evaluation: evaluator.evaluate(part, session, timeline) }));
    return readingsViewOf(read, grid, timeline);
  },

  async contestedLanes({ session, part }) {
    return contestedLanes(part, session, { evaluator, summon });
  },

  async markers({ session }) {
    await summon(listOf(session.parts), session);
    return markersOf(session, takeOf);
  },

  async partRows({ session }) {
    return partRows(session, { evaluator, summon });
  },

  async independent({ blocks, ids, ...request }) {
    const { part, evaluation, timeline } = await scene(request);
    const layout = layoutOf(part);
    const at = layout ? part.steps.order.indexOf(layout.id) : part.steps.order.length;
    const context = { timeline, isDrums: part.sound.drums, channel: part.channel - 1 };
    return independent(evaluation.stages[at], blocks, new Set(ids), context);
  },

  async sharesOf({ by, line, ...request }) {
    const { evaluation, timeline } = await scene(request);
    return sharesOf(evaluation, { by, line }, timeline);
  },

  async handPicture({ line, ...request }) {
    const { evaluation, timeline } = await scene(request);
    return handPictureOf(evaluation, line, timeline);
  },

  async takesOfFile({ name, bytes, ...request }) {
    const { part, session } = partOf(request);
    const { takes: made, repairs, ...found } = takesForPart(part, session, name, bytes, newId);
    return { ...found, repairs, unkept: await keep(made) };
  },

  async playback({ session, stops, blend, partIds }) {
    const parts = listOf(session.parts).filter((part) => partIds.includes(part.id));
    await summon(listOf(session.parts), session);
    const timeline = timelineOf(session);
    const stagesOf = (part: Part) => {
      const { stages } = evaluator.evaluate(part, session, timeline);
      return {
        played: stages[0],
        heard: stages[Math.min(stops[part.id] ?? Infinity, part.steps.order.length)],
      };
    };
    return parts.map((part) => {
      const { played, heard } = stagesOf(part);
      // Controllers belong to the channel: the pedal of one hand's track holds for the other hand's notes, muted or not.
      const beside = evaluator.partsBeside(part, session).map((other) => {
        const sides = stagesOf(other);
        return (blend >= 0.5 ? sides.heard : sides.played).events;
      });
      return blendedPlayback(played, heard, blend, timeline.tempo, beside);
    });
  },

  async pickNotes({ grid, question, ...request }) {
    const { material, timeline } = await atStop(request);
    const { notes } = material;
    const late = latenessOf(notes, [grid], 50, timeline);
    return Float64Array.from(rowsAnswering(notes, question, late, timeline), (row) => notes.id[row]);
  },

  async factsOf(request) {
    const { material, timeline } = await atStop(request);
    return partFacts(material.notes, timeline, material.events);
  },

  async touchedNotes({ stepId, ...request }) {
    const { part, evaluation, timeline } = await scene(request);
    const at = part.steps.order.indexOf(stepId);
    if (at < 0) return new Float64Array(0);
    const { notes } = evaluation.stages[at];
    const touched = touchedRows(notes, part.steps.byId[stepId].step.where, timeline);
    return notes.id.filter((_, row) => touched[row] === 1);
  },

  async noteStory({ id, ...request }) {
    return noteStory((await scene(request)).evaluation.stages, id);
  },

  async takeGroove({ grid, beats, ids, ...request }) {
    const { part, evaluation, timeline } = await scene(request);
    const { notes } = evaluation.stages[evaluation.stages.length - 1];
    const selected = ids && new Set(ids);
    const rows = selected && Array.from(notes.id.keys()).filter((row) => selected.has(notes.id[row]));
    return takeGroove(rows ? pickRows(notes, rows) : notes, `groove of ${part.name}`, grid, beats, timeline);
  },

  async alongEdits({ ids, action, ...request }) {
    const { part, material, notes } = await notesOfChannel(request);
    return alongEdits(material.events, notes, new Set(ids), action, part.channel - 1);
  },

  async clipsOf({ ids, ...request }) {
    const { part, material, notes } = await notesOfChannel(request);
    return clipsOf(material.events, notes, new Set(ids), part.channel - 1);
  },

  async layClips({ clips, at, ...request }) {
    const { part, material } = await atStop(request);
    return layClips(material.events, clips, at, part.channel - 1);
  },

  async lanesBetween({ from, to, ...request }) {
    const { events } = (await atStop(request)).material;
    const rows = Array.from(events.tick.keys()).filter(
      (row) => events.tick[row] >= from && events.tick[row] < to,
    );
    return lanesIn(pickEvents(events, rows));
  },

  async clearLanes({ lanes, from, to, ...request }) {
    const { part, material } = await atStop(request);
    return clearEdits(material.events, lanes, [from, to], part.channel - 1);
  },

  async fold({ count, ...request }) {
    const { part, session, evaluation } = await scene(request);
    const {
      take,
      reference,
      part: folded,
    } = foldSteps(part, session, evaluation, count, Date.now(), editTable);
    return { part: folded, reference, unkept: await keep([take]) };
  },

  async unfold({ session, partId }) {
    const part = itemOf(session.parts, partId);
    const before = part && beforeFold(part);
    const fold = part?.folded.at(-1)?.take;
    if (!part || !before || fold === undefined)
      throw new OrdleError('nothing-folded', 'No steps of this part were made permanent.');
    await summon([part, before], session);
    const parts = { ...session.parts, byId: { ...session.parts.byId, [partId]: before } };
    const { evaluation } = await scene({ session: { ...session, parts }, partId });
    return unfoldSteps(part, evaluation, takeOf(fold), editTable);
  },

  async contents({ session }) {
    await summon(listOf(session.parts), session);
    const timeline = timelineOf(session);
    return Object.fromEntries(
      listOf(session.parts).map((part) => [part.id, evaluator.contentOf(part, session, timeline)]),
    );
  },

  async checkExport({ session, options }) {
    await summon(listOf(session.parts), session);
    return checkExport(session, options, evaluator, takeOf);
  },

  async sessionFile({ session }) {
    const { takes, tables } = await library.everythingOf(session);
    return packSession({ session, takes, tables });
  },

  async exportFile({ session, options }) {
    await summon(listOf(session.parts), session);
    return writeMidi(exportSession(session, options, evaluator, takeOf));
  },
};

const received = createDocumentReceiver();

/** A question with the document it means in place of the message about it; read at once, since the next message may change it. */
function withDocument(argument: unknown): unknown {
  if (typeof argument !== 'object' || argument === null || !('document' in argument)) return argument;
  const { document, ...rest } = argument as { document: DocumentMessage };
  return { ...rest, session: received.read(document) };
}

/** Errors cross the thread border as plain values, so that a known error stays known on the other side. */
expose(
  Object.fromEntries(
    Object.entries(engine).map(([name, method]) => [
      name,
      async (...args: unknown[]) => {
        try {
          const list = args.map(withDocument);
          return { value: await (method as (...list: unknown[]) => Promise<unknown>)(...list) };
        } catch (error) {
          return { error: packError(error) };
        }
      },
    ]),
  ),
);
