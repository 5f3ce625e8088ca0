import { lanesIn, readLane, channelsOfLane } from '../curves';
import type { EventColumns } from '../midi';
import {
  itemOf,
  layerOf,
  listOf,
  mapItems,
  orderedOf,
  type Part,
  type PartTake,
  type Piece,
  type Session,
} from '../session';
import { choose, takesOfPart, withTakes, type PieceNumbers, type Stretch } from '../takes';
import { ticksToSeconds, type Timeline } from '../time';
import { isNoteOff, isNoteOn } from './message';
import { passOf, passOfStroke, sessionTickOf, type RecordedTime, type TickRange } from './run';

/** What playing makes of a part. */
export const RECORD_MODES = ['take', 'layer', 'replace', 'controllers', 'controller'] as const;
export type RecordMode = (typeof RECORD_MODES)[number];

/** What was recorded and where it lies: ticks of the session, counted on through the loop where there was one. */
export interface Recorded {
  /** Key of the sealed take, and its events in its own ticks. */
  take: string;
  events: EventColumns;
  time: RecordedTime;
  from: number;
  end: number;
  loop: TickRange | null;
  /** The stretch that counts, where one was set. */
  punch: TickRange | null;
  /** The passes that are kept, from 0; without a loop there is one. */
  passes: readonly number[];
}

const PEDALS = [64, 66, 67, 69];

/** The passes of a recording in which anything was struck or moved; what was only let go in one does not count. */
export function passesPlayed(
  { events, time, loop }: Pick<Recorded, 'events' | 'time' | 'loop'>,
  timeline: Timeline,
): number[] {
  const found = new Set<number>();
  for (let row = 0; row < events.length; row++) {
    const message = { status: events.status[row], data1: events.data1[row], data2: events.data2[row] };
    const at = sessionTickOf(time, events.tick[row]);
    const isLift = message.status >> 4 === 0xb && PEDALS.includes(message.data1) && message.data2 === 0;
    if (isNoteOn(message)) found.add(passOfStroke(at, loop, timeline));
    else if (!isNoteOff(message) && !isLift) found.add(passOf(at, loop));
  }
  return [...found].sort((a, b) => a - b);
}

/** The lanes a recording moved. */
export const lanesMoved = (events: EventColumns): string[] => lanesIn(events).map(({ lane }) => lane);

/**
 * A part with what was recorded, by its mode; what was there stays among its takes. `lanes` are those that controllers
 * are taken of, all that moved where it is null. The part is the very same where nothing of the recording counts.
 */
export function withRecording(
  part: Part,
  session: Session,
  timeline: Timeline,
  recorded: Recorded,
  { mode, lanes, name }: { mode: RecordMode; lanes: readonly string[] | null; name: string },
  numbers: PieceNumbers,
): Part {
  const moved = lanesMoved(recorded.events);
  const wanted = lanes ? moved.filter((lane) => lanes.includes(lane)) : moved;
  const isOfLanes = mode === 'controllers' || mode === 'controller';
  if (recorded.passes.length === 0 || (isOfLanes && wanted.length === 0)) return part;
  const before = takesOfPart(part, session);
  const takes = recorded.passes.map((pass) => takeOfPass(part, timeline, recorded, pass, name, numbers));
  let made = withTakes(withLayer(part), [...before, ...takes]);
  recorded.passes.forEach((pass, index) => {
    const take = takes[index];
    if (isOfLanes) {
      for (const group of mode === 'controller' ? wanted.map((lane) => [lane]) : [wanted]) {
        const stretch =
          mode === 'controller'
            ? stretchOfLane(recorded, group[0], pass)
            : stretchOfPass(timeline, recorded, pass, true);
        if (stretch) made = withNewLayer(made, inUnit(made, timeline, stretch), take, numbers, group);
      }
      return;
    }
    const isFirst = listOf(part.layers).every(({ pieces }) => pieces.order.length === 0);
    const all = isFirst && !recorded.loop && !recorded.punch;
    const stretch = all
      ? { from: 0, to: Infinity }
      : inUnit(made, timeline, stretchOfPass(timeline, recorded, pass, mode === 'replace'));
    made =
      mode === 'layer' && !isFirst
        ? withNewLayer(made, stretch, take, numbers)
        : mode === 'layer' && index > 0
          ? withNewLayer(made, stretch, take, numbers)
          : choose(made, made.layers.order[0], stretch, take, numbers);
  });
  return made;
}

const withLayer = (part: Part): Part =>
  part.layers.order.length > 0 ? part : { ...part, layers: orderedOf([layerOf([])]) };

/** A pass as a take of the part: the stretch of the recording it was played in, laid where it was heard. */
function takeOfPass(
  part: Part,
  { tempo }: Timeline,
  { take, time, loop, passes }: Recorded,
  pass: number,
  name: string,
  numbers: PieceNumbers,
): PartTake {
  const inSeconds = part.lockedTo === 'seconds';
  const place = (tick: number) => (inSeconds ? ticksToSeconds(tempo, tick) : tick);
  const length = loop ? place(loop.to) - place(loop.from) : 0;
  const sourceOf = (tick: number) => place(tick) + pass * length - place(time.firstTick);
  const number = numbers.next++;
  return {
    id: `take${number}`,
    name: loop && passes.length > 1 ? `${name}, pass ${pass + 1}` : name,
    number,
    source: { take },
    from: loop && pass > 0 ? sourceOf(loop.from) : 0,
    to: loop && pass < passes[passes.length - 1] ? sourceOf(loop.to) : null,
    slide: place(time.firstTick) - pass * length,
  };
}

/**
 * The ticks of the part that a pass supplies: the punched range; else from where it began to the end of the loop, or to
 * the last thing that was played (with `toStop` to where it was stopped).
 */
function stretchOfPass(
  { ticksPerQuarter }: Timeline,
  { events, time, from, end, loop, punch }: Recorded,
  pass: number,
  toStop: boolean,
): Stretch {
  if (punch) return punch;
  const length = loop ? loop.to - loop.from : 0;
  const begin = loop && pass > 0 ? loop.from : from;
  if (loop && passOf(end, loop) > pass) return { from: begin, to: loop.to };
  // What was there after the last thing that was played, or after the stop, goes on as it was.
  const tickOf = (row: number) => sessionTickOf(time, events.tick[row]);
  const lastStroke = Array.from(events.status.keys()).findLast((row) => events.status[row] >> 4 === 9);
  // So far before a seam a note belongs to what follows it (musical bars); the last one has to stay.
  const reached = lastStroke === undefined ? 0 : tickOf(lastStroke) + ticksPerQuarter / 8 + 1;
  const last = events.length === 0 ? 0 : tickOf(events.length - 1) + 1;
  const stop = Math.max(begin + 1, Math.max(toStop ? end : last, reached) - pass * length);
  return { from: begin, to: loop ? Math.min(loop.to, stop) : stop };
}

/** From the first to the last moment of a lane in a pass; null where it did not move. */
function stretchOfLane({ events, time, loop, punch }: Recorded, lane: string, pass: number): Stretch | null {
  if (punch) return punch;
  const length = loop ? loop.to - loop.from : 0;
  const ticks = channelsOfLane(events, lane)
    .flatMap((channel) => Array.from(readLane(events, lane, channel).tick))
    .map((tick) => sessionTickOf(time, tick))
    .filter((tick) => passOf(tick, loop) === pass)
    .map((tick) => tick - pass * length);
  if (ticks.length === 0) return null;
  const first = ticks.reduce((least, tick) => Math.min(least, tick), Infinity);
  const last = ticks.reduce((most, tick) => Math.max(most, tick), 0);
  return { from: Math.max(0, first), to: Math.max(0, last) + 1 };
}

const inUnit = (part: Part, { tempo }: Timeline, { from, to }: Stretch): Stretch =>
  part.lockedTo === 'seconds'
    ? { from: ticksToSeconds(tempo, from), to: to === Infinity ? to : ticksToSeconds(tempo, to) }
    : { from, to };

/** The part with a layer more that lays a take over a stretch, or some lanes of it alone. */
function withNewLayer(
  part: Part,
  stretch: Stretch,
  take: PartTake,
  numbers: PieceNumbers,
  lanes?: readonly string[],
): Part {
  const id = `layer${numbers.next++}`;
  const layers = listOf(part.layers);
  const empty = { id, name: `Layer ${layers.length + 1}`, pieces: orderedOf<Piece>([]) };
  const laid = choose({ ...part, layers: orderedOf([...layers, empty]) }, id, stretch, take, numbers);
  const layer = itemOf(laid.layers, id);
  if (!lanes || !layer) return laid;
  const pieces = mapItems(layer.pieces, (piece) => ({ ...piece, brings: [...lanes] }));
  return { ...laid, layers: { ...laid.layers, byId: { ...laid.layers.byId, [id]: { ...layer, pieces } } } };
}
