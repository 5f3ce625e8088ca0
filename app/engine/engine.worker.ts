import '@/zodWithoutEval';
import {
  OrdleError,
  alongEdits,
  beforeFold,
  blendedPlayback,
  buildSession,
  clipsOf,
  createEvaluator,
  exportSession,
  foldSteps,
  joinFile,
  latenessOf,
  layClips,
  noteStory,
  partFacts,
  pickRows,
  readMidi,
  restoreTake,
  rowsAnswering,
  sessionOfFile,
  takeGroove,
  touchedRows,
  unfoldSteps,
  writeMidi,
  type Evaluation,
  type Part,
  type Session,
  type StoredTake,
  type Take,
  type Timeline,
} from '@ordle/core';
import { expose } from 'comlink';
import { loadTake, storedPart, storeTakes } from '@/storage/takes';
import { createInterner } from './intern';
import { packError } from './packedError';
import type { Engine, PartViewRequest } from './protocol';
import { viewOfPart } from './viewOfPart';

/** Takes in memory, by key. */
const takes = new Map<string, Take>();
const interner = createInterner();
const takeOf = (key: string): Take => {
  const take = takes.get(key);
  if (!take) throw new OrdleError('take-missing', 'A performance of this session is not loaded.');
  return take;
};
const evaluator = createEvaluator(takeOf);
const newId = () => crypto.randomUUID();

/** Puts takes into memory and into the browser's storage; gives back those the browser would not store. */
async function keep(list: readonly Take[]): Promise<StoredTake[]> {
  for (const take of list) takes.set(take.key, take);
  const stored = list.map(storedPart);
  return storeTakes(stored).then(
    () => [],
    () => stored,
  );
}

/** Loads from storage whatever takes of the parts are not in memory yet. */
async function summon(parts: readonly Part[], session: Session) {
  const keys = new Set(parts.flatMap((part) => part.layers.flat().map((segment) => segment.take)));
  if (session.conductor) keys.add(session.conductor.take);
  await Promise.all(
    [...keys].filter((key) => !takes.has(key)).map(async (key) => takes.set(key, await loadTake(key))),
  );
}

function evaluated(part: Part, session: Session, timeline: Timeline): Evaluation {
  return evaluator.evaluate(part, session, timeline);
}

/** A part of a session, evaluated, with its takes loaded first. */
async function evaluatedPart(session: Session, partId: string) {
  const found = session.parts.find((part) => part.id === partId);
  if (!found) throw new OrdleError('no-part', 'The part is no longer in the session.');
  // A part drawn to others needs them too.
  const listens = found.steps.some(({ step }) => step.kind === 'align');
  const parts = listens ? session.parts.map((part) => interner.part(part)) : [interner.part(found)];
  await summon(parts, session);
  const timeline = interner.timeline(session);
  const part = parts.find(({ id }) => id === partId) ?? parts[0];
  return { part, timeline, evaluation: evaluated(part, { ...session, parts }, timeline) };
}

/** The strokes an align step that is stood at draws to; null at any other stop. */
function strokesHeard(
  { session, stop, cleaned }: PartViewRequest,
  part: Part,
  timeline: Timeline,
): Float64Array | null {
  const step = cleaned ? undefined : part.steps[stop - 1]?.step;
  if (step?.kind !== 'align' || !step.on) return null;
  const other =
    session.parts.find(({ id }) => id === step.to) ?? session.parts.find(({ name }) => name === step.to);
  if (!other || other.id === part.id) return null;
  const parts = session.parts.map((each) => interner.part(each));
  const { stages } = evaluated(interner.part(other), { ...session, parts }, timeline);
  return stages[stages.length - 1].notes.start;
}

const engine: Engine = {
  async adopt(list) {
    for (const take of list) takes.set(take.key, restoreTake(take));
  },

  async importFile(name, bytes) {
    const { file, repairs } = readMidi(bytes);
    const { session, takes: made } = sessionOfFile(file, name, newId, Date.now());
    return { session, repairs, unkept: await keep(made) };
  },

  async joinFile(session, bytes) {
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
    return { session, repairs: readings.flatMap(([, reading]) => reading.repairs), unkept: await keep(made) };
  },

  async viewPart(request) {
    const { part, evaluation, timeline } = await evaluatedPart(request.session, request.partId);
    return viewOfPart(request, part, evaluation, timeline, strokesHeard(request, part, timeline));
  },

  async playback({ session, stops, blend, partIds }) {
    const timeline = interner.timeline(session);
    const all = session.parts.map((part) => interner.part(part));
    await summon(all, session);
    return all
      .filter((part) => partIds.includes(part.id))
      .map((part) => {
        const { stages } = evaluated(part, { ...session, parts: all }, timeline);
        const stop = Math.min(stops[part.id] ?? part.steps.length, part.steps.length);
        return blendedPlayback(stages[0], stages[stop], blend, timeline.tempo);
      });
  },

  async pickNotes({ session, partId, stop, grid, question }) {
    const { part, evaluation, timeline } = await evaluatedPart(session, partId);
    const { notes } = evaluation.stages[Math.min(stop, part.steps.length)];
    const late = latenessOf(notes, [grid], 50, timeline);
    return Uint32Array.from(rowsAnswering(notes, question, late, timeline), (row) => notes.id[row]);
  },

  async factsOf(session, partId, stop) {
    const { part, evaluation, timeline } = await evaluatedPart(session, partId);
    const { notes, events } = evaluation.stages[Math.min(stop, part.steps.length)];
    return partFacts(notes, timeline, events);
  },

  async touchedNotes(session, partId, stepId) {
    const { part, evaluation, timeline } = await evaluatedPart(session, partId);
    const at = part.steps.findIndex(({ id }) => id === stepId);
    if (at < 0) return new Uint32Array(0);
    const { notes } = evaluation.stages[at];
    const touched = touchedRows(notes, part.steps[at].step.where, timeline);
    return notes.id.filter((_, row) => touched[row] === 1);
  },

  async noteStory(session, partId, id) {
    return noteStory((await evaluatedPart(session, partId)).evaluation.stages, id);
  },

  async takeGroove({ session, partId, grid, beats, ids }) {
    const { part, evaluation, timeline } = await evaluatedPart(session, partId);
    const { notes } = evaluation.stages[evaluation.stages.length - 1];
    const chosen = ids && new Set(ids);
    const rows = chosen && Array.from(notes.id.keys()).filter((row) => chosen.has(notes.id[row]));
    return takeGroove(rows ? pickRows(notes, rows) : notes, `groove of ${part.name}`, grid, beats, timeline);
  },

  async alongEdits({ session, partId, stop, ids, deed }) {
    const { part, evaluation } = await evaluatedPart(session, partId);
    const { notes, events } = evaluation.stages[Math.min(stop, part.steps.length)];
    return alongEdits(events, notes, new Set(ids), deed, part.channel - 1);
  },

  async clipsOf({ session, partId, stop, ids }) {
    const { part, evaluation } = await evaluatedPart(session, partId);
    const { notes, events } = evaluation.stages[Math.min(stop, part.steps.length)];
    return clipsOf(events, notes, new Set(ids), part.channel - 1);
  },

  async layClips({ session, partId, stop, clips, at }) {
    const { part, evaluation } = await evaluatedPart(session, partId);
    return layClips(evaluation.stages[Math.min(stop, part.steps.length)].events, clips, at, part.channel - 1);
  },

  async fold(session, partId, count) {
    const { part, evaluation } = await evaluatedPart(session, partId);
    const { take, reference, part: folded } = foldSteps(part, session, evaluation, count, Date.now());
    return { part: folded, reference, unkept: await keep([take]) };
  },

  async unfold(session, partId) {
    const part = session.parts.find(({ id }) => id === partId);
    const before = part && beforeFold(part);
    const fold = part?.folded.at(-1)?.take;
    if (!part || !before || fold === undefined)
      throw new OrdleError('nothing-folded', 'No steps of this part were made permanent.');
    await summon([part, before], session);
    const parts = session.parts.map((each) => (each.id === partId ? before : each));
    const { evaluation } = await evaluatedPart({ ...session, parts }, partId);
    return unfoldSteps(part, session, evaluation, takeOf(fold));
  },

  async exportFile(session, choice) {
    const whole: Session = { ...session, parts: session.parts.map((part) => interner.part(part)) };
    await summon(whole.parts, whole);
    return writeMidi(
      exportSession(
        whole,
        choice,
        { evaluate: (part, of) => evaluated(part, of, interner.timeline(session)) },
        takeOf,
      ),
    );
  },
};

/** Errors cross the thread border as plain values, so that a known error stays known on the other side. */
expose(
  Object.fromEntries(
    Object.entries(engine).map(([name, method]) => [
      name,
      async (...args: unknown[]) => {
        try {
          return { value: await (method as (...list: unknown[]) => Promise<unknown>)(...args) };
        } catch (error) {
          return { error: packError(error) };
        }
      },
    ]),
  ),
);
