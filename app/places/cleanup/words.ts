import { kindOf, type SessionSuggestion, type Step, type SuggestedRecording } from '@ordle/core';
import { counted } from '@/words/counts';

/** From these on what was found is certain, or fairly so. */
const [CERTAIN, FAIRLY] = [0.85, 0.6];

/** How sure something is, in words. */
export const certainty = (sure: number): string =>
  sure >= CERTAIN ? 'certain' : sure >= FAIRLY ? 'fairly certain' : 'not certain';

/** A step with its settings, as the line of steps has it. */
export const stepInWords = (step: Step): string =>
  `${kindOf(step.kind).title} ${kindOf(step.kind).describe(step)}`;

const clock = (seconds: number): string => {
  const whole = Math.round(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
};

const NUMBERS = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'];
const partsInWords = (count: number): string => `${NUMBERS[count] ?? count} part${count === 1 ? '' : 's'}`;

const howRecorded = ({ recorded, bpm }: SuggestedRecording): string =>
  recorded === 'freely'
    ? `played freely${bpm === null ? '' : `, about ${Math.round(bpm)} bpm`}`
    : `recorded to the click${bpm === null ? '' : `, ${Number(bpm.toFixed(2))} bpm`}`;

/** What a session is, in one sentence. */
export function whatItIs({ recordings, parts }: SessionSuggestion): string {
  const length = clock(parts.reduce((most, { endSecond }) => Math.max(most, endSecond), 0));
  if (parts.length === 0) return 'Nothing in here sounds: no part has a note.';
  const [first] = recordings;
  if (recordings.length === 1)
    return `A recording of ${partsInWords(parts.length)}, ${howRecorded(first)}, ${length}`;
  const free = recordings.filter(({ recorded }) => recorded === 'freely').length;
  const how =
    free === 0
      ? 'all recorded to the click'
      : free === recordings.length
        ? 'all played freely'
        : `${recordings.length - free} to the click, ${free} freely`;
  return `${counted(recordings.length, 'recording')} of ${counted(parts.length, 'part')}: ${how}; ${length}`;
}
