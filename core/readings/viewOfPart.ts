import {
  latenessStrip,
  reachOfStrip,
  readChanges,
  readMoves,
  readValues,
  offMsOf,
  type ChangeReading,
  type ValueReading,
} from '../analysis';
import { lanesIn, pedalledEnds } from '../curves';
import { originsAt, type Evaluation } from '../evaluate';
import type { EventColumns } from '../midi';
import { rowsById, type Material, type NoteTable } from '../model';
import { listOf, type Part } from '../session';
import {
  isCurve,
  isQuantize,
  channelEvents,
  createStep,
  kindOf,
  type EditTable,
  type QuantizeStep,
  type Step,
} from '../steps';
import { nameOfNoteValue, type NoteValue, type Timeline } from '../time';
import { sharingOf } from './channelSharing';
import { lanesOfPart, readCurve } from './lanesOfPart';
import type { PartView, ViewNotes } from './partView';
import { keptBy, rulersAt, type PartAt } from './meant';
import { lateAt, offMsAt, rulerInWords, rulerOf, type Ruler } from './rulers';

/** What of a part is looked at. */
export interface LookedAt {
  /** 0 as played, k after step k; the number of steps is cleaned. */
  stop: number;
  /** Whether the current stop is "cleaned", which is compared with as played rather than with the stop before. */
  cleaned: boolean;
  grid: NoteValue;
  /** Whether the note list needs its columns. */
  details: boolean;
  /** Lanes that are shown. */
  lanes?: readonly string[];
}

/** A part with everything that was worked out of it. */
export interface PartScene {
  part: Part;
  evaluation: Evaluation;
  timeline: Timeline;
  /** The cleaned notes of the part that the current step listens to. */
  other?: NoteTable | null;
  editTable?: (key: string) => EditTable | undefined;
  /** The other parts on its channel, each as it is by itself. */
  beside?: readonly { part: Part; material: Material }[];
}

/** Makes of an evaluated part what the Bench shows at the current stop. */
export function viewOfPart(
  request: LookedAt,
  { part, evaluation, timeline, other = null, editTable, beside = [] }: PartScene,
): PartView {
  const { stages, assembly } = evaluation;
  const stop = Math.min(request.stop, part.steps.order.length);
  const notes = stages[stop].notes;
  const before = stop === 0 ? null : stages[request.cleaned ? 0 : stop - 1].notes;
  const placed = stop > 0 && !request.cleaned ? listOf(part.steps)[stop - 1].step : null;
  const ruler = rulerOf(part, stop, request.grid);
  const origins = request.details ? originsAt(stages, stop) : null;
  const at: PartAt = { part, evaluation, stop, shown: request.grid, timeline };
  const late = lateAt(at);
  const endTick = Math.max(assembly.endTick, lastEnd(notes));
  return {
    partId: part.id,
    stop,
    notes: viewNotes(notes),
    ...traceOf(notes, before),
    late,
    offMs: stages.map((_, index) => (index === stop ? offMsOf(late) : offMsAt({ ...at, stop: index }))),
    changes: stages.map((stage, index) =>
      index > 0 && listOf(part.steps)[index - 1].step.on ? changesOf(stages[index - 1], stage) : null,
    ),
    measuredBy: [...new Set(rulersAt(at).map(rulerInWords))],
    playedBy: nameOfNoteValue(request.grid),
    strip: stripOf(stages[0].notes, notes, late, endTick, () => lateAt({ ...at, stop: 0 })),
    reading:
      placed && kindOf(placed.kind).movesTime
        ? readMoves(
            stages[stop - 1].notes,
            notes,
            measure(placed, ruler),
            timeline,
            keptBy(placed, stages[stop - 1], timeline, part.sound.drums),
          )
        : null,
    squeezed: placed && placed.on ? squeezedOnto(stages[stop - 1].notes, notes) : 0,
    values: placed && placed.on ? valuesOf(placed, stages[stop - 1].notes, notes, timeline) : null,
    pulledTo: placed && other ? pulledTo(placed, stages[stop - 1].notes, notes, other, timeline) : null,
    curve:
      placed && isCurve(placed) && placed.on
        ? readCurve(placed, part, stages[stop - 1].events, stages[stop].events)
        : null,
    lanes: lanesOfPart(
      request.lanes ?? [],
      part,
      evaluation,
      stop,
      request.cleaned ? 0 : Math.max(0, stop - 1),
      beside,
    ),
    lanesThere: lanesIn(stages[stop].events),
    sharing: beside
      .filter(({ material }) => isOnChannel(material))
      .map((other) => sharingOf({ part, material: stages[stop] }, other)),
    rings: ringsOf(
      notes,
      channelEvents(
        stages[stop].events,
        beside.map(({ material }) => material.events),
      ),
    ),
    channel: notes.channel,
    dropped: droppedOf(assembly.dropped),
    playedStart: origins?.playedStart ?? null,
    touchedBy: origins?.touchedBy ?? null,
    lostEdits: (placed && kindOf(placed.kind).lostIds?.(placed, stages[stop - 1].notes, editTable)) ?? [],
    endTick,
  };
}

const droppedOf = ({ length, start, end, pitch }: NoteTable): PartView['dropped'] =>
  length === 0 ? null : { start, end, pitch };

/** What was worked out of stages that are still the same: while a slider is dragged only the last ones change. */
const knownChanges = new WeakMap<Material, { from: Material; reading: ChangeReading }>();

function changesOf(before: Material, after: Material): ChangeReading {
  const known = knownChanges.get(after);
  if (known?.from === before) return known.reading;
  const reading = readChanges(before, after);
  knownChanges.set(after, { from: before, reading });
  return reading;
}

/** Stretches of the strip over the whole part; it is about so many pixels wide in half of them. */
const STRIP_BINS = 480;

function stripOf(
  played: NoteTable,
  notes: NoteTable,
  late: Float32Array,
  endTick: number,
  lateAsPlayed: () => Float32Array,
): PartView['strip'] {
  const before = latenessStrip(played.start, played === notes ? late : lateAsPlayed(), endTick, STRIP_BINS);
  return {
    before,
    after: played === notes ? before : latenessStrip(notes.start, late, endTick, STRIP_BINS),
    reach: reachOfStrip(before),
  };
}

/** Whether something sends anything on a channel: text alone does not. */
const isOnChannel = ({ notes, events }: Material): boolean =>
  notes.length > 0 || events.status.some((status) => status < 0xf0);

/** Where the pedal lets notes ring on to. */
function ringsOf(notes: NoteTable, events: EventColumns): Float64Array | null {
  return lanesIn(events).some(({ lane }) => lane === 'cc64') ? pedalledEnds(notes, notes.end, events) : null;
}

/** Notes that stand on the start and did not, where they came from more than one place. */
function squeezedOnto(before: NoteTable, after: NoteTable): number {
  if (before === after) return 0;
  const index = rowsById(before);
  const from = new Set<number>();
  let count = 0;
  for (let row = 0; row < after.length && after.start[row] <= 0; row++) {
    const was = index.rowOf(after.id[row]);
    if (was < 0 || before.start[was] <= 0) continue;
    from.add(Math.round(before.start[was]));
    count++;
  }
  return from.size > 1 ? count : 0;
}

/** What a step that is about velocities or lengths does to them. */
function valuesOf(step: Step, before: NoteTable, after: NoteTable, timeline: Timeline): ValueReading | null {
  const what = kindOf(step.kind).values?.(step);
  return what ? readValues(before, after, what, step.where, timeline) : null;
}

/**
 * The place each note is pulled toward, by row of the notes as they are afterwards; null for a step that pulls toward
 * none.
 */
function pulledTo(
  step: Step,
  before: NoteTable,
  after: NoteTable,
  other: NoteTable,
  timeline: Timeline,
): Float64Array | null {
  const places = kindOf(step.kind).targets?.(step, before, other, timeline);
  if (!places) return null;
  const index = rowsById(before);
  return Float64Array.from(after.id, (id) => places[index.rowOf(id)] ?? NaN);
}

/** The grid a step's moves are measured on: its own for quantize, else the one in force. */
function measure(step: Step, ruler: Ruler): QuantizeStep {
  if (isQuantize(step)) return step;
  return createStep('quantize', {
    where: step.where,
    grid: ruler.grids.length === 1 ? ruler.grids[0] : ruler.grids,
    swing: ruler.swing,
  });
}

function lastEnd(notes: NoteTable): number {
  let reach = 0;
  for (let row = 0; row < notes.length; row++) if (notes.end[row] > reach) reach = notes.end[row];
  return reach;
}

function viewNotes(notes: NoteTable): ViewNotes {
  const reach = new Float64Array(notes.length);
  let most = -Infinity;
  for (let row = 0; row < notes.length; row++) {
    if (notes.end[row] > most) most = notes.end[row];
    reach[row] = most;
  }
  const usedPitches = new Uint8Array(128);
  for (let row = 0; row < notes.length; row++) usedPitches[notes.pitch[row]] = 1;
  const { length, id, start, end, pitch, velocity } = notes;
  return { length, id, start, end, pitch, velocity, reach, usedPitches };
}

function traceOf(notes: NoteTable, before: NoteTable | null): Pick<PartView, 'traceStart' | 'traceEnd'> {
  if (!before) return { traceStart: null, traceEnd: null };
  const traceStart = new Float64Array(notes.length).fill(NaN);
  const traceEnd = new Float64Array(notes.length).fill(NaN);
  const index = rowsById(before);
  for (let row = 0; row < notes.length; row++) {
    const other = index.rowOf(notes.id[row]);
    if (other < 0) continue;
    traceStart[row] = before.start[other];
    traceEnd[row] = before.end[other];
  }
  return { traceStart, traceEnd };
}
