import { createEventBuilder, payloadOf, pickEvents, type EventColumns } from '../midi';
import { joinEvents } from '../model';
import type { Strand } from './strand';

const PEDAL = 64;
const PROGRAM = 0xc0;
/**
 * Controllers that only mean something together: bank select with the program, and parameter numbers with their data.
 */
const BANK = [0, 32];
const PARAMETER = [6, 38, 96, 97, 98, 99, 100, 101];

/** A lane of a layer that gave way, since another layer of the part has it too, says something else, and counts. */
export interface LaneGivenWay {
  /** Its place among the part's layers. */
  layer: number;
  /**
   * Status without its channel: 0xa0 key pressure, 0xb0 controller, 0xc0 program (with bank), 0xd0 channel pressure,
   * 0xe0 bend.
   */
  status: number;
  /** The controller's number; 0 for other kinds. */
  controller: number;
  /** 0-15. */
  channel: number;
}

/** A lane that several layers have and that says something else in each. */
export interface ContestedLane {
  /**
   * "program" (with bank), "parameters" (bend range and other numbered parameters), "keys" (key pressure),
   * "pressure", "bend", or "cc11" and the like.
   */
  lane: string;
  /** The layers that have it, by their places; and the one that counts, null where all do. */
  layers: number[];
  counts: number | null;
}

/** The name of a lane as layers contest it. */
function nameOf(status: number, controller: number): string {
  if (status === PROGRAM) return 'program';
  if (status === 0xa0) return 'keys';
  if (status === 0xd0) return 'pressure';
  if (status === 0xe0) return 'bend';
  return controller === PARAMETER[0] ? 'parameters' : `cc${controller}`;
}

/**
 * The layers of a part sound on one channel, so their controllers are merged: the sustain pedal is down while any
 * layer's is, of every other lane the first layer's that has it counts, and what belongs to no channel is there once.
 * Notes stay as they are. With `oneChannel` all goes on one channel, so that lanes of different channels meet too.
 * `chosen` names, by lane, the layer (its place) whose counts instead, where it has the lane.
 */
export function mergeLanes(
  layers: readonly Strand[],
  oneChannel = false,
  chosen: ReadonlyMap<string, number> = new Map(),
): { layers: Strand[]; givenWay: LaneGivenWay[]; contested: ContestedLane[] } {
  if (layers.filter(({ events }) => events.length > 0).length < 2)
    return { layers: [...layers], givenWay: [], contested: [] };
  const having = layersByLane(layers, oneChannel);
  const owners = new Map(
    [...having].map(([lane, those]): [number, number] => {
      const wanted = chosen.get(nameOf((lane >> 8) & 0xff, lane & 0xff));
      return [lane, wanted !== undefined && those.includes(wanted) ? wanted : those[0]];
    }),
  );
  const isAll = (lane: number) => nameOf((lane >> 8) & 0xff, lane & 0xff) === 'cc64' && !chosen.has('cc64');
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
      if (owners.get(lane) === layer || isAll(lane)) kept.push(row);
      else givenWay.set(`${layer} ${lane}`, wayOf(layer, lane));
    }
    // What one layer says twice it means twice.
    for (const words of own) seen.add(words);
    return kept;
  });
  const merged = layers.map((strand, layer) => withEvents(strand, rows[layer]));
  const gone = [...givenWay.values()].filter((way) => differs(layers, way, oneChannel, owners));
  return {
    layers: mergePedals(merged, oneChannel),
    givenWay: gone,
    contested: contestedOf(having, owners, gone, isAll),
  };
}

/** The layers that say anything in each lane, in their order. */
function layersByLane(layers: readonly Strand[], oneChannel: boolean): Map<number, number[]> {
  const having = new Map<number, number[]>();
  layers.forEach(({ events }, layer) => {
    for (let row = 0; row < events.length; row++) {
      if (events.status[row] >= 0xf0) continue;
      const lane = laneOf(events, row, oneChannel);
      const those = having.get(lane);
      if (!those) having.set(lane, [layer]);
      else if (those[those.length - 1] !== layer) those.push(layer);
    }
  });
  return having;
}

/** Lanes, by name, of which something gave way or that are put together of several layers. */
function contestedOf(
  having: ReadonlyMap<number, number[]>,
  owners: ReadonlyMap<number, number>,
  gone: readonly LaneGivenWay[],
  isAll: (lane: number) => boolean,
): ContestedLane[] {
  const lanes = new Map<string, ContestedLane>();
  const wayKeys = new Set(gone.map((way) => laneKey(way.status, way.controller, way.channel)));
  for (const [lane, those] of having) {
    if (those.length < 2 || !(wayKeys.has(lane) || isAll(lane))) continue;
    const name = nameOf((lane >> 8) & 0xff, lane & 0xff);
    const known = lanes.get(name);
    lanes.set(name, {
      lane: name,
      layers: [...new Set([...(known?.layers ?? []), ...those])].sort((a, b) => a - b),
      counts: isAll(lane) ? null : (owners.get(lane) ?? null),
    });
  }
  return [...lanes.values()];
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

/**
 * Whether a layer says anything in a lane that neither the one that counts nor a layer before it says at the same
 * place.
 */
function differs(
  layers: readonly Strand[],
  way: LaneGivenWay,
  oneChannel: boolean,
  owners: ReadonlyMap<number, number>,
): boolean {
  const key = laneKey(way.status, way.controller, way.channel);
  const said = ({ events }: Strand) =>
    Array.from(events.tick.keys())
      .filter((row) => events.status[row] < 0xf0 && laneOf(events, row, oneChannel) === key)
      .map((row) => wordsOf(events, row));
  const owner = owners.get(key);
  const heard = [...layers.slice(0, way.layer), ...(owner === undefined ? [] : [layers[owner]])];
  const before = new Set(heard.flatMap(said));
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

/**
 * The pedals of all layers as one: where several have one on a channel, it moves to the first of them, as far down as
 * any is.
 */
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
