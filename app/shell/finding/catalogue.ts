import { ALL_LANES, STEP_KINDS, laneName, type Step } from '@ordle/core';
import type { Command } from '@/commands';
import type { Findable } from '@/commands/find';
import { LANE_WORDS } from '@/words/lanes';
import { EVERYDAY } from './everyday';

/** Settings of steps as their forms call them; what they belong to, and other words for them. */
const SETTINGS: readonly { kind: Step['kind']; label: string; words: readonly string[] }[] = [
  {
    kind: 'quantize',
    label: 'Grid',
    words: ['note value', 'sixteenth', 'eighth', 'triplet', 'tuplet', 'resolution'],
  },
  { kind: 'quantize', label: 'Strength', words: ['amount', 'percent', 'how much', 'partly', 'iterative'] },
  { kind: 'quantize', label: 'Swing', words: ['shuffle', 'feel', 'straight', 'jazz'] },
  { kind: 'quantize', label: 'Chords', words: ['rolls', 'strum', 'spread', 'arpeggio', 'flattened'] },
  { kind: 'quantize', label: 'Shift', words: ['late', 'early', 'lay back', 'push'] },
  { kind: 'humanize', label: 'Timing', words: ['loose', 'random timing'] },
  { kind: 'nudge', label: 'Milliseconds', words: ['ms', 'latency', 'delay'] },
  { kind: 'transpose', label: 'Semitones', words: ['half steps', 'interval', 'pitch'] },
  { kind: 'velocity', label: 'Scale', words: ['percent', 'louder', 'multiply'] },
  { kind: 'length', label: 'Scale', words: ['percent', 'shorter', 'longer', 'gate'] },
];

const titleOf = (kind: Step['kind']) => STEP_KINDS.find((each) => each.kind === kind)?.title ?? kind;

/** Lanes that are looked for by name: pressure of single keys is found in the list of lanes itself. */
const LANES = [
  'velocity',
  ...ALL_LANES.filter((lane) => !lane.startsWith('key') && !/^controller/.test(laneName(lane))),
];

/** All that is found beside commands: steps, their settings, lanes, help. */
export const CATALOGUE: readonly Findable[] = [
  ...STEP_KINDS.filter(({ byHand }) => !byHand).map(({ kind, title, hint }) => ({
    id: `step:${kind}`,
    group: 'Steps',
    title: `Add ${title.toLowerCase()}`,
    words: [title, ...hint.split(/[ ,]+/), ...(EVERYDAY[`step:${kind}`] ?? [])],
  })),
  ...SETTINGS.map(({ kind, label, words }) => ({
    id: `setting:${kind}:${label}`,
    group: 'Settings',
    title: `${label} of ${titleOf(kind).toLowerCase()}`,
    words,
  })),
  ...LANES.map((lane) => ({
    id: `lane:${lane}`,
    group: 'Lanes',
    title: `Show the lane ${laneName(lane)}`,
    words: [laneName(lane).replace(/ \(\d+\)$/, ''), ...(LANE_WORDS[lane] ?? [])],
  })),
  {
    id: 'help:tour',
    group: 'Help',
    title: 'The idea in five sentences',
    words: EVERYDAY['help:tour'],
  },
];

/** A command as it is found. */
export const findableCommand = (
  { id, group, title }: Pick<Command, 'id' | 'group' | 'title'>,
  keys: readonly string[],
): Findable => ({ id, group, title, keys, words: EVERYDAY[id] ?? [] });
