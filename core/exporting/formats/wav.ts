import { z } from 'zod';
import { endOfChosen } from '../../evaluate';
import { ticksToSeconds } from '../../time';
import type { FormatKind, PlannedFile, Workshop } from '../formatKind';
import { bytesOfFrame } from '../wav/samples';
import { renderSound, wavOf, type Rendering, type WavOptions } from '../wav/rendering';
import { soundingOf } from '../wav/soundingOf';
import { countOf } from './midi';

export const wavOptions: z.ZodType<WavOptions> = z.strictObject({
  rate: z.literal([44100, 48000, 96000]).default(44100),
  bits: z.literal([16, 24]).default(16),
  level: z.enum(['heard', 'peak']).default('peak'),
  tail: z.enum(['ring', 'bar']).default('ring'),
  files: z.enum(['mix', 'parts', 'both']).default('mix'),
});

/** RIFF WAVE, linear pulse code, two channels. */
export const wav: FormatKind<WavOptions> = {
  id: 'wav',
  title: 'WAV',
  tells: 'the music as it sounds here',
  options: wavOptions,
  isCut: true,
  cannotHold: () => ['Notes can no longer be changed: it is sound.'],
  check({ chosen, source }, { rate, bits, tail }) {
    const sounding = soundingOf(chosen, source.takeOf);
    const seconds = tail === 'bar' ? sounding.barEnd : sounding.end;
    if (seconds === 0) return [];
    const megabytes = (seconds * rate * bytesOfFrame(bits)) / 1e6;
    const size = megabytes < 10 ? megabytes.toFixed(1) : megabytes.toFixed(0);
    const time = `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;
    return [`It lasts ${time}${tail === 'ring' ? ' and rings out' : ''}: some ${size} MB a file.`];
  },
  files({ chosen, source }, options) {
    const sounding = chosen.parts.filter(({ material }) => material.notes.length > 0);
    if (sounding.length === 0) return [];
    // All parts, so that what one without notes says of its channel is heard.
    const sound = () => {
      const all = soundingOf(chosen, source.takeOf);
      const parts = all.parts.filter(({ playback }) => playback.noteStart.length > 0);
      return { ...all, parts };
    };
    /** All files of it are rendered in one pass, when the first of them is written. */
    let rendered: Promise<Rendering> | null = null;
    const rendering = (workshop: Workshop) => (rendered ??= renderSound(sound(), options, workshop));
    // How much work it is, told without working it out.
    const from = chosen.excerpt?.from ?? 0;
    const seconds =
      ticksToSeconds(chosen.timeline.tempo, endOfChosen(chosen)) -
      ticksToSeconds(chosen.timeline.tempo, from);
    const fileOf = (part: string, track: number, words: string): PlannedFile => ({
      part,
      extension: 'wav',
      words,
      ...(track === 0 && { seconds: Math.max(1, seconds) }),
      async *chunks(workshop) {
        yield* wavOf(await rendering(workshop), track, options, workshop.tell);
      },
    });
    const kind = `${options.rate / 1000} kHz, ${options.bits} bit`;
    const mix =
      options.files === 'parts' ? [] : [fileOf('', 0, `${countOf(sounding.length)} together, ${kind}`)];
    const parts =
      options.files === 'mix' ? [] : sounding.map(({ part }, at) => fileOf(part.name, at + mix.length, kind));
    return [...mix, ...parts];
  },
};
