import { parseMidi } from 'midi-file';
import { META, META_PORT, writeMidi, type MidiFile } from '../midi';
import type { Take } from '../model';
import { itemOf, listOf, orderedOf, sessionOfFile, timelineOf, type Session } from '../session';
import { createStep, type Step } from '../steps';
import { eventLines, trackOf, type RawEvent } from '../testing/files';
import { blendedPlayback, createEvaluator, exportSession, foldSteps } from '.';

const fileOf = (format: 0 | 1, tracks: RawEvent[][]): MidiFile => ({
  format,
  division: { kind: 'metrical', ticksPerQuarter: 480 },
  tracks: tracks.map((events) => trackOf(events)),
});

/** A file opened, with steps on one of its parts. */
function opened(file: MidiFile, steps: Record<string, Step[]> = {}) {
  let next = 0;
  const { session: plain, takes } = sessionOfFile(file, 'Quay', () => `id${next++}`, 0);
  const session: Session = {
    ...plain,
    parts: orderedOf(
      listOf(plain.parts).map((part) => ({
        ...part,
        steps: orderedOf((steps[part.name] ?? []).map((step, index) => ({ id: `s${index}`, step }))),
      })),
    ),
  };
  const takeOf = (key: string): Take => {
    const take = takes.find((each) => each.key === key);
    if (!take) throw new Error(`no take ${key}`);
    return take;
  };
  const evaluator = createEvaluator(takeOf);
  const timeline = timelineOf(session);
  const partCalled = (name: string) => {
    const part = listOf(session.parts).find((each) => each.name === name);
    if (!part)
      throw new Error(
        `no part ${name} among ${listOf(session.parts)
          .map((each) => each.name)
          .join(', ')}`,
      );
    return part;
  };
  const cleaned = (name: string) =>
    evaluator.evaluate(partCalled(name), session, timeline).stages.slice(-1)[0];
  return {
    session,
    cleaned,
    fold: (name: string) =>
      foldSteps(
        partCalled(name),
        session,
        evaluator.evaluate(partCalled(name), session, timeline),
        partCalled(name).steps.order.length,
        0,
      ),
    /** Kinds and data of the events a part is heard with. */
    heard(name: string) {
      const material = cleaned(name);
      const beside = evaluator
        .partsBeside(partCalled(name), session)
        .map((other) => evaluator.evaluate(other, session, timeline).stages.slice(-1)[0].events);
      const { eventKind, eventData1, eventData2 } = blendedPlayback(
        material,
        material,
        1,
        timeline.tempo,
        beside,
      );
      return Array.from(eventKind, (kind, row) => [kind, eventData1[row], eventData2[row]]);
    },
    written(format: 0 | 1, tracks?: 'parts' | 'source') {
      const parts = listOf(session.parts).map(({ id }) => id);
      return exportSession(session, { format, tracks, version: 'cleaned', parts }, evaluator, takeOf);
    },
    beside: (name: string) =>
      evaluator.partsBeside(partCalled(name), session).map(({ id }) => itemOf(session.parts, id)?.name),
  };
}

const named = (name: string): RawEvent => [0, META, 3, 0, [...Buffer.from(name)]];
const CONDUCTOR: RawEvent[] = [[0, META, 0x51, 0, [7, 161, 32]]];
const RIGHT: RawEvent[] = [named('right'), [0, 0x90, 72, 80], [200, 0x80, 72, 64]];
const LEFT: RawEvent[] = [named('left'), [0, 0x90, 48, 70], [220, 0x80, 48, 64]];
const PEDAL: RawEvent[] = [
  [50, 0xb0, 64, 127],
  [900, 0xb0, 64, 0],
];
const inOrder = (events: RawEvent[]) => [...events].sort((a, b) => a[0] - b[0]);

describe('what belongs to a channel', () => {
  it.each([
    ['right', [CONDUCTOR, inOrder([...RIGHT, ...PEDAL]), LEFT]],
    ['left', [CONDUCTOR, RIGHT, inOrder([...LEFT, ...PEDAL])]],
    ['pedals', [CONDUCTOR, RIGHT, LEFT, [named('pedals'), ...PEDAL]]],
  ])(
    'the pedal in the track of %s holds and is heard in both hands, and goes out where it came from',
    (_, tracks) => {
      const hold = [createStep('length', { hold: 'fromPedal' })];
      const held = opened(fileOf(1, tracks), { right: hold, left: hold });
      for (const hand of ['right', 'left']) {
        expect([...held.cleaned(hand).notes.end]).toEqual([900]);
        expect(held.heard(hand)).toEqual([[0xb0, 64, 127], [0xb0, 64, 0]]); // prettier-ignore
      }
      const plain = opened(fileOf(1, tracks));
      expect(plain.written(1).tracks.map(({ events }) => eventLines(events))).toEqual(
        fileOf(1, tracks).tracks.map(({ events }) => eventLines(events)),
      );
    },
  );

  it('a pedal taken out where it is goes on holding what it held, in the other parts', () => {
    const tracks = [CONDUCTOR, RIGHT, LEFT, [named('pedals'), ...PEDAL]];
    const hold = [createStep('length', { hold: 'fromPedal' })];
    const remove = [createStep('pedal', { op: 'remove' })];
    for (const pedals of [remove, [createStep('pedal', { op: 'shift', ms: 0 }), ...remove]]) {
      const held = opened(fileOf(1, tracks), { right: hold, left: hold, pedals });
      for (const hand of ['right', 'left']) {
        expect([...held.cleaned(hand).notes.end]).toEqual([900]);
        expect(held.heard(hand)).toEqual([]);
      }
    }
    // For good it is taken out only once nobody is held by it any more.
    const { fold } = opened(fileOf(1, tracks), { right: hold, pedals: remove });
    expect(() => fold('pedals')).toThrow('“right” is held by the pedal');
    expect(fold('right').part.folded).toHaveLength(1);
    // Taken out first in the part itself there is nothing to be held by.
    const own = [CONDUCTOR, inOrder([...RIGHT, ...PEDAL])];
    expect([...opened(fileOf(1, own), { right: [...remove, ...hold] }).cleaned('right').notes.end]).toEqual([200]); // prettier-ignore
    expect([...opened(fileOf(1, own), { right: [...hold, ...remove] }).cleaned('right').notes.end]).toEqual([900]); // prettier-ignore
  });

  it('pedal in place of long notes lets no note of another part ring on', () => {
    const joined = (pitch: number, start: number): RawEvent[] => [
      [start, 0x90, pitch, 70],
      [1900, 0x80, pitch, 64],
    ];
    const left = [named('left'), ...inOrder([...joined(48, 0), ...joined(55, 480), ...joined(60, 960)])];
    const fromLengths = { left: [createStep('pedal', { op: 'fromLengths' })] };
    const endsWith = (right: RawEvent[]) => [
      ...opened(fileOf(1, [CONDUCTOR, right, left]), fromLengths).cleaned('left').notes.end,
    ];
    const staccato: RawEvent[] = [named('right'), [700, 0x90, 84, 80], [800, 0x80, 84, 64]];
    expect(endsWith(staccato)).toEqual([1900, 1900, 1900]);
    // One that is let go before the press, or with it, is in nobody's way.
    const before: RawEvent[] = [named('right'), [0, 0x90, 84, 80], [40, 0x80, 84, 64], [900, 0x90, 84, 80], [1900, 0x80, 84, 64]]; // prettier-ignore
    expect(endsWith(before)).toEqual([480, 960, 1900]);
  });

  it('nudged notes take their controllers along up to the next note of the channel, in whichever track it is played', () => {
    const swell: RawEvent[] = [0, 100, 500, 700].map((tick, row) => [tick, 0xb0, 11, 40 + row]);
    const second: RawEvent[] = [[600, 0x90, 72, 80], [800, 0x80, 72, 64]]; // prettier-ignore
    const first = inOrder([...RIGHT, ...swell, ...second]);
    const placesOf = (left: RawEvent[]) => {
      const file = fileOf(1, [CONDUCTOR, first, left]);
      const only = createStep('nudge', { ticks: 10, where: { notes: [idOfFirst(file)] } });
      return [...opened(file, { right: [only] }).cleaned('right').events.tick].slice(1);
    };
    const idOfFirst = (file: MidiFile) => opened(file).cleaned('right').notes.id[0];
    // Of its own part the next note begins at 600; the left hand begins at 300, and what stands behind stays.
    expect(placesOf([named('left')])).toEqual([10, 110, 510, 700]);
    expect(placesOf([named('left'), [300, 0x90, 48, 70], [320, 0x80, 48, 64]])).toEqual([10, 110, 500, 700]);
  });

  it('bank and program in a track of their own sound for the notes of another', () => {
    const setUp: RawEvent[] = [named('set-up'), [0, 0xb0, 0, 1], [0, 0xb0, 32, 3], [0, 0xc0, 48, 0]];
    const { heard, written } = opened(fileOf(1, [CONDUCTOR, setUp, RIGHT]));
    expect(heard('right')).toEqual([[0xb0, 0, 1], [0xb0, 32, 3], [0xc0, 48, 0]]); // prettier-ignore
    expect(written(1).tracks).toHaveLength(3);
  });

  it('sixteen channels in one track are sixteen parts, and one track again', () => {
    const events = Array.from({ length: 16 }, (_, channel): RawEvent[] => [
      [channel, 0xc0 | channel, channel * 3],
      [channel + 20, 0xb0 | channel, 7, 90 + channel],
      [channel + 40, 0x90 | channel, 60 + channel, 80],
      [channel + 90, 0x80 | channel, 60 + channel, 64],
    ]).flat();
    const file = fileOf(0, [inOrder(events)]);
    const { session, written } = opened(file);
    expect(session.parts.order).toHaveLength(16);
    expect(new Set(listOf(session.parts).map(({ name }) => name)).size).toBe(16);
    expect([...writeMidi(written(0))]).toEqual([...writeMidi(file)]);
    // An independent reader finds every note on its channel.
    const [track] = parseMidi(writeMidi(written(0))).tracks;
    const strokes = track.filter((event) => event.type === 'noteOn');
    expect(strokes.map(({ channel, noteNumber }) => noteNumber - channel)).toEqual(Array(16).fill(60));
  });

  it('tracks of several channels, one that conducts and plays, and equal ones go out as they came', () => {
    const both: RawEvent[] = [
      named('both'),
      [0, 0x90, 60, 80],
      [10, 0x91, 72, 80],
      [100, 0x80, 60, 64],
      [120, 0x81, 72, 64],
    ];
    const empty: RawEvent[] = [];
    for (const tracks of [
      [CONDUCTOR, both, RIGHT],
      [inOrder([...CONDUCTOR, ...both]), RIGHT],
      [CONDUCTOR, empty, empty, RIGHT, RIGHT],
    ]) {
      const file = fileOf(1, tracks);
      expect([...writeMidi(opened(file).written(1, 'source'))]).toEqual([...writeMidi(file)]);
    }
    // A track for each part is still to be had.
    expect(opened(fileOf(1, [CONDUCTOR, both])).written(1).tracks).toHaveLength(3);
  });

  it('is apart where tracks name different ports', () => {
    const port = (number: number): RawEvent => [0, META, META_PORT, 0, [number]];
    const tracks = (second: number) => [
      CONDUCTOR,
      [port(0), ...RIGHT],
      inOrder([port(second), ...LEFT, ...PEDAL]),
    ];
    expect(opened(fileOf(1, tracks(1))).beside('right')).toEqual([]);
    expect(opened(fileOf(1, tracks(1))).heard('right')).toEqual([]);
    expect(opened(fileOf(1, tracks(0))).beside('right')).toEqual(['left']);
    expect(opened(fileOf(1, tracks(0))).heard('right')).toHaveLength(2);
  });
});
