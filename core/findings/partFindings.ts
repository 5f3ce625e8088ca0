import { overlapsWithin } from '../analysis';
import { DRUM_CHANNEL, programName, type EventColumns } from '../midi';
import type { Material, NoteTable } from '../model';
import { createStep, laneSchema } from '../steps';
import { barAt, ticksToSeconds, type Timeline } from '../time';
import type { Finding } from './finding';
import { noteFindings } from './noteFindings';
import { rangeOfProgram } from './instrumentRanges';

/** A part as it is looked through. */
export interface LookedThrough {
  material: Material;
  timeline: Timeline;
  isDrums: boolean;
  /** General MIDI program, 0-127. */
  program: number;
  /** Where its track ends, in ticks. */
  endTick: number;
}

/** Floods: more points of one lane than this within a second. */
const FLOOD = 90;
/** Chords that start to the tick, and of how many notes they are. */
const [LEAST_CHORDS, CHORD_NOTES] = [6, 3];

/** All that is probably wrong with a part, in order of time. */
export function findingsOf(part: LookedThrough): Finding[] {
  const { material, timeline } = part;
  const { notes, events } = material;
  const single = noteFindings(notes, timeline);
  // What is struck twice or stuck overlaps as well, and need not be told of again.
  const told = new Set(
    single.flatMap(({ kind, notes: ids }) => (kind === 'double-strike' || kind === 'stuck-note' ? ids : [])),
  );
  return [
    ...single,
    ...overlaps(notes).filter(({ notes: ids }) => !ids.some((id) => told.has(id))),
    ...flattenedChords(notes, part.isDrums),
    ...pedalsLeftDown(events, part.endTick),
    ...straySystemMessages(events),
    ...controllerFloods(events, timeline),
    ...outOfRange(part, new Set(single.flatMap(({ notes: ids }) => ids))),
  ].sort((a, b) => a.tick - b.tick);
}

function overlaps(notes: NoteTable): Finding[] {
  const pairs = overlapsWithin(notes);
  return pairs.map(({ row, other }): Finding => {
    const end = Math.max(Math.round(notes.start[other]), Math.round(notes.start[row]) + 1);
    return {
      kind: 'overlap',
      tick: notes.start[other],
      notes: [notes.id[row], notes.id[other]],
      reason: 'A note of this pitch is struck again before it has ended.',
      mend:
        notes.start[other] > notes.start[row]
          ? createStep('edits', { change: { [notes.id[row]]: { end } } })
          : createStep('edits', { delete: [notes.id[notes.end[row] < notes.end[other] ? row : other]] }),
    };
  });
}

/**
 * Chords of a part that nearly all start to the very tick: nobody plays so, and a correction may have flattened them.
 */
function flattenedChords(notes: NoteTable, isDrums: boolean): Finding[] {
  if (isDrums) return [];
  let [chords, flat] = [0, 0];
  const ids: number[] = [];
  let first = -1;
  for (let row = 0; row < notes.length;) {
    let end = row + 1;
    while (end < notes.length && notes.start[end] - notes.start[row] < 40) end++;
    if (end - row >= CHORD_NOTES) {
      chords++;
      const isFlat = notes.start[end - 1] === notes.start[row];
      if (isFlat) {
        flat++;
        if (first < 0) first = row;
        for (let at = row; at < end; at++) ids.push(notes.id[at]);
      }
    }
    row = end;
  }
  if (flat < LEAST_CHORDS || flat < 0.9 * chords) return [];
  return [
    {
      kind: 'flattened-chord',
      tick: notes.start[first],
      notes: ids,
      reason: `${flat} of ${chords} chords start to the very tick: a correction may have flattened them.`,
      mend: null,
    },
  ];
}

function pedalsLeftDown(events: EventColumns, endTick: number): Finding[] {
  const found: Finding[] = [];
  for (const controller of [64, 66, 67])
    for (let channel = 0; channel < 16; channel++) {
      let down = -1;
      for (let row = 0; row < events.length; row++) {
        if (events.status[row] !== (0xb0 | channel) || events.data1[row] !== controller) continue;
        if (events.data2[row] < 64) down = -1;
        else if (down < 0) down = row;
      }
      if (down < 0) continue;
      found.push({
        kind: 'pedal-left-down',
        tick: events.tick[down],
        notes: [],
        reason: 'The pedal goes down here and is never let go.',
        mend: createStep('edits', {
          curves: [
            {
              lane: `cc${controller}`,
              channel: channel + 1,
              from: endTick,
              to: endTick,
              points: [{ at: endTick, value: 0 }],
            },
          ],
        }),
      });
    }
  return found;
}

function straySystemMessages(events: EventColumns): Finding[] {
  return Array.from(events.status.keys())
    .filter((row) => events.status[row] === 0xf0 || events.status[row] === 0xf7)
    .map((row): Finding => ({
      kind: 'stray-sysex',
      tick: events.tick[row],
      notes: [],
      reason: 'A message for one make of instrument: other instruments do not know it.',
      mend: createStep('edits', { messages: [Math.round(events.tick[row])] }),
    }));
}

function controllerFloods(events: EventColumns, { tempo }: Timeline): Finding[] {
  const byLane = new Map<string, number[]>();
  for (let row = 0; row < events.length; row++) {
    const status = events.status[row] & 0xf0;
    const lane =
      events.status[row] >= 0xf0
        ? null
        : status === 0xb0
          ? `cc${events.data1[row]}`
          : status === 0xd0
            ? 'pressure'
            : status === 0xe0
              ? 'bend'
              : null;
    if (lane === null) continue;
    const rows = byLane.get(lane);
    if (rows) rows.push(row);
    else byLane.set(lane, [row]);
  }
  const found: Finding[] = [];
  for (const [lane, rows] of byLane) {
    const seconds = rows.map((row) => ticksToSeconds(tempo, events.tick[row]));
    let [first, most, at] = [0, 0, 0];
    seconds.forEach((second, index) => {
      while (seconds[first] <= second - 1) first++;
      if (index - first + 1 > most) [most, at] = [index - first + 1, first];
    });
    if (most <= FLOOD || !laneSchema.safeParse(lane).success) continue;
    found.push({
      kind: 'controller-flood',
      tick: events.tick[rows[at]],
      notes: [],
      reason: `${lane} has ${most} points within a second, ${rows.length} in all.`,
      mend: createStep('curve', { op: 'thin', lane, tolerance: 1, by: 'held' }),
    });
  }
  return found;
}

/** Notes an instrument does not have; what is found to be no note of the music is told of as that. */
function outOfRange(
  { material: { notes }, isDrums, program }: LookedThrough,
  told: ReadonlySet<number>,
): Finding[] {
  const range = isDrums ? null : rangeOfProgram(program);
  if (!range) return [];
  const [low, high] = range;
  const rows = Array.from(notes.pitch.keys()).filter(
    (row) =>
      notes.channel[row] !== DRUM_CHANNEL &&
      (notes.pitch[row] < low || notes.pitch[row] > high) &&
      !told.has(notes.id[row]),
  );
  if (rows.length === 0) return [];
  return [
    {
      kind: 'out-of-range',
      tick: notes.start[rows[0]],
      notes: rows.map((row) => notes.id[row]),
      reason: `${rows.length === 1 ? '1 note lies' : `${rows.length} notes lie`} outside what a ${programName(program)} plays.`,
      mend: createStep('transpose', {
        into: [low, high],
        where: { notes: rows.map((row) => notes.id[row]) },
      }),
    },
  ];
}

/**
 * Notes after the music has ended: after more silence than this, in seconds and in bars, and no more of them than
 * this and this share of all.
 */
const [ENDED_SECONDS, ENDED_BARS, MOST_STRAYS, STRAY_SHARE] = [8, 4, 4, 0.05];

/**
 * A few notes long after all others, of whatever part: left over from something else that was recorded, or from a
 * part that was longer.
 */
export function beyondTheEnd(
  notes: NoteTable,
  others: readonly NoteTable[],
  { tempo, meter }: Timeline,
): Finding[] {
  const most = Math.min(MOST_STRAYS, Math.floor(STRAY_SHARE * notes.length));
  const reach = notes.end.slice();
  for (let row = 1; row < reach.length; row++) reach[row] = Math.max(reach[row], reach[row - 1]);
  for (let row = notes.length - most; row < notes.length; row++) {
    if (row < 1) continue;
    const [end, start] = [reach[row - 1], notes.start[row]];
    const silence = ticksToSeconds(tempo, start) - ticksToSeconds(tempo, end);
    const bars = barAt(meter, start).number - barAt(meter, end).number;
    if (silence <= ENDED_SECONDS || bars < ENDED_BARS) continue;
    // While another part goes on the music has not ended: this one only paused.
    const goesOn = others.some((other) =>
      other.start.some((at, each) => at > end || other.end[each] > start),
    );
    if (goesOn) continue;
    const ids = [...notes.id.subarray(row)];
    return [
      {
        kind: 'beyond-end',
        tick: start,
        notes: ids,
        reason: `${ids.length === 1 ? 'A note comes' : `${ids.length} notes come`} ${silence.toFixed(1)} s after the music of this part has ended.`,
        mend: createStep('edits', { delete: ids }),
      },
    ];
  }
  return [];
}

/** Silence before the first note of all parts: over two seconds and over a bar. Null where there is none. */
export function lateLeadIn(firstTick: number, { tempo, meter }: Timeline): Finding | null {
  const bar = barAt(meter, firstTick);
  const silence = ticksToSeconds(tempo, firstTick);
  if (silence <= 2 || bar.number < 2) return null;
  return {
    kind: 'late-lead-in',
    tick: firstTick,
    notes: [],
    reason: `The first note comes after ${silence.toFixed(1)} s of silence, in bar ${bar.number}.`,
    mend: null,
  };
}
