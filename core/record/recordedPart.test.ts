import fc from 'fast-check';
import { createEvaluator, exportSession } from '../evaluate';
import { writeMidi } from '../midi';
import { contentKey, restoreTake, type Take } from '../model';
import {
  emptyPart,
  listOf,
  orderedOf,
  sessionOfFile,
  sessionSchema,
  timelineOf,
  type Part,
  type Session,
} from '../session';
import { numbersOf } from '../takes';
import { createOpenTake } from './openTake';
import { createRecording } from './recording';
import { withRecording, type RecordMode } from './recordedPart';
import { createMusicRun, recordedTime, sessionTickOf, takeTickOf, type TickRange } from './run';
import { ticksToSeconds } from '../time';
import type { ChannelMessage } from './message';

const BAR = 1920;

/** A session of one empty part, 480 ticks a quarter, 4/4 at 120 bpm. */
function emptyQuay(): { session: Session; takes: Map<string, Take> } {
  let next = 0;
  const file = {
    format: 1 as const,
    division: { kind: 'metrical' as const, ticksPerQuarter: 480 },
    tracks: [],
  };
  const { session, takes } = sessionOfFile(file, 'Quay', () => `id${next++}`, 0);
  const sound = { program: 12, drums: false, chosen: false };
  const part = emptyPart({ id: 'p', name: 'Marimba', ink: 0, channel: 1, sound, layers: orderedOf([]) });
  return {
    session: { ...session, parts: orderedOf([part]) },
    takes: new Map(takes.map((take) => [take.key, take])),
  };
}

type Played = [tick: number, ...message: [number, number, number]];

interface Playing {
  from?: number;
  end?: number;
  loop?: TickRange | null;
  punch?: TickRange | null;
  mode?: RecordMode;
  lanes?: string[] | null;
  speed?: number;
}

/** The part of the session with messages recorded into it, at ticks counted on through the loop. */
function record(
  { session, takes }: { session: Session; takes: Map<string, Take> },
  played: readonly Played[],
  { from = 0, end, loop = null, punch = null, mode = 'take', lanes = null, speed = 1 }: Playing = {},
) {
  const timeline = timelineOf(session);
  const recording = createRecording(session, timeline, { from, loop, punch, speed });
  const { open, time } = recording;
  const place = (tick: number) => takeTickOf(time, tick);
  for (const [tick, status, data1, data2] of played) open.add(place(tick), { status, data1, data2 });
  const stop = end ?? (played.at(-1)?.[0] ?? from) + 1;
  const { content, recorded } = recording.seal(ticksToSeconds(timeline.tempo, stop), 'Take');
  const take = restoreTake({ key: contentKey(content), ...content });
  const numbers = numbersOf(session);
  const part = withRecording(
    listOf(session.parts)[0],
    session,
    timeline,
    { take: take.key, ...recorded },
    { mode, lanes, name: 'Take' },
    numbers,
  );
  const reference = { id: take.key, name: 'Take', noteCount: take.notes.length };
  const next: Session = {
    ...session,
    parts: orderedOf([part]),
    takes: orderedOf([...listOf(session.takes), ...(session.takes.byId[take.key] ? [] : [reference])]),
    nextPiece: numbers.next,
  };
  return { session: next, takes: new Map([...takes, [take.key, take]]), open, take, time };
}

function heard({ session, takes }: { session: Session; takes: Map<string, Take> }) {
  const takeOf = (key: string) => takes.get(key) as Take;
  const evaluator = createEvaluator(takeOf);
  const part: Part = listOf(session.parts)[0];
  const { notes, events } = evaluator.evaluate(part, session, timelineOf(session)).stages[0];
  const rows = Array.from(notes.id.keys());
  const options = { format: 1 as const, version: 'played' as const, parts: session.parts.order };
  return {
    notes: rows.map((row) => [notes.start[row], notes.end[row], notes.pitch[row], notes.velocity[row]]),
    lane: (controller: number) =>
      Array.from(events.tick.keys())
        .filter((row) => events.status[row] === 0xb0 && events.data1[row] === controller)
        .map((row) => [events.tick[row], events.data2[row]]),
    bytes: writeMidi(exportSession(session, options, evaluator, takeOf)),
  };
}

/** Any playing: strokes and releases as they come, controllers, bend and pressure, on ticks that only rise. */
const anyPlaying = fc
  .array(
    fc.tuple(
      fc.nat(400),
      fc.constantFrom(0x90, 0x90, 0x80, 0xb0, 0xe0, 0xd0),
      fc.integer({ min: 60, max: 63 }),
      fc.integer({ min: 1, max: 127 }),
    ),
    { minLength: 1, maxLength: 60 },
  )
  .map((list) => {
    let tick = 0;
    return list.map(([gap, status, data1, data2]): Played => {
      tick += gap / 4;
      return status === 0xd0 ? [tick, status, data2, 0] : [tick, status, data1, data2];
    });
  });

const tune = (from: number, velocity = 80): Played[] =>
  [0, 1, 2, 3].flatMap((beat): Played[] => [
    [from + beat * 480, 0x90, 60 + beat, velocity],
    [from + beat * 480 + 400, 0x80, 60 + beat, 64],
  ]);

describe('what is recorded', () => {
  it('is the stream that was played, in rows that keep their numbers', () => {
    fc.assert(
      fc.property(anyPlaying, (played) => {
        const { open, take, time, ...made } = record(emptyQuay(), played);
        const channelled = Array.from(take.events.tick.keys()).slice(0, played.length);
        expect(
          channelled.map((row) => [take.events.status[row], take.events.data1[row], take.events.data2[row]]),
        ).toEqual(played.map(([, ...message]) => message));
        channelled.forEach((row, at) =>
          expect(Math.abs(sessionTickOf(time, take.events.tick[row]) - played[at][0])).toBeLessThanOrEqual(
            0.5 / time.scale + 1e-9,
          ),
        );
        // The notes that were shown while it grew are those of the take, and all are heard where they were played.
        expect(Array.from(take.notes.start)).toEqual(open.notes.map(({ start }) => start));
        expect(Array.from(take.notes.end)).toEqual(open.notes.map(({ end }) => end));
        heard(made).notes.forEach(([start], row) =>
          expect(start).toBeCloseTo(Math.max(0, sessionTickOf(time, take.notes.start[row])), 6),
        );
        expect(sessionSchema.safeParse(made.session).error).toBeUndefined();
      }),
    );
  });

  it('has ticks of at most a tenth of a millisecond, finer where it is played slowly', () => {
    const timeline = timelineOf(emptyQuay().session);
    for (const speed of [1, 0.5, 0.25])
      expect(0.5 / recordedTime(timeline, 0, speed).ticksPerQuarter / speed).toBeLessThanOrEqual(0.0001);
  });

  it('lies where the music was: played at half speed it is the same music within a tick', () => {
    const [whole, half] = [1, 0.5].map((speed) =>
      heard(record(emptyQuay(), tune(BAR), { from: BAR, speed })),
    );
    half.notes.forEach((note, row) =>
      note.forEach((value, at) => expect(value).toBeCloseTo(whole.notes[row][at], 1)),
    );
  });
});

describe('a loop', () => {
  const loop = { from: BAR, to: 2 * BAR };

  it('is counted on by its seconds and told in ticks of the bars', () => {
    const run = createMusicRun(timelineOf(emptyQuay().session), loop);
    // 120 bpm: a bar lasts two seconds.
    expect(run.at(3)).toEqual({ tick: 1.5 * BAR, pass: 0, unrolled: 1.5 * BAR });
    expect(run.at(4)).toEqual({ tick: BAR, pass: 1, unrolled: 2 * BAR });
    expect(run.at(9)).toEqual({ tick: 1.5 * BAR, pass: 3, unrolled: 4.5 * BAR });
  });

  it('gives a take for each pass in which something was played; the newest is chosen, laid end to end they are all of it', () => {
    const played = [...tune(BAR, 50), ...tune(2 * BAR, 60), ...tune(4 * BAR, 70)];
    const made = record(emptyQuay(), played, { from: BAR, loop });
    const takes = listOf(listOf(made.session.parts)[0].takes ?? orderedOf([]));
    expect(takes.map(({ name }) => name)).toEqual(['Take, pass 1', 'Take, pass 2', 'Take, pass 4']);
    expect(heard(made).notes.map(([start, , , velocity]) => [start, velocity])).toEqual(
      [0, 1, 2, 3].map((beat) => [BAR + beat * 480, 70]),
    );
    expect(made.take.notes.length).toBe(12);
  });

  it('counts a stroke a little ahead of its start for the pass that begins, and a release alone for none', () => {
    const early: Played[] = [
      ...tune(BAR, 50),
      [2 * BAR - 12, 0x90, 70, 60],
      [2 * BAR + 400, 0x80, 70, 64],
      [3 * BAR - 600, 0x90, 71, 60],
      [3 * BAR + 30, 0x80, 71, 64],
    ];
    const made = record(emptyQuay(), early, { from: BAR, loop, end: 3 * BAR + 40 });
    const takes = listOf(listOf(made.session.parts)[0].takes ?? orderedOf([]));
    expect(takes.map(({ name }) => name)).toEqual(['Take, pass 1', 'Take, pass 2']);
    expect(heard(made).notes.map(([start, , pitch]) => [start, pitch])).toEqual([
      [BAR - 12, 70],
      [2 * BAR - 600, 71],
    ]);
  });

  it('layers pass by pass: all of them sound', () => {
    const made = record(emptyQuay(), [...tune(BAR, 50), ...tune(2 * BAR, 60)], {
      from: BAR,
      loop,
      mode: 'layer',
    });
    expect(listOf(listOf(made.session.parts)[0].layers)).toHaveLength(2);
    expect(heard(made).notes).toHaveLength(8);
  });
});

describe('nothing that was there is changed', () => {
  const pedal = (tick: number, value: number): Played => [tick, 0xb0, 64, value];
  const wheel = (tick: number, value: number): Played => [tick, 0xb0, 1, value];
  const before = () =>
    record(emptyQuay(), [
      wheel(0, 20),
      ...tune(0),
      ...tune(BAR),
      wheel(BAR + 900, 30),
      ...tune(2 * BAR),
      ...tune(3 * BAR),
    ]);

  it('replacing outside of its range leaves every note and value as it was; the earlier take stays to choose', () => {
    const made = record(before(), tune(BAR, 33), {
      from: BAR,
      punch: { from: BAR, to: 2 * BAR },
      mode: 'replace',
    });
    const [was, is] = [heard(before()), heard(made)];
    const outside = ({ notes }: typeof is) => notes.filter(([start]) => start < BAR || start >= 2 * BAR);
    expect(outside(is)).toEqual(outside(was));
    expect(is.notes.filter(([, , , velocity]) => velocity === 33)).toHaveLength(4);
    expect(listOf(made.session.parts)[0].takes?.order).toHaveLength(2);
  });

  it('the last note is chosen, however short it is, and what was there after it goes on', () => {
    const short: Played[] = [
      [BAR + 4, 0x90, 99, 70],
      [BAR + 8, 0x80, 99, 64],
    ];
    for (const mode of ['take', 'replace'] as const) {
      const is = heard(record(before(), short, { from: BAR, mode }));
      expect(is.notes.filter(([, , pitch]) => pitch === 99)).toHaveLength(1);
      expect(is.notes.filter(([start]) => start > BAR + 240)).toEqual(
        heard(before()).notes.filter(([start]) => start > BAR + 240),
      );
    }
  });

  it.each(['controllers', 'controller'] as const)(
    'with %s the notes stay to the byte, and at both ends stands the value that holds there',
    (mode) => {
      const played = [...tune(BAR, 99), wheel(BAR + 100, 90), wheel(BAR + 700, 100)].sort(
        (a, b) => a[0] - b[0],
      );
      const punch = { from: BAR, to: 2 * BAR };
      const made = record(before(), played, { from: BAR, punch, mode, lanes: ['cc1'] });
      const [was, is] = [heard(before()), heard(made)];
      expect(is.notes).toEqual(was.notes);
      expect(is.lane(1)).toEqual([
        [0, 20],
        [BAR, 20],
        [BAR + 100, 90],
        [BAR + 700, 100],
        [2 * BAR, 30],
      ]);
    },
  );

  it('of two recordings of one lane over one another the later counts, and a pedal is replaced where it was moved', () => {
    const pedalled = record(before(), [pedal(10, 127), pedal(3 * BAR, 0)], {
      mode: 'controllers',
      end: 4 * BAR,
    });
    const once = record(pedalled, [pedal(BAR, 0), pedal(BAR + 480, 127)], { from: BAR, mode: 'controller' });
    expect(heard(once).lane(64)).toEqual([
      [10, 127],
      [BAR, 0],
      [BAR + 480, 127],
      // Where the take ends its pedal goes up, and where it counts no more the earlier one is down again.
      [BAR + 481, 0],
      [BAR + 482, 127],
      [3 * BAR, 0],
    ]);
  });

  it('is the very same part where only notes were played and only controllers count', () => {
    const { session, takes } = before();
    const made = record({ session, takes }, tune(BAR), { from: BAR, mode: 'controllers' });
    expect(listOf(made.session.parts)[0]).toBe(listOf(session.parts)[0]);
    expect(heard(made).bytes).toEqual(heard({ session, takes }).bytes);
  });
});

describe('an open take', () => {
  const message = (status: number, data1: number, data2: number): ChannelMessage => ({
    status,
    data1,
    data2,
  });

  it('ends what is held where it is sealed, pedals too', () => {
    const open = createOpenTake();
    open.add(10, message(0x90, 60, 80));
    open.add(20, message(0xb0, 64, 127));
    const { events, endTick } = open.seal(500);
    expect(Array.from(events.tick)).toEqual([10, 20, 500, 500]);
    expect([events.status[2], events.data1[2], events.data1[3], events.data2[3], endTick]).toEqual([
      0x80, 60, 64, 0, 500,
    ]);
  });
});
