import type { FromSynth, ToSynth } from './messages';
import { createRenderer, type Renderer } from '@ordle/sound';

// The audio thread's own globals, which the DOM library does not describe.
declare const sampleRate: number;
declare const currentTime: number;
declare const currentFrame: number;
declare function registerProcessor(name: string, processor: unknown): void;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}

/** Frames between two reports of the position. */
const REPORT_EVERY = 1024;

class SynthProcessor extends AudioWorkletProcessor {
  private renderer: Renderer | null = null;
  private early: ToSynth[] = [];
  private reported = 0;
  private wasPlaying = false;
  private wasCounting = false;
  private isDue = false;
  private number = 0;

  constructor() {
    super();
    this.port.onmessage = ({ data }: MessageEvent<ToSynth>) => this.receive(data);
  }

  private receive(message: ToSynth) {
    if (message.type === 'bank') {
      createRenderer(sampleRate, message.bytes, currentTime).then(
        (renderer) => {
          this.renderer = renderer;
          for (const waiting of this.early.splice(0)) this.receive(waiting);
          this.send({ type: 'ready' });
        },
        (error: unknown) => this.send({ type: 'failed', message: String(error) }),
      );
      return;
    }
    if (!this.renderer) {
      this.early.push(message);
      return;
    }
    const { player } = this.renderer;
    if (message.type === 'play' || message.type === 'stop') this.number = message.number;
    if (message.type === 'score') player.setScore(message.score);
    else if (message.type === 'play') player.play(message.second, message.countIn);
    else if (message.type === 'stop') player.stop();
    else if (message.type === 'loop') player.setLoop(message.range);
    else if (message.type === 'rate') player.setRate(message.rate);
    else if (message.type === 'click') player.setClick(message.level);
    else if (message.type === 'live') return player.live(message);
    else if (message.type === 'letGo') return player.letGo();
    else if (message.type === 'output') return this.divert(message.on);
    else player.strike(message);
    // Told with the next block, whose time is known.
    this.isDue = true;
  }

  private divert(on: boolean) {
    this.renderer?.divert(
      on
        ? (voice, message, frame) =>
            this.send({ type: 'out', voice, message, time: currentTime + frame / sampleRate })
        : null,
    );
  }

  private send(message: FromSynth) {
    this.port.postMessage(message);
  }

  /** Where the music is at the start of the present block of sound. */
  private place() {
    const player = this.renderer?.player;
    return { second: player?.position() ?? 0, unrolled: player?.unrolled() ?? 0, time: currentTime };
  }

  private report(place: ReturnType<SynthProcessor['place']>) {
    const player = this.renderer?.player;
    if (!player) return;
    this.wasPlaying = player.isPlaying();
    this.wasCounting = player.isCounting();
    this.reported = currentFrame;
    this.isDue = false;
    this.send({
      type: 'position',
      ...place,
      playing: player.isPlaying(),
      counting: player.isCounting(),
      ended: player.hasEnded(),
      number: this.number,
    });
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const [left, right] = outputs[0];
    if (!this.renderer || !left) return true;
    const { player } = this.renderer;
    const place = this.place();
    this.renderer.render(left, right ?? new Float32Array(left.length));
    const playing = player.isPlaying();
    const isOther = playing !== this.wasPlaying || player.isCounting() !== this.wasCounting;
    // What ended within the block is told where it ended.
    if (isOther || this.isDue || (playing && currentFrame - this.reported >= REPORT_EVERY))
      this.report(playing ? place : this.place());
    return true;
  }
}

registerProcessor('ordle-synth', SynthProcessor);
