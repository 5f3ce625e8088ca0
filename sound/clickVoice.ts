/** Seconds one click lasts. */
const LENGTH = 0.045;

/**
 * The click: a short decaying tone of our own, higher on the first beat of a bar; mixed into what the synth rendered.
 */
export function createClickVoice(sampleRate: number) {
  const active: { frame: number; frequency: number; level: number }[] = [];
  const frames = Math.round(LENGTH * sampleRate);
  return {
    start(accent: boolean, level: number) {
      active.push({ frame: 0, frequency: accent ? 1760 : 1320, level: (accent ? 0.4 : 0.25) * level });
    },
    mix(left: Float32Array, right: Float32Array, from: number, count: number) {
      for (const click of active) {
        for (let index = 0; index < count && click.frame < frames; index++, click.frame++) {
          const time = click.frame / sampleRate;
          const value = click.level * Math.exp(-time * 90) * Math.sin(2 * Math.PI * click.frequency * time);
          left[from + index] += value;
          right[from + index] += value;
        }
      }
      while (active.length > 0 && active[0].frame >= frames) active.shift();
    },
  };
}
