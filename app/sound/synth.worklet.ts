import type { FromSynth, ToSynth } from './messages';
import { createRenderer, type Renderer } from './renderer';

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
    if (message.type === 'score') player.setScore(message.score);
    else if (message.type === 'play') player.play(message.second);
    else if (message.type === 'stop') player.stop();
    else if (message.type === 'loop') player.setLoop(message.range);
    else if (message.type === 'click') player.setClick(message.on);
    else player.strike(message);
    this.report();
  }

  private send(message: FromSynth) {
    this.port.postMessage(message);
  }

  private report() {
    const player = this.renderer?.player;
    if (!player) return;
    this.wasPlaying = player.isPlaying();
    this.reported = currentFrame;
    this.send({
      type: 'position',
      second: player.position(),
      playing: player.isPlaying(),
      ended: player.hasEnded(),
      time: currentTime,
    });
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const [left, right] = outputs[0];
    if (!this.renderer || !left) return true;
    this.renderer.render(left, right ?? new Float32Array(left.length));
    const playing = this.renderer.player.isPlaying();
    if (playing !== this.wasPlaying || (playing && currentFrame - this.reported >= REPORT_EVERY))
      this.report();
    return true;
  }
}

registerProcessor('ordle-synth', SynthProcessor);
