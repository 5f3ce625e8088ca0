import { createEventBuilder, payloadOf, pickEvents, type EventColumns } from '../midi';
import { joinEvents } from '../model';
import type { Strand } from './strand';

const PEDAL = 64;
const PROGRAM = 0xc0;
/** Controllers that only mean something together: bank select with the program, and parameter numbers with their data. */
const BANK = [0, 32];
const PARAMETER = [6, 38, 96, 97, 98, 99, 100, 101];

/** A lane of a layer that gave way, since an earlier layer of the part has it too and says something else. */
export interface LaneGivenWay {
  /** Its place among the part's layers. */
  layer: number;
  /** Status without its channel: 0xa0 key pressure, 0xb0 controller, 0xc0 program (with bank), 0xd0 channel pressure, 0xe0 bend. */
  status: number;
  /** The controller's number; 0 for other kinds. */
  controller: number;
  /** 0-15. */
  channel: number;
}

/**
 * The layers of a part sound on one channel, so their controllers are merged: the sustain pedal is down while any layer's is, of every other lane the
 * first layer's that has it counts, and what belongs to no channel is there once. Notes stay as they are. With `oneChannel` all goes on one channel, so
 * that lanes of different channels meet too.
 */
export function mergeLanes(
  layers: readonly Strand[],
  oneChannel = false,
): { layers: Strand[]; givenWay: LaneGivenWay[] } {
  if (layers.filter(({ events }) => events.length > 0).length < 2)
    return { layers: [...layers], givenWay: [] };
  const owners = new Map<number, number>();
  const seen = new Set<string>();
  const givenWay = new Map<string, LaneGivenWay>();
  const rows = layers.map(({ events }, layer) => {
    const own = new Set<string>();
    const kept: number[] = [];
    for (let row = 0; row < events.length; row++) {
      if (events.status[row] >= 0xf0) {
        const words = wordsOf(events, row);
        if (!seen.has(words)) kept.push(row);
        own.add(words);
        continue;
      }
      const lane = laneOf(events, row, oneChannel);
      const owner = owners.get(lane) ?? layer;
      owners.set(lane, owner);
      if (owner === layer || lane === laneKey(0xb0, PEDAL, oneChannel ? 0 : events.status[row] & 15))
        kept.push(row);
      else givenWay.set(`${layer} ${lane}`, wayOf(layer, lane));
    }
    // What one layer says twice it means twice.
    for (const words of own) seen.add(words);
    return kept;
  });
  const merged = layers.map((strand, layer) => withEvents(strand, rows[layer]));
  return {
    layers: mergePedals(merged, oneChannel),
    givenWay: [...givenWay.values()].filter((way) => differs(layers, way, oneChannel)),
  };
}

const laneKey = (status: number, controller: number, channel: number) =>
  (channel << 16) | (status << 8) | controller;

/** Which lane an event belongs to; what only means something together is one. */
function laneOf(events: EventColumns, row: number, oneChannel: boolean): number {
  const [status, channel] = [events.status[row] & 0xf0, oneChannel ? 0 : events.status[row] & 15];
  if (status !== 0xb0) return laneKey(status, 0, channel);
  const controller = events.data1[row];
  if (BANK.includes(controller)) return laneKey(PROGRAM, 0, channel);
  return laneKey(status, PARAMETER.includes(controller) ? PARAMETER[0] : controller, channel);
}

function wayOf(layer: number, key: number): LaneGivenWay {
  return { layer, status: (key >> 8) & 0xff, controller: key & 0xff, channel: key >> 16 };
}

/** Whether a layer says anything in a lane that no layer before it says at the same place. */
function differs(layers: readonly Strand[], way: LaneGivenWay, oneChannel: boolean): boolean {
  const key = laneKey(way.status, way.controller, way.channel);
  const said = ({ events }: Strand) =>
    Array.from(events.tick.keys())
      .filter((row) => events.status[row] < 0xf0 && laneOf(events, row, oneChannel) === key)
      .map((row) => wordsOf(events, row));
  const before = new Set(layers.slice(0, way.layer).flatMap(said));
  return said(layers[way.layer]).some((words) => !before.has(words));
}

const wordsOf = (events: EventColumns, row: number): string =>
  `${events.tick[row]} ${events.status[row]} ${events.data1[row]} ${events.data2[row]} ${
    events.payload[row] === 0 ? '' : payloadOf(events, row).join(',')
  }`;

const withEvents = (strand: Strand, rows: readonly number[]): Strand =>
  rows.length === strand.events.length
    ? strand
    : {
        ...strand,
        events: pickEvents(strand.events, rows),
        eventOrder: Float64Array.from(rows, (row) => strand.eventOrder[row]),
      };

interface PedalEvent {
  tick: number;
  value: number;
  layer: number;
  order: number;
}

/** The pedals of all layers as one: where several have one on a channel, it moves to the first of them, as far down as any is. */
function mergePedals(layers: readonly Strand[], oneChannel: boolean): Strand[] {
  const merged = [...layers];
  for (let channel = 0; channel < (oneChannel ? 1 : 16); channel++) {
    const isPedal = (events: EventColumns, row: number) =>
      events.data1[row] === PEDAL &&
      (oneChannel ? (events.status[row] & 0xf0) === 0xb0 : events.status[row] === (0xb0 | channel));
    const own = merged.map(({ events, eventOrder }, layer) =>
      Array.from(events.tick.keys())
        .filter((row) => isPedal(events, row))
        .map((row): PedalEvent => {
          return { tick: events.tick[row], value: events.data2[row], layer, order: eventOrder[row] };
        }),
    );
    const first = own.findIndex((list) => list.length > 0);
    if (own.filter((list) => list.length > 0).length < 2) continue;
    const one = furthestDown(own.flat());
    merged.forEach((strand, layer) => {
      const others = Array.from(strand.events.tick.keys()).filter((row) => !isPedal(strand.events, row));
      merged[layer] = withEvents(strand, others);
    });
    const builder = createEventBuilder(one.length);
    for (const { tick, value } of one) builder.add(tick, 0xb0 | channel, PEDAL, value);
    const { events, order } = joinEvents([
      { events: merged[first].events, order: merged[first].eventOrder },
      { events: builder.build(), order: Float64Array.from(one, (event) => event.order) },
    ]);
    merged[first] = { ...merged[first], events, eventOrder: order };
  }
  return merged;
}

function furthestDown(all: PedalEvent[]): PedalEvent[] {
  all.sort((a, b) => a.tick - b.tick || a.layer - b.layer || a.order - b.order);
  const down = new Map<number, number>();
  const one: PedalEvent[] = [];
  let last = -1;
  all.forEach((event, at) => {
    down.set(event.layer, event.value);
    // Where several layers move at one tick, only what comes of it counts: a pedal taken over does not go up between.
    const next = all[at + 1];
    if (next?.tick === event.tick && (next.layer !== event.layer || all[at - 1]?.tick === event.tick)) return;
    const value = Math.max(...down.values());
    if (value === last) return;
    one.push({ ...event, value });
    last = value;
  });
  return one;
}
