import type { Step } from '@ordle/core';

/** What each setting does, in one sentence, by kind of step and setting; of operations with theirs between. */
const TIPS: Record<string, string> = {
  'quantize.strength':
    'How far each note goes towards its grid line: 100 puts it on the line, 0 leaves it where it is.',
  'quantize.swing':
    'Where the second of two grid lines stands between its neighbours: 50 is straight, 67 about a triplet.',
  'quantize.shiftMs': 'Moves all grid lines later, below 0 earlier.',
  'quantize.leaveWithinMs': 'Notes nearer to their line than this stay where they are.',
  'quantize.leaveBeyond':
    'Notes farther from their line than this share of half the way to the next stay; 100 leaves none.',
  'quantize.chordMs': 'Notes that start within this of each other count as one chord.',
  'quantize.flamMs': 'A softer stroke up to this far before a louder one keeps its distance to it.',
  'quantize.grid': 'The lines notes go to; with a second grid the nearest line of both.',
  'quantize.edge': 'Whether starts, ends or both go to their lines.',
  'quantize.keepLength': 'The end of each note moves with its start; else ends stay where they are.',
  'quantize.minLength': 'No note gets shorter than this when ends move, or than it was.',
  'quantize.drumEnds': 'Ends of drum notes are moved too; they are seldom heard.',
  'quantize.chords':
    'Whether the notes of a chord go to their lines one by one, keep their spacing, or start together.',
  'quantize.chordOn':
    'Which note of a chord comes to the line; a strum that ends on the beat wants the last.',
  'quantize.keepFlams': 'A soft stroke just before a louder one keeps its distance to it.',
  'quantize.keepGraces': 'Grace notes go with the notes they lead to.',
  'align.to': 'The part whose notes are followed, as it is cleaned.',
  'align.strength': 'How far each note goes towards the stroke of the other part: 100 puts it there.',
  'align.reachMs': 'Notes farther than this from any stroke of the other part stay where they are.',
  'pulse.strength':
    'How far the played beats go towards those of the session: 100 puts them there, all else in between.',
  'nudge.grid': 'What a grid unit is here.',
  'nudge.atStart':
    'Whether notes that would come before the start are squeezed onto it, or all stop together.',
  'nudge.ms': 'Moves everything later by so much, below 0 earlier.',
  'nudge.ticks': 'Moves everything later by so many ticks, below 0 earlier; added to the milliseconds.',
  'nudge.steps': 'Moves everything later by so many grid units, below 0 earlier; added to the rest.',
  'groove.timing': 'How much of the timing of the groove is taken on: 100 is all of it.',
  'groove.velocity': 'How much of the accents of the groove is taken on: 100 is all of them.',
  'groove.straighten': 'How far notes first go to the straight grid, before the groove moves them.',
  'humanize.timingMs': 'How far starts scatter about where they are (standard deviation).',
  'humanize.drift':
    'How much of the scatter wanders slowly, as a player runs ahead and falls back; the rest is note by note.',
  'humanize.velocity': 'How far velocities scatter about what they are (standard deviation).',
  'humanize.lengthPct': 'How far lengths scatter, as a share of each length (standard deviation).',
  'humanize.seed': 'Another number draws another variation; the same number always draws the same.',
  'velocity.limit': 'Velocities outside this range go to its nearer end.',
  'velocity.ramp': 'Velocities go evenly from the first value to the second over the stretch.',
  'velocity.relative': 'Notes keep their distance from each other around what is set.',
  'velocity.set': 'All notes get this velocity.',
  'velocity.scale': 'Velocities become this share of what they are.',
  'velocity.add': 'So much is added to each velocity, below 0 taken away.',
  'velocity.compress':
    'Differences from the middle velocity become this many times smaller; below 1 they become larger.',
  'length.set': 'All notes get this length.',
  'length.limit': 'Lengths outside this range go to its nearer end.',
  'length.hold': 'Notes are lengthened to where the pedal comes up.',
  'length.noOverlap': 'A note ends where the next of its pitch begins.',
  'length.monophonic': 'A note ends where the next one begins, whatever its pitch.',
  'length.scale': 'Lengths become this share of what they are.',
  'length.legato': 'Each note reaches to the next, less this gap.',
  'transpose.key': 'The key whose scale is followed.',
  'transpose.into': 'Pitches outside this range move by octaves until they are in it.',
  'transpose.skipDrums': 'Drum parts keep their pitches.',
  'transpose.sections': 'Bars that are transposed by an amount of their own.',
  'transpose.semitones': 'Moves pitches up by so many semitones, below 0 down.',
  'transpose.degrees': 'Moves pitches along the scale of the key by so many of its degrees.',
  'stretch.factor': 'Times become so many times as long, counted from what stays in place.',
  'stretch.toTicks': 'The stretch is made this long.',
  'stretch.anchor': 'What stays in place while all else is stretched.',
  'stretch.controllers': 'Controllers are stretched with the notes.',
  'remove.shorterThanMs': 'Takes out notes shorter than this.',
  'remove.softerThan': 'Takes out notes softer than this velocity.',
  'remove.doublesWithinMs': 'Takes out a note that is struck again on its pitch within this of a louder one.',
  'remove.outside': 'Takes out notes below the first pitch and above the second.',
  'curve.thin.by': 'Whether a value holds until the next point, as it is heard, or goes there in a line.',
  'curve.snap.grid': 'Points go to the lines of this grid.',
  'curve.limit.range': 'Values outside this range go to its nearer end.',
  'curve.ramp.shape': 'How the ramp gets from its first value to its last.',
  'curve.wave.shape': 'The shape of one wave.',
  'curve.wave.fadeOnce': 'The wave grows once over all stretches instead of anew in each.',
  'curve.convert.to': 'The lane the points move to.',
  'curve.copy.to': 'The lane the points are copied to.',
  'curve.scale.percent': 'Values become this share of what they are.',
  'curve.add.amount': 'So much is added to each value, below 0 taken away.',
  'curve.smooth.ms': 'Each value becomes the average over this stretch of time around it.',
  'curve.thin.tolerance': 'Leaves out points as long as the curve stays within this of what it was.',
  'curve.ramp.from': 'The value the ramp begins with.',
  'curve.ramp.to': 'The value the ramp ends with.',
  'curve.wave.depth': 'How far the wave goes to either side of what is there.',
  'curve.wave.fadeMs': 'The wave grows from nothing over this time.',
  'pedal.shift.ms': 'Presses and releases come later by so much, below 0 earlier.',
  'pedal.extend.ms': 'Releases come later by so much, below 0 earlier.',
};

/** The sentence on a setting of a step; undefined where there is none. */
export const sentenceOn = (
  { kind, op }: { kind: Step['kind']; op?: string },
  setting: string,
): string | undefined => TIPS[op === undefined ? `${kind}.${setting}` : `${kind}.${op}.${setting}`];

/**
 * The sentence on a setting, what it may be, and what a step has where nothing is said: "... 0 to 100 %, default 100."
 */
export function tipOf(
  of: { kind: Step['kind']; op?: string },
  setting: string,
  { min, max, unit = '', initial }: { min: number; max: number; unit?: string; initial?: number },
): string {
  const sentence = sentenceOn(of, setting) ?? '';
  const number = (value: number) => value.toLocaleString('en').replace('-', '−');
  const range = `${number(min)} to ${number(max)}${unit === '' ? '' : ` ${unit}`}`;
  const atFirst = initial === undefined ? '' : `, default ${number(initial)}`;
  return `${sentence} ${range}${atFirst}.`.trim();
}
