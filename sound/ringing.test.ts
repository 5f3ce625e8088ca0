import fc from 'fast-check';
import type { PlaybackPart } from '@ordle/core';
import { RESTING_PARAMETERS, restingController } from './chase';
import { createPlayer, type Score, type ScorePart } from './player';
import { createRenderer, BLOCK } from './renderer';
import type { Sink } from './sink';
import { RATE, bank, loudnessOf, playback } from './testing/sound';

/** Drawbar organ: it sounds for as long as it is held, so that whatever is not let go is heard. */
const ORGAN = 16;
const DOWN: [number, number, number, number] = [0.05, 0xb0, 64, 127];

const partOf = (part: PlaybackPart, more: Partial<ScorePart> = {}): ScorePart => ({
  program: ORGAN,
  drums: false,
  audible: true,
  playback: part,
  ...more,
});
const scoreOf = (parts: ScorePart[], end = 30): Score => ({
  parts,
  end,
  clickTimes: new Float64Array(0),
  clickAccents: new Uint8Array(0),
});

/** Loudness of the second after `wait` seconds, when something is done to the music after 0.5 s of it. */
async function heardAfter(score: Score, change: (player: Awaited<ReturnType<typeof createRenderer>>['player']) => void, wait = 3) {
  const { player, render } = await createRenderer(RATE, bank());
  player.setScore(score);
  player.play(0);
  const run = (seconds: number) => {
    const out = new Float64Array(Math.ceil((seconds * RATE) / BLOCK) * BLOCK);
    const [left, right] = [new Float32Array(BLOCK), new Float32Array(BLOCK)];
    for (let at = 0; at < out.length; at += BLOCK) {
      left.fill(0);
      right.fill(0);
      render(left, right);
      out.set(left, at);
    }
    return Float32Array.from(out);
  };
  const before = loudnessOf(run(0.5).subarray(RATE / 4));
  change(player);
  run(wait);
  return { before, after: loudnessOf(run(0.5)) };
} // prettier-ignore

describe('what sounded falls silent', () => {
  const held = playback([[0, 0.3, 60]], [DOWN]);

  it.each<[string, Score, (player: ReturnType<typeof createPlayer>) => void]>([
    ['at the end of the music, with the pedal down', scoreOf([partOf(held)], 0.6), () => undefined],
    [
      'when the part is muted',
      scoreOf([partOf(held)]),
      (player) => player.setScore(scoreOf([partOf(held, { audible: false })])),
    ],
    [
      'when the part is removed',
      scoreOf([partOf(playback([])), partOf(held)]),
      (player) => player.setScore(scoreOf([partOf(playback([]))])),
    ],
    [
      'when the press that holds it is deleted',
      scoreOf([partOf(held)]),
      (player) => player.setScore(scoreOf([partOf(playback([[0, 0.3, 60]]))])),
    ],
    [
      'when the note itself is deleted',
      scoreOf([partOf(playback([[0, 9, 60]]))]),
      (player) => player.setScore(scoreOf([partOf(playback([]))])),
    ],
    [
      'when parts change places',
      scoreOf([partOf(held), partOf(playback([]))]),
      (player) => player.setScore(scoreOf([partOf(playback([])), partOf(held)])),
    ],
    ['at a jump', scoreOf([partOf(held)]), (player) => player.play(12)],
    ['at stop', scoreOf([partOf(held)]), (player) => player.stop()],
  ])(
    '%s',
    async (_, score, change) => {
      const { before, after } = await heardAfter(score, change);
      expect(before).toBeGreaterThan(0.003);
      expect(after).toBeLessThan(0.0001);
    },
    30_000,
  );

  it('while a pedal that stays down holds on', async () => {
    const changed = playback(
      [
        [0, 0.3, 60],
        [20, 21, 40],
      ],
      [DOWN],
    );
    const { before, after } = await heardAfter(scoreOf([partOf(held)]), (player) =>
      player.setScore(scoreOf([partOf(changed)])),
    );
    expect(after).toBeGreaterThan(before / 3);
  }, 30_000);
});

/** An instrument that only keeps what was set on it. */
function createModel() {
  const channels: Map<string, number>[] = [];
  const sounding = new Set<string>();
  const resting = () => {
    const state = new Map<string, number>();
    for (const [, controller, value] of RESTING_PARAMETERS) state.set(`parameter ${controller}`, value);
    return state;
  };
  const of = (voice: number) => (channels[voice] ??= resting());
  let parameters = '';
  const sink: Sink = {
    prepare: (voice, program) => void of(voice).set('program', program),
    noteOn: (voice, pitch) => void sounding.add(`${voice} ${pitch}`),
    noteOff: (voice, pitch) => void sounding.delete(`${voice} ${pitch}`),
    message(voice, kind, data1, data2) {
      if (kind === 0xb0 && [6, 38, 100, 101].includes(data1)) {
        of(voice).set(`parameter ${data1}`, data2);
        parameters = `${of(voice).get('parameter 101')} ${of(voice).get('parameter 100')}`;
        // Data for a parameter that is none, or that this instrument does not know, goes nowhere.
        if (data1 === 6 && /^0 [012]$/.test(parameters)) of(voice).set(`value of ${parameters}`, data2);
      } else if (kind === 0xb0) of(voice).set(`controller ${data1}`, data2);
      else if (kind === 0xc0) of(voice).set('program', data1);
      else if (kind === 0xa0) of(voice).set(`key ${data1}`, data2);
      else if (kind === 0xd0) of(voice).set('pressure', data1);
      else of(voice).set('bend', data1 | (data2 << 7));
    },
    reset: (voice) => void (channels[voice] = resting()),
    silence: () => sounding.clear(),
    click: () => undefined,
  };
  /** What differs from an untouched instrument, voice by voice. */
  const state = (voices: number) =>
    Array.from({ length: voices }, (_, voice) =>
      [...of(voice)]
        .filter(([name, value]) => {
          const [kind, number] = name.split(' ');
          if (kind === 'parameter') return false;
          if (name === 'value of 0 0') return value !== 2;
          if (kind === 'value') return value !== 64;
          if (kind === 'controller') return value !== restingController(Number(number));
          return name === 'bend' ? value !== 8192 : value !== 0;
        })
        .map(([name, value]) => `${name} = ${value}`)
        .sort(),
    );
  return { sink, state, sounding };
}

describe('any change while playing', () => {
  const time = fc.integer({ min: 0, max: 300 }).map((hundredth) => hundredth / 100);
  const event = fc.oneof(
    fc.tuple(time, fc.constant(0xb0), fc.constantFrom(0, 1, 7, 10, 11, 64, 66, 100), fc.nat(127)),
    fc.tuple(time, fc.constant(0xb0), fc.constantFrom(101, 100, 6, 38), fc.nat(2)),
    fc.tuple(time, fc.constantFrom(0xc0, 0xd0), fc.nat(127), fc.constant(0)),
    fc.tuple(time, fc.constantFrom(0xa0, 0xe0), fc.nat(127), fc.nat(127)),
  );
  const note = fc.tuple(time, fc.integer({ min: 1, max: 100 }), fc.integer({ min: 40, max: 44 })).map(
    ([start, length, pitch]): [number, number, number] => [start, start + length / 100, pitch],
  ); // prettier-ignore
  const part = fc
    .record({
      notes: fc.array(note, { maxLength: 6 }),
      events: fc.array(event, { maxLength: 12 }),
      audible: fc.boolean(),
      program: fc.nat(3),
    })
    .map(({ notes, events, audible, program }) =>
      partOf(
        playback(
          notes.sort((a, b) => a[0] - b[0]),
          events.sort((a, b) => a[0] - b[0]) as [number, number, number, number][],
        ),
        { audible, program },
      ),
    );
  const score = fc.array(part, { minLength: 1, maxLength: 3 }).map((parts) => scoreOf(parts, 4));

  it('leaves every controller, pedal, pressure, bend and program as if one had started there', () => {
    fc.assert(
      fc.property(score, fc.array(fc.tuple(fc.integer({ min: 1, max: 900 }), score), { minLength: 1, maxLength: 4 }), (first, changes) => {
        const rate = 1000;
        const { sink, state } = createModel();
        const player = createPlayer(rate, sink);
        player.setScore(first);
        player.play(0);
        let at = 0;
        for (const [frames, next] of changes) {
          for (const end = at + frames; at < end;) {
            player.dispatch();
            if (!player.isPlaying()) return;
            const count = Math.min(end - at, player.framesUntilNext());
            player.advance(count);
            at += count;
          }
          player.setScore(next);
          const fresh = createModel();
          const other = createPlayer(rate, fresh.sink);
          other.setScore(next);
          other.play(at / rate);
          expect(state(next.parts.length)).toEqual(fresh.state(next.parts.length));
        }
      }),
      { numRuns: 300 },
    ); // prettier-ignore
  });

  it('leaves nothing sounding that the music no longer has, and nothing at all after its end', () => {
    fc.assert(
      fc.property(score, fc.integer({ min: 1, max: 3000 }), score, (first, frames, next) => {
        const { sink, sounding, state } = createModel();
        const player = createPlayer(1000, sink);
        player.setScore(first);
        player.play(0);
        const run = (count: number) => {
          for (let left = count; left > 0;) {
            player.dispatch();
            const some = Math.min(left, player.framesUntilNext());
            player.advance(some);
            left -= some;
          }
        };
        run(frames);
        player.setScore(next);
        run(6000);
        expect([...sounding]).toEqual([]);
        const holding = state(next.parts.length).flat().filter((line) => /^controller (64|66|69) /.test(line));
        expect(holding).toEqual([]);
      }),
      { numRuns: 200 },
    ); // prettier-ignore
  });

  it('two parts of one performance, whose notes share their ids, both sound', () => {
    const { sink, sounding } = createModel();
    const player = createPlayer(1000, sink);
    player.setScore(scoreOf([partOf(playback([[0.1, 0.4, 60]])), partOf(playback([[0.1, 0.4, 60]]))]));
    player.play(0);
    for (let frame = 0; frame < 200; frame++) {
      player.dispatch();
      player.advance(1);
    }
    expect([...sounding].sort()).toEqual(['0 60', '1 60']);
  });
});
