import { barAt, laneName, positionAt, type Part, type Timeline } from '@ordle/core';
import type { Phase } from '@/recording/recorder';
import type { RecordingPlan } from '@/recording/recordingPlan';
import type { RecordSettings } from '@/recording/settings';
import { barsInWords } from '@/words/counts';

/** The state of recording in a word. */
export const PHASE_WORDS: Record<Phase, string> = {
  ready: 'Ready',
  waiting: 'Waiting for the first note',
  starting: 'Getting ready',
  counting: 'Counting in',
  recording: 'Recording',
  saving: 'Keeping it',
};

export const MODE_WORDS: Record<RecordSettings['mode'], { label: string; title: string }> = {
  take: {
    label: 'New take',
    title: 'Each pass is a take of the part; the newest is chosen. What was there stays a take',
  },
  layer: { label: 'Layer', title: 'Each pass is laid over what there is, and all of it sounds' },
  replace: { label: 'Replace', title: 'The new take stands in place of what was there, which stays a take' },
  controllers: {
    label: 'Only controllers',
    title: 'Wheels, pedals and pressure over the notes that are there; no note changes',
  },
  controller: {
    label: 'Replace one controller',
    title: 'One controller is played again where it is moved; no note changes',
  },
};

/** A place in the music: "bar 5", or "bar 5, beat 3" where it is not the beginning of the bar. */
export function placeInWords({ meter }: Timeline, tick: number): string {
  const { bar, beat } = positionAt(meter, Math.max(0, tick));
  return beat === 1 ? `bar ${bar}` : `bar ${bar}, beat ${beat}`;
}

const rangeInWords = ({ meter }: Timeline, { from, to }: { from: number; to: number }): string =>
  barsInWords(barAt(meter, from).number, barAt(meter, Math.max(from, to - 1)).number);

/** Where a recording begins and ends, in words, as it will be. */
export function whereInWords(timeline: Timeline, { start, loop, punch }: RecordingPlan): string {
  if (punch) {
    const lead = start < punch.from ? ` The music begins at ${placeInWords(timeline, start)}.` : '';
    return `in ${rangeInWords(timeline, punch)} alone.${lead}`;
  }
  if (loop) return `each time round ${rangeInWords(timeline, loop)}.`;
  return `from ${placeInWords(timeline, start)} until you stop.`;
}

/** What playing will make, in a sentence. */
export function planInWords(
  parts: readonly Part[],
  timeline: Timeline,
  plan: RecordingPlan,
  { mode, lanes }: Pick<RecordSettings, 'mode' | 'lanes'>,
): string {
  const names = parts.map(({ name }) => name).join(' and ');
  const where = whereInWords(timeline, plan);
  const lane = lanes?.map(laneName).join(', ');
  switch (mode) {
    case 'take':
      return `Playing adds a take of ${names} ${where}`;
    case 'layer':
      return `Playing lays a layer over ${names} ${where}`;
    case 'replace':
      return `Playing takes the place of what is there of ${names} ${where}`;
    case 'controllers':
      return `Playing adds ${lane ?? 'every controller that moves'} to ${names}, its notes untouched, ${where}`;
    case 'controller':
      return `Playing replaces ${lane ?? 'each controller that moves'} of ${names} where it is moved, ${where}`;
  }
}
