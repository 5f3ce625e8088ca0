import { payloadOf, type EventColumns } from '../midi';
import { noteTableOf, type Material } from '../model';
import { applyStep, createStep, laneSchema, type Step } from '../steps';
import { ticksToSeconds, type Timeline } from '../time';
import type { Finding } from './finding';

/** Floods: more points of one lane than this within a second; a bend needs more of them to be smooth. */
const floodOf = (lane: string): number => (lane === 'bend' ? 150 : 90);
/** Pedals that go down and stay so. */
export function pedalsLeftDown(events: EventColumns, endTick: number): Finding[] {
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
        sure: 0.9,
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

/** A message for all makes of instrument (universal, 7E and 7F): setting up, tuning, time code. */
const isUniversal = (payload: Uint8Array): boolean => payload[0] === 0x7e || payload[0] === 0x7f;

/** Messages for one make of instrument: told once for each part. In a part of nothing else they are its purpose. */
export function straySystemMessages({ events, notes }: Material): Finding[] {
  const rows = Array.from(events.status.keys()).filter(
    (row) =>
      (events.status[row] === 0xf0 || events.status[row] === 0xf7) && !isUniversal(payloadOf(events, row)),
  );
  if (rows.length === 0 || notes.length === 0) return [];
  return [
    {
      kind: 'stray-sysex',
      tick: events.tick[rows[0]],
      notes: [],
      reason: `${rows.length === 1 ? 'A message' : `${rows.length} messages`} for one make of instrument: other instruments do not know ${rows.length === 1 ? 'it' : 'them'}.`,
      sure: 0.6,
      mend: createStep('edits', { messages: [...new Set(rows.map((row) => Math.round(events.tick[row])))] }),
    },
  ];
}

/** Lanes with far more points than can be heard. */
export function controllerFloods(events: EventColumns, timeline: Timeline): Finding[] {
  const found: Finding[] = [];
  for (const [lane, rows] of lanesOf(events)) {
    const ticks = rows.map((row) => events.tick[row]);
    const { most, at } = densest(ticks, timeline);
    if (most <= floodOf(lane) || !laneSchema.safeParse(lane).success) continue;
    const mend = thinningOf(lane, events, timeline);
    found.push({
      kind: 'controller-flood',
      tick: ticks[at],
      notes: [],
      reason: `${lane} has ${most} points within a second, ${rows.length} in all.`,
      sure: mend ? 0.8 : 0.5,
      mend,
    });
  }
  return found;
}

function lanesOf(events: EventColumns): Map<string, number[]> {
  const byLane = new Map<string, number[]>();
  for (let row = 0; row < events.length; row++) {
    const status = events.status[row] < 0xf0 ? events.status[row] & 0xf0 : 0;
    const lane =
      status === 0xb0
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
  return byLane;
}

/** The most points within a second, and where they begin. */
function densest(ticks: readonly number[], { tempo }: Timeline): { most: number; at: number } {
  const seconds = ticks.map((tick) => ticksToSeconds(tempo, tick));
  let [first, most, at] = [0, 0, 0];
  seconds.forEach((second, index) => {
    while (seconds[first] <= second - 1) first++;
    if (index - first + 1 > most) [most, at] = [index - first + 1, first];
  });
  return { most, at };
}

/** The thinning that leaves no flood, as close to what is there as it can; null where none does. */
function thinningOf(lane: string, events: EventColumns, timeline: Timeline): Step | null {
  for (const tolerance of lane === 'bend' ? [16, 32, 64, 128, 256] : [1, 2, 3, 4, 6]) {
    const step = createStep('curve', { op: 'thin', lane, tolerance, by: 'held' });
    const thinned = applyStep({ notes: noteTableOf([]), events }, step, { timeline, isDrums: false }).events;
    const left = (lanesOf(thinned).get(lane) ?? []).map((row) => thinned.tick[row]);
    if (densest(left, timeline).most <= floodOf(lane)) return step;
  }
  return null;
}
