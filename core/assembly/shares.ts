import { DRUM_CHANNEL, drumName } from '../midi';
import { divideHands, greatestOf, leastOf, type DividedChord, type NoteTable } from '../model';
import type { HandLine, Split } from '../session';
import { CHORD_SECONDS, createMusicalBars, ticksToSeconds, type Timeline } from '../time';

/**
 * The label each note has when its part is divided by `by`: every note lies in exactly one share. Channels are
 * divided each for itself; a drum channel stays whole as `drums` unless it is divided by drum or channel.
 */
export function labelsOf(
  by: Split['by'],
  notes: NoteTable,
  timeline: Timeline,
  line: HandLine = [],
): string[] {
  if (by === 'channel') return Array.from(notes.channel, (channel) => `ch${channel + 1}`);
  if (by === 'drum') return Array.from(notes.pitch, drumLabel);
  const labels = new Array<string>(notes.length).fill('drums');
  for (const channel of new Set(notes.channel)) {
    if (channel === DRUM_CHANNEL) continue;
    const rows: number[] = [];
    for (let row = 0; row < notes.length; row++) if (notes.channel[row] === channel) rows.push(row);
    labelChannel({ by, line }, notes, rows, timeline, labels);
  }
  return labels;
}

/** The shares in the order in which the first that has notes holds the controllers of them all. */
export function sharesInOrder(by: Split['by'], labels: readonly string[]): string[] {
  const known = [...new Set(labels)];
  const order: Record<string, readonly string[]> = {
    voice: ['highest', 'lowest', 'inner'],
    hand: ['left', 'right'],
  };
  const fixed = by.startsWith('pitch:') ? ['low', 'high'] : (order[by] ?? known.sort());
  return [
    ...fixed.filter((label) => known.includes(label)),
    ...known.filter((label) => !fixed.includes(label)),
  ];
}

function drumLabel(pitch: number): string {
  const name = drumName(pitch);
  return name ? name.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-') : `note-${pitch}`;
}

function labelChannel(
  { by, line }: { by: Split['by']; line: HandLine },
  notes: NoteTable,
  rows: readonly number[],
  timeline: Timeline,
  labels: string[],
): void {
  if (by.startsWith('pitch:')) {
    const line = Number(by.slice('pitch:'.length));
    for (const row of rows) labels[row] = notes.pitch[row] < line ? 'low' : 'high';
    return;
  }
  const chords = chordsOf(notes, rows, timeline);
  if (by === 'hand') {
    dividedChords(notes, chords, timeline, line).forEach(({ hands }, index) =>
      hands.forEach((hand, place) => (labels[chords[index][place]] = hand)),
    );
    return;
  }
  for (const chord of chords) {
    const pitchOf = (row: number) => notes.pitch[row];
    const [low, high] = [leastOf(chord, pitchOf), greatestOf(chord, pitchOf)];
    // A note alone is only the highest.
    for (const row of chord)
      labels[row] = notes.pitch[row] === high ? 'highest' : notes.pitch[row] === low ? 'lowest' : 'inner';
  }
}

/** By how many semitones the line is moved in a bar. */
export const shiftInBar = (line: HandLine, bar: number): number =>
  line.findLast((each) => each.bar <= bar)?.shift ?? 0;

function dividedChords(
  notes: NoteTable,
  chords: readonly (readonly number[])[],
  timeline: Timeline,
  line: HandLine,
): DividedChord[] {
  const barOf = createMusicalBars(timeline);
  // A chord belongs whole to the bar of its last start.
  const bars = line.length === 0 ? [] : chords.map((chord) => barOf(notes.start[chord[chord.length - 1]]));
  return divideHands(
    chords.map((chord) => chord.map((row) => notes.pitch[row])),
    (chord) => (line.length === 0 ? 0 : shiftInBar(line, bars[chord])),
  );
}

/**
 * The line between the hands of a part: where each chord starts, in ticks, and the pitch what lies below of which is
 * the left hand's. Drums have none.
 */
export function handLineOf(
  notes: NoteTable,
  timeline: Timeline,
  line: HandLine = [],
): { tick: Float64Array; pitch: Float64Array } {
  const rows = Array.from(notes.pitch.keys()).filter((row) => notes.channel[row] !== DRUM_CHANNEL);
  const chords = chordsOf(notes, rows, timeline);
  const divided = dividedChords(notes, chords, timeline, line);
  return {
    tick: Float64Array.from(chords, ([first]) => notes.start[first]),
    pitch: Float64Array.from(divided, (chord) => chord.line),
  };
}

function chordsOf(notes: NoteTable, rows: readonly number[], { tempo }: Timeline): number[][] {
  const chords: number[][] = [];
  let limit = -Infinity;
  for (const row of rows) {
    const second = ticksToSeconds(tempo, notes.start[row]);
    if (second <= limit) chords[chords.length - 1].push(row);
    else {
      chords.push([row]);
      limit = second + CHORD_SECONDS;
    }
  }
  return chords;
}
