/** What people look for lanes by, beside their names. */
export const LANE_WORDS: Readonly<Record<string, readonly string[]>> = {
  cc1: ['vibrato', 'wheel', 'mod wheel', 'modwheel', 'swell'],
  cc2: ['wind', 'breath controller'],
  cc7: ['fader', 'level', 'loudness', 'mix'],
  cc10: ['left', 'right', 'stereo', 'position'],
  cc11: ['swell', 'crescendo', 'dynamics', 'louder'],
  cc64: ['damper', 'hold', 'sustain', 'foot', 'pedal'],
  cc66: ['pedal', 'middle pedal'],
  cc67: ['una corda', 'pedal', 'left pedal'],
  cc74: ['filter', 'cutoff', 'tone'],
  bend: ['pitch wheel', 'glide', 'slide', 'vibrato', 'portamento', 'detune'],
  pressure: ['aftertouch', 'after touch', 'channel pressure'],
  program: ['patch', 'instrument', 'sound', 'program change'],
  velocity: ['loudness', 'dynamics', 'how loud'],
};

/** Lanes by what they are for, in the order they are offered; what is in none of them comes last. */
export const LANE_FAMILIES: readonly { name: string; lanes: readonly string[] }[] = [
  { name: 'Expression', lanes: ['cc11', 'cc1', 'cc2', 'cc7', 'cc4', 'cc8', 'cc10'] },
  { name: 'Pedals', lanes: ['cc64', 'cc66', 'cc67', 'cc69', 'cc65', 'cc68'] },
  {
    name: 'Tone',
    lanes: [
      'cc74',
      'cc71',
      'cc70',
      'cc72',
      'cc73',
      'cc75',
      'cc76',
      'cc77',
      'cc78',
      'cc91',
      'cc92',
      'cc93',
      'cc94',
      'cc95',
    ],
  },
  { name: 'Bend', lanes: ['bend', 'cc5', 'cc84'] },
  { name: 'Pressure', lanes: ['pressure'] },
  { name: 'Instrument', lanes: ['program', 'cc0', 'cc32'] },
];
