import fc from 'fast-check';
import { PLAIN_INPUT_MAP } from '../session';
import {
  MEMORY_MESSAGES,
  PLAIN_PRACTICE,
  channelMessageOf,
  createClockFit,
  createInputMapper,
  mappedVelocity,
  measureLatency,
  playedStretches,
  practiceSchedule,
  trimmed,
  type ChannelMessage,
  type PracticeSettings,
} from '.';

const on = (data1: number, data2 = 80, channel = 0): ChannelMessage => ({
  status: 0x90 | channel,
  data1,
  data2,
});
const off = (data1: number, channel = 0): ChannelMessage => ({ status: 0x80 | channel, data1, data2: 0 });

it('channel messages are read by the tables of MIDI 1.0, all else is none', () => {
  expect(channelMessageOf([0x92, 60, 100])).toEqual({ status: 0x92, data1: 60, data2: 100 });
  expect(channelMessageOf([0xc1, 5])).toEqual({ status: 0xc1, data1: 5, data2: 0 });
  expect(channelMessageOf([0xd1, 7])).toEqual({ status: 0xd1, data1: 7, data2: 0 });
  for (const bytes of [[], [0xf8], [0xfe], [0xf0, 1, 0xf7], [60, 100], [0x90, 60], [0x90, 200, 1]])
    expect(channelMessageOf(bytes)).toBeNull();
});

describe('an input map', () => {
  it('lets all through on the channel of the part where nothing is set', () => {
    const mapper = createInputMapper(PLAIN_INPUT_MAP, 3);
    expect(mapper.map(on(60, 99, 7))).toMatchObject({ status: 0x93, data1: 60, data2: 99 });
    expect(mapper.map({ status: 0xb7, data1: 1, data2: 5 })).toEqual({ status: 0xb3, data1: 1, data2: 5 });
  });

  it('whatever becomes of it meanwhile, every stroke is released at the pitch and channel it went to', () => {
    const change = fc.tuple(fc.integer({ min: -12, max: 12 }), fc.nat(15), fc.integer({ min: 40, max: 80 }));
    const deed = fc.oneof(
      fc.record({ pitch: fc.integer({ min: 55, max: 60 }), isOn: fc.boolean() }),
      fc.record({ change }),
    );
    fc.assert(
      fc.property(fc.array(deed, { maxLength: 40 }), (deeds) => {
        const mapper = createInputMapper(PLAIN_INPUT_MAP, 0);
        const sounding = new Map<string, number>();
        const hear = (message: ChannelMessage | null) => {
          if (!message) return;
          const key = `${message.status & 15} ${message.data1}`;
          const isOn = message.status >> 4 === 9 && message.data2 > 0;
          sounding.set(key, (sounding.get(key) ?? 0) + (isOn ? 1 : -1));
          expect(sounding.get(key)).toBeGreaterThanOrEqual(0);
        };
        for (const each of deeds) {
          if ('change' in each) {
            const [transpose, channel, highest] = each.change;
            mapper.setMap({ ...PLAIN_INPUT_MAP, transpose, highest }, channel);
          } else hear(mapper.map(each.isOn ? on(each.pitch) : off(each.pitch)));
        }
        mapper.release().forEach(hear);
        expect([...sounding.values()].every((count) => count === 0)).toBe(true);
      }),
    );
  });

  it('bends velocities along its curve, turns controllers into others and leaves some out', () => {
    const points: [number, number][] = [
      [1, 40],
      [64, 64],
      [127, 90],
    ];
    expect([1, 64, 127].map((struck) => mappedVelocity(points, struck))).toEqual([40, 64, 90]);
    expect(mappedVelocity(points, 32)).toBe(52);
    const mapper = createInputMapper(
      { ...PLAIN_INPUT_MAP, controllers: [{ from: 1, to: 11 }], leaveOut: ['bend'], lowest: 60 },
      0,
    );
    expect(mapper.map({ status: 0xb0, data1: 1, data2: 9 })).toEqual({ status: 0xb0, data1: 11, data2: 9 });
    expect(mapper.map({ status: 0xe0, data1: 0, data2: 70 })).toBeNull();
    expect([mapper.map(on(59)), mapper.map(off(59))]).toEqual([null, null]);
  });
});

describe('the clock', () => {
  it('follows a drifting, jittering audio clock to well under a millisecond, and counts where it slips', () => {
    const fit = createClockFit();
    const drift = 1 + 3e-5;
    let worst = 0;
    for (let second = 0; second < 60; second++) {
      const page = second * 1000;
      const jitter = Math.sin(second * 12.9) * 0.0005;
      fit.add({ page, audio: 5 + (page * drift) / 1000 + jitter });
      if (second > 10)
        worst = Math.max(worst, Math.abs(fit.audioAt(page + 500) - (5 + ((page + 500) * drift) / 1000)));
    }
    expect(worst).toBeLessThan(0.0008);
    expect(fit.slips()).toBe(0);
    expect(fit.pageAt(fit.audioAt(12345))).toBeCloseTo(12345, 6);
    fit.add({ page: 60_000, audio: 64.9 });
    expect(fit.slips()).toBe(1);
    expect(fit.audioAt(60_000)).toBeCloseTo(64.9, 6);
  });
});

describe('latency by tapping', () => {
  const clicks = Array.from({ length: 16 }, (_, click) => click * 500);
  it('is the median of what was tapped, stray taps aside', () => {
    const taps = clicks.map((click, at) => click + 40 + (at % 3));
    expect(measureLatency(clicks, [...taps, 260])).toMatchObject({ median: 41, taps: 16 });
    expect(measureLatency(clicks, taps.slice(0, 7))).toBeNull();
  });
});

describe('what was just played', () => {
  const played = (stamps: readonly number[]) => stamps.map((stamp) => ({ stamp, ...on(60) }));
  it('is kept for 10,000 messages or twenty minutes, whichever is more', () => {
    const dense = played(Array.from({ length: 15_000 }, (_, row) => row));
    expect(trimmed(dense)).toHaveLength(15_000);
    const sparse = played(Array.from({ length: 15_000 }, (_, row) => row * 1000));
    const kept = trimmed(sparse);
    expect(kept).toHaveLength(MEMORY_MESSAGES);
    expect(kept.at(-1)?.stamp).toBe(sparse.at(-1)?.stamp);
  });
  it('is parted where nothing comes for four seconds and no key is down', () => {
    const messages = [
      { stamp: 0, ...on(60) },
      { stamp: 100, ...off(60) },
      { stamp: 5000, ...on(62) },
      // A key is held for ten seconds: no silence.
      { stamp: 15_000, ...off(62) },
      { stamp: 16_000, ...on(64) },
      { stamp: 16_100, ...off(64) },
    ];
    expect(playedStretches(messages)).toEqual([
      { first: 0, end: 2, from: 0, to: 100, notes: 1 },
      { first: 2, end: 6, from: 5000, to: 16_100, notes: 2 },
    ]);
  });
});

describe('the practice player', () => {
  const notes = Array.from({ length: 2000 }, (_, row) => ({
    start: row / 4,
    end: row / 4 + 0.2,
    pitch: 60,
    velocity: 80,
  }));
  const faultless: PracticeSettings = {
    seed: 7,
    bias: 0,
    spread: 0,
    drift: 0,
    wrong: 0,
    missed: 0,
    doubled: 0,
    unevenness: 0,
    latePedal: 0,
    tempo: 100,
  };
  const strokes = (settings: PracticeSettings) =>
    practiceSchedule({ notes, messages: [] }, settings).filter(({ status }) => status === 0x90);

  it('without faults plays what is written, at another tempo evenly stretched', () => {
    expect(strokes(faultless).map(({ at }) => at)).toEqual(notes.map(({ start }) => start));
    expect(strokes({ ...faultless, tempo: 50 })[4].at).toBe(2);
  });

  it('has the faults that are dialled in, and the same ones for a seed', () => {
    const faulty = { ...faultless, bias: 20, spread: 10, wrong: 10, missed: 10, doubled: 10 };
    const played = strokes(faulty);
    expect(strokes(faulty)).toEqual(played);
    expect(strokes({ ...faulty, seed: 8 })).not.toEqual(played);
    expect(played.filter(({ data1 }) => data1 !== 60).length / played.length).toBeCloseTo(0.1, 1);
    const late = strokes({ ...faultless, bias: 20, spread: 10 }).map(
      ({ at }, row) => (at - notes[row].start) * 1000,
    );
    const mean = late.reduce((sum, each) => sum + each, 0) / late.length;
    const deviation = Math.sqrt(late.reduce((sum, each) => sum + (each - mean) ** 2, 0) / late.length);
    expect(mean).toBeCloseTo(20, 0);
    expect(deviation).toBeGreaterThan(9);
    expect(deviation).toBeLessThan(11);
    expect(PLAIN_PRACTICE.spread).toBeGreaterThan(0);
  });

  it('lets every stroke go, whatever its faults', () => {
    const open = new Map<number, number>();
    for (const { status, data1 } of practiceSchedule(
      { notes, messages: [] },
      { ...PLAIN_PRACTICE, doubled: 50, spread: 60 },
    ))
      open.set(data1, (open.get(data1) ?? 0) + (status === 0x90 ? 1 : -1));
    expect([...open.values()].every((count) => count === 0)).toBe(true);
  });
});
