import { createPageClock } from './pageClock';
import type { PlayRequest } from './transport';

jest.mock('./synth.worklet.ts?worker&url', () => 'worklet', { virtual: true });

/** A browser's sound, as far as the transport asks for it; `running` is whether its clock goes. */
function setUp(running: boolean) {
  jest.resetModules();
  const posted: string[] = [];
  let answerBank: () => void = () => undefined;
  const begun = performance.now();
  class FakeContext {
    destination = {};
    audioWorklet = { addModule: async () => undefined };
    resume = () => new Promise<void>(running ? (resolve) => resolve() : () => undefined);
    get currentTime() {
      return running ? (performance.now() - begun) / 1000 : 0;
    }
  }
  class FakeNode {
    port = {
      onmessage: null as ((event: { data: unknown }) => void) | null,
      postMessage: (message: { type: string }) => {
        posted.push(message.type);
        if (message.type === 'bank') queueMicrotask(() => this.port.onmessage?.({ data: { type: 'ready' } }));
      },
    };
    connect() {}
  }
  Object.assign(globalThis, { AudioContext: FakeContext, AudioWorkletNode: FakeNode });
  globalThis.fetch = (() =>
    new Promise((resolve) => {
      answerBank = () => resolve({ ok: true, arrayBuffer: async () => new ArrayBuffer(1) });
    })) as never;
  return { posted, bankArrives: () => answerBank(), load: () => import('./transport') };
}

const request: PlayRequest = {
  score: { parts: [], end: 3, clickTimes: new Float64Array(0), clickAccents: new Uint8Array(0) },
  second: 1,
  loop: null,
  click: 0,
};
const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

describe('transport', () => {
  it('plays nothing that was stopped while the instruments loaded', async () => {
    const { posted, bankArrives, load } = setUp(true);
    const { transport } = await load();
    const going = transport.play(async () => request);
    await wait(5);
    expect(transport.state()).toMatchObject({ starting: true, playing: false });
    transport.stop();
    bankArrives();
    await going;
    expect(posted).not.toContain('play');
    expect(transport.state()).toMatchObject({ starting: false, playing: false });
  });

  it('starts once, however often it is asked to meanwhile', async () => {
    const { posted, bankArrives, load } = setUp(true);
    const { transport } = await load();
    const all = [transport.play(async () => request), transport.play(async () => request)];
    await wait(5);
    bankArrives();
    await Promise.all(all);
    expect(posted.filter((type) => type === 'play')).toHaveLength(1);
    expect(transport.state()).toMatchObject({ playing: true, message: null });
    transport.stop();
  });

  it('says within two seconds that there is no sound, and moves the play line by the page’s clock', async () => {
    const { bankArrives, load } = setUp(false);
    const { NO_SOUND, transport } = await load();
    void transport.play(async () => request);
    await wait(5);
    bankArrives();
    await wait(1950);
    expect(transport.state()).toMatchObject({ playing: true, message: NO_SOUND });
    const before = transport.second();
    await wait(300);
    expect(transport.second() - before).toBeGreaterThan(0.2);
    expect(transport.second()).toBeLessThan(2.5);
    transport.locate(2.9);
    await wait(400);
    // It came to the end of the music.
    expect(transport.state().playing).toBe(false);
    expect(transport.second()).toBe(3);
  }, 10_000);
});

describe('the page’s clock', () => {
  it('runs, loops, stops and ends', () => {
    let time = 0;
    let ended = 0;
    const clock = createPageClock(
      () => void ended++,
      () => time,
    );
    clock.start(1, 100);
    time = 500;
    expect(clock.second()).toBe(1.5);
    clock.setLoop({ from: 1, to: 2 });
    time = 1750;
    expect(clock.second()).toBeCloseTo(1.75, 9);
    clock.stop();
    time = 99_000;
    expect(clock.second()).toBeCloseTo(1.75, 9);
    clock.setLoop(null);
    clock.start(99.9);
    time += 1000;
    expect(clock.second()).toBe(100);
    clock.stop();
    expect(ended).toBe(0);
  });
});
