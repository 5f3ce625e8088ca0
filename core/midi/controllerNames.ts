import { pitchName } from './pitchNames';

/**
 * Names of the controllers that MIDI 1.0 and its additions define, by number (from memory); the rest are undefined
 * there.
 */
const NAMES: Record<number, string> = {
  0: 'bank',
  1: 'modulation',
  2: 'breath',
  4: 'foot',
  5: 'portamento time',
  6: 'data entry',
  7: 'volume',
  8: 'balance',
  10: 'pan',
  11: 'expression',
  12: 'effect 1',
  13: 'effect 2',
  16: 'general 1',
  17: 'general 2',
  18: 'general 3',
  19: 'general 4',
  32: 'bank, fine',
  33: 'modulation, fine',
  34: 'breath, fine',
  36: 'foot, fine',
  37: 'portamento time, fine',
  38: 'data entry, fine',
  39: 'volume, fine',
  40: 'balance, fine',
  42: 'pan, fine',
  43: 'expression, fine',
  64: 'sustain pedal',
  65: 'portamento',
  66: 'sostenuto pedal',
  67: 'soft pedal',
  68: 'legato',
  69: 'hold 2',
  70: 'sound variation',
  71: 'timbre',
  72: 'release time',
  73: 'attack time',
  74: 'brightness',
  75: 'decay time',
  76: 'vibrato rate',
  77: 'vibrato depth',
  78: 'vibrato delay',
  84: 'portamento control',
  91: 'reverb',
  92: 'tremolo',
  93: 'chorus',
  94: 'detune',
  95: 'phaser',
  96: 'data up',
  97: 'data down',
  98: 'parameter, fine',
  99: 'parameter',
  100: 'registered parameter, fine',
  101: 'registered parameter',
};

/** Name of a controller 0-119, or null where none is defined. */
export const controllerName = (number: number): string | null => NAMES[number] ?? null;

/**
 * A lane in words: "expression (11)", "controller 20", "pitch bend", "pressure", "key pressure C4" (middle C as C4).
 */
export function laneName(lane: string): string {
  if (lane === 'bend') return 'pitch bend';
  if (lane === 'pressure' || lane === 'program' || lane === 'velocity') return lane;
  if (lane.startsWith('key')) return `key pressure ${pitchName(Number(lane.slice(3)), 4)}`;
  const number = Number(lane.slice(2));
  const name = controllerName(number);
  return name ? `${name} (${number})` : `controller ${number}`;
}

/** Every lane there is: bend, pressure, program, the controllers, named ones first, and the pressure of each key. */
export const ALL_LANES: readonly string[] = [
  'bend',
  'pressure',
  'program',
  ...Array.from({ length: 120 }, (_, number) => number)
    .sort((a, b) => Number(controllerName(a) === null) - Number(controllerName(b) === null) || a - b)
    .map((number) => `cc${number}`),
  ...Array.from({ length: 128 }, (_, key) => `key${key}`),
];
