import { chaseMessages } from './chase';
import { createPlayer, type Score } from './player';
import type { Sink } from './sink';
import { RATE, frequencyOf, playback, render, scoreOf } from './testing/sound';

/** A player whose messages are written down with their frames. */
function recorded(score: Score) {
  const log: string[] = [];
  let frame = 0;
  const note = (line: string) => log.push(`${frame} ${line}`);
  const sink: Sink = {
    prepare: () => undefined,
    reset: () => undefined,
    silence: () => undefined,
    noteOn: (_, pitch, velocity) => note(`on ${pitch} ${velocity}`),
    noteOff: (_, pitch) => note(`off ${pitch}`),
    message: (_, kind, data1, data2) => note(`${kind.toString(16)} ${data1} ${data2}`),
    click: (accent) => note(accent ? 'CLICK' : 'click'),
  };
  const player = createPlayer(RATE, sink);
  player.setScore(score);
  const run = (frames: number) => {
    for (let left = frames; left > 0;) {
      player.dispatch();
      const count = Math.min(left, player.framesUntilNext());
      player.advance(count);
      frame += count;
      left -= count;
    }
  };
  return { player, log, run };
}

describe('player', () => {
  it('sends every event at its own frame, releases before strokes', () => {
    const { player, log, run } = recorded(
      scoreOf(
        playback([
          [0, 0.5, 60],
          [0.5, 0.7, 60],
          [0.5001, 0.6, 64],
        ]),
      ),
    );
    player.play(0);
    run(RATE);
    expect(log).toEqual([
      '0 on 60 100',
      '22050 off 60',
      '22050 on 60 100',
      '22054 on 64 100',
      '26460 off 64',
      '30870 off 60',
    ]);
  });

  it('chases held notes, controllers, program and bend when it starts in the middle', () => {
    const part = playback(
      [
        [0, 4, 48],
        [0.2, 0.4, 50],
      ],
      [
        [0, 0xc0, 20, 0],
        [0.1, 0xb0, 64, 127],
        [0.2, 0xe0, 0, 72],
        [3, 0xb0, 64, 0],
      ],
    );
    const { player, log, run } = recorded(scoreOf(part));
    player.play(1);
    run(10);
    expect(log).toEqual(['0 c0 20 0', '0 b0 64 127', '0 e0 0 72', '0 on 48 100']);
  });

  it('does not sound drum strokes from their middle', () => {
    const { player, log, run } = recorded(scoreOf(playback([[0, 4, 49]]), { drums: true }));
    player.play(1);
    run(10);
    expect(log).toEqual([]);
  });

  it('loops to the frame, ending what sounds and chasing at the start', () => {
    const { player, log, run } = recorded(
      scoreOf(
        playback([
          [0, 2, 40],
          [0.5, 3, 60],
        ]),
      ),
    );
    player.setLoop({ from: 0.25, to: 1 });
    player.play(0.25);
    run(RATE);
    const lap = 0.75 * RATE;
    expect(log.slice(0, 2)).toEqual(['0 on 40 100', `${0.25 * RATE} on 60 100`]);
    expect(log.slice(2)).toEqual(
      [`${lap} off 40`, `${lap} off 60`, `${lap} on 40 100`, `${RATE} on 60 100`].slice(0, log.length - 2),
    );
  });

  it('hears a changed setting at the next note, keeps what sounds and strikes nothing twice', () => {
    const { player, log, run } = recorded(
      scoreOf(
        playback([
          [0, 0.5, 60],
          [0.6, 0.8, 62],
        ]),
      ),
    );
    player.play(0);
    run(4410);
    player.setScore(
      scoreOf(
        playback([
          [0.12, 0.3, 60],
          [0.4, 0.8, 62],
        ]),
      ),
    );
    run(RATE);
    expect(log).toEqual(['0 on 60 100', '13230 off 60', '17640 on 62 100', '35280 off 62']);
  });

  it('releases at stop, at the end and when muted, and leaves nothing hanging', () => {
    const { player, log, run } = recorded({ ...scoreOf(playback([[0, 8, 60]])), end: 0.5 });
    player.play(0);
    run(RATE);
    expect(log).toEqual(['0 on 60 100', '22050 off 60']);
    expect([player.isPlaying(), player.hasEnded()]).toEqual([false, true]);
    const other = recorded(scoreOf(playback([[0, 8, 60]])));
    other.player.play(0);
    other.run(100);
    other.player.setScore(scoreOf(playback([[0, 8, 60]]), { audible: false }));
    expect(other.log).toEqual(['0 on 60 100', '100 off 60']);
  });

  it('clicks on the beats when asked', () => {
    const { player, log, run } = recorded({
      ...scoreOf(playback([])),
      clickTimes: Float64Array.from([0, 0.5]),
      clickAccents: Uint8Array.from([1, 0]),
    });
    player.setClick(1);
    player.play(0);
    run(RATE);
    expect(log).toEqual(['0 CLICK', '22050 click']);
  });

  it('counts in before it plays, and at half speed takes twice as long over it all', () => {
    const score = {
      ...scoreOf(playback([[1, 1.5, 60]])),
      clickTimes: Float64Array.from([1]),
      clickAccents: Uint8Array.from([1]),
    };
    const countIn = {
      seconds: 1,
      clickTimes: Float64Array.from([0, 0.5]),
      clickAccents: Uint8Array.from([1, 0]),
    };
    for (const rate of [1, 0.5]) {
      const { player, log, run } = recorded(score);
      const frames = (second: number) => (second * RATE) / rate;
      player.setClick(1);
      player.setRate(rate);
      player.play(1, countIn);
      expect([player.unrolled(), player.position(), player.isCounting()]).toEqual([0, 1, true]);
      run(frames(0.75));
      expect(player.unrolled()).toBeCloseTo(0.75, 6);
      run(frames(1));
      expect([player.unrolled(), player.position(), player.isCounting()]).toEqual([1.75, 1.75, false]);
      expect(log).toEqual([
        '0 CLICK',
        `${frames(0.5)} click`,
        `${frames(1)} on 60 100`,
        `${frames(1)} CLICK`,
        `${frames(1.5)} off 60`,
      ]);
    }
  });

  it('counts on through loops, and lets go what is played by hand where it stops', () => {
    const { player, log, run } = recorded(scoreOf(playback([[0, 3, 40]])));
    player.setLoop({ from: 0, to: 0.5 });
    player.play(0);
    run(RATE * 1.25);
    expect([player.position(), player.unrolled()]).toEqual([0.25, 1.25]);
    const by = { slot: 0, program: 5, drums: false };
    player.live({ ...by, kind: 0x90, data1: 72, data2: 90 });
    player.live({ ...by, kind: 0xb0, data1: 64, data2: 127 });
    log.length = 0;
    player.stop();
    expect(log.map((line) => line.split(' ').slice(1).join(' '))).toEqual(['off 40', 'off 72', 'b0 64 0']);
  });

  it('sounds single notes from the editor, stopped or playing, and ends them', () => {
    const { player, log, run } = recorded(scoreOf(playback([])));
    player.strike({ program: 0, drums: false, pitch: 60, velocity: 90 });
    run(4410);
    player.strike({ program: 0, drums: false, pitch: 62, velocity: 90.4 });
    for (let block = 0; block < 200; block++) run(128);
    expect(log).toEqual([
      '0 on 60 90',
      '4410 off 60',
      '4410 on 62 90',
      expect.stringMatching(/^19\d{3} off 62$/),
    ]);
  });

  it('repeats registered parameters in their order when chasing', () => {
    const range = playback(
      [],
      [
        [0, 0xb0, 101, 0],
        [0, 0xb0, 100, 0],
        [0, 0xb0, 6, 12],
        [0, 0xb0, 7, 90],
        [0, 0xc0, 5, 0],
        [0, 0xb0, 0, 1],
      ],
    );
    expect(chaseMessages(range, 1)).toEqual([
      [0xb0, 0, 1],
      [0xc0, 5, 0],
      [0xb0, 101, 0],
      [0xb0, 100, 0],
      [0xb0, 6, 12],
      [0xb0, 7, 90],
    ]);
  });
});

describe('the sound itself', () => {
  it('has its onsets within 1 ms of the schedule', async () => {
    // Claves: an attack at once, and silence before the next stroke.
    const times = Array.from({ length: 24 }, (_, index) => 0.1 + index * 0.25 + ((index * 7919) % 97) / 1000);
    const samples = await render(
      scoreOf(playback(times.map((time) => [time, time + 0.05, 75, 120])), { drums: true, program: 0 }),
      7,
    );
    const onsets: number[] = [];
    let quietSince = 0;
    for (let index = 0; index < samples.length; index++) {
      if (Math.abs(samples[index]) < 1e-4) continue;
      if (index - quietSince > 0.03 * RATE) onsets.push(index / RATE);
      quietSince = index;
    }
    expect(onsets).toHaveLength(times.length);
    const delays = onsets.map((onset, index) => (onset - times[index]) * 1000);
    const lead = Math.min(...delays);
    // The sample's own first samples are quiet: that delay is the same for every stroke and small.
    expect(lead).toBeGreaterThanOrEqual(-0.05);
    delays.forEach((delay) => expect(delay).toBeLessThan(1));
  });

  it('sounds A4 at 440 Hz (ISO 16)', async () => {
    const samples = await render(scoreOf(playback([[0, 1.5, 69]]), { program: 73 }), 1.2);
    const frequency = frequencyOf(samples.subarray(0.5 * RATE, 1 * RATE), 440);
    expect(frequency).toBeGreaterThan(438);
    expect(frequency).toBeLessThan(442);
  });

  it('sounds a long note from its middle with what is in force there, and is the same every time', async () => {
    const score = scoreOf(playback([[0, 5, 60]], [[0.1, 0xc0, 20, 0]]), { program: 0 });
    const [one, two] = [await render(score, 0.5, 2), await render(score, 0.5, 2)];
    expect(Math.max(...one)).toBeGreaterThan(0.01);
    expect(Buffer.from(one.buffer).equals(Buffer.from(two.buffer))).toBe(true);
  });
});
