import { estimateKey, harmonyOf, type Harmony } from '../analysis';
import { withColumns, type NoteTable } from '../model';
import type { Clef } from '../session';
import { ticksToSeconds, type Timeline } from '../time';
import { directionsOf } from './directions';
import { frameOf, type Frame } from './frame';
import { linesOfBar, piecesOf, spansOf, type Piece } from './items';
import type { LongChord } from './lengths';
import { DEFAULT_NOTATION, type Mark, type NotationOptions } from './options';
import { createSigns, fifthsOfKey, movedKey, spelledIn } from './spelling';
import { staffOfRows } from './staves';
import { gracesOf, strokesAmong } from './strokes';
import { meantTimes } from './timing';
import { writeStaff, type Staff } from './writeStaff';
import type { Concern, WrittenBar, WrittenItem, WrittenNote, WrittenPart, WrittenPlace } from './written';

/** What is written down: the notes of a part as cleaned, in ticks of the timeline. */
export interface NotationInput {
  name: string;
  notes: NoteTable;
  isDrums: boolean;
  timeline: Timeline;
  /** What stands over the notes besides tempo and meter. */
  marks?: readonly Mark[];
  /** The key the music is in, as `Eb major`; without one it is estimated from the part. */
  key?: string;
  /** What is sung, by the id of the note it is sung to. */
  lyrics?: ReadonlyMap<number, string>;
  /** Chords and keys along the music, of all its parts; without it those of the part. */
  harmony?: Harmony;
}

/** A note whose pitches span more than this is written on two staves. */
const ONE_STAFF = 28;
const SMALL_NOTES = 4;

/**
 * A cleaned part as notation: bars, staves, voices, written values, spellings. The part itself is not changed; what
 * notation cannot say is listed. Bars are filled by every voice.
 */
export function notate(input: NotationInput, some: Partial<NotationOptions> = {}): WrittenPart {
  const options = { ...DEFAULT_NOTATION, ...some };
  const { notes, isDrums, timeline } = input;
  const meant = meantTimes(notes, isDrums, timeline, options.straightSwing);
  const moved = withColumns(notes, { start: meant.start, end: meant.end });
  const time = moved.start.map((tick) => ticksToSeconds(timeline.tempo, tick));
  const ends = moved.end.map((tick) => ticksToSeconds(timeline.tempo, tick));
  const frame = frameOf(
    timeline,
    Math.max(lastOf(moved.end), lastOf(moved.start) + timeline.ticksPerQuarter),
  );
  const graces = gracesOf(notes, time, ends, isDrums);
  const count = isDrums ? 1 : (options.staves ?? stavesFor(notes));
  const staffOf =
    count === 2
      ? staffOfRows(notes, time, graces, options.handLine, options.staffOf)
      : new Uint8Array(notes.length);
  const concerns: Concern[] = [];
  const staves = Array.from({ length: count }, (_, staff) => {
    const rows = [...notes.id.keys()].filter((row) => staffOf[row] === staff);
    const strokes = strokesAmong(rows, moved, time, ends, graces, meant.habit);
    return writeStaff({ ...input, notes: moved }, strokes, ends, frame, options, concerns);
  });
  const used = { ...frame, bars: frame.bars.slice(0, usedBars(frame, staves)) };
  return assemble(input, options, used, staves, meant.swing, concerns);
}

const lastOf = (column: Float64Array): number => column.reduce((most, each) => Math.max(most, each), 0);

/** How many bars there are before those at the end in which nothing is written. */
function usedBars({ bars }: Frame, staves: readonly Staff[]): number {
  let end = 0;
  for (const { chords } of staves) for (const chord of chords) end = Math.max(end, chord.end);
  const behind = bars.findIndex(({ at }) => at >= end);
  return behind < 0 ? bars.length : Math.max(1, behind);
}

function stavesFor({ pitch, length }: NoteTable): 1 | 2 {
  if (length < SMALL_NOTES) return 1;
  const sorted = pitch.slice().sort();
  const [low, high] = [sorted[Math.floor(length * 0.03)], sorted[Math.floor((length - 1) * 0.97)]];
  return high - low > ONE_STAFF && low < 57 && high > 62 ? 2 : 1;
}

function clefsOf({ notes, isDrums }: NotationInput, count: number, clef: Clef | null): Clef[] {
  if (isDrums) return ['percussion'];
  if (count === 2) return ['treble', 'bass'];
  const sorted = notes.pitch.slice().sort();
  return [clef ?? ((sorted[sorted.length >> 1] ?? 60) >= 57 ? 'treble' : 'bass')];
}

/** Bars of all staves, with what stands over them. */
function assemble(
  input: NotationInput,
  options: NotationOptions,
  frame: Frame,
  staves: readonly Staff[],
  swing: number,
  concerns: Concern[],
): WrittenPart {
  const { notes, isDrums, timeline } = input;
  const key = isDrums ? 'C major' : (input.key ?? estimateKey(notes)?.key ?? 'C major');
  const sounding = fifthsOfKey(key);
  const fifths = movedKey(sounding.fifths, -options.transposition);
  const harmony = isDrums ? NO_HARMONY : (input.harmony ?? harmonyOf([notes], timeline));
  const keyOfBar = keysByBar(harmony, options.transposition);
  const placeOf = new Map<number, WrittenPlace>();
  const directions = directionsOf(input, options, frame, swing, harmony);
  const voices = staves.map(({ chords, reading }, staff) => ({
    spans: spansOf(frame, reading),
    byBar: ([1, 2] as const).map((voice) =>
      chordsByBar(
        frame,
        chords.filter((chord) => chord.voice === voice),
      ),
    ),
    nextOf: nextPitches(chords),
    staff,
  }));
  // Signs at the clef are of the whole; what a note is called goes by the key of its stretch.
  const namesOf = (row: number, next: number | null, bar: number) => {
    const key = keyOfBar(bar) ?? { fifths, mode: sounding.mode };
    return spelledIn(
      notes.pitch[row] - options.transposition,
      key.fifths,
      key.mode,
      next === null ? null : next - options.transposition,
    );
  };
  const bars = frame.bars.map((bar, index): WrittenBar => {
    const before = frame.bars[index - 1];
    const lines = linesOfBar(bar);
    return {
      number: bar.number,
      units: bar.units,
      numerator: bar.numerator,
      denominator: bar.denominator,
      showsMeter: index === 0 || bar.numerator !== before.numerator || bar.denominator !== before.denominator,
      showsKey: index === 0,
      fifths,
      mode: sounding.mode,
      isImplicit: bar.isImplicit,
      directions: directions[index],
      staves: voices.map(({ spans, byBar, nextOf, staff }) => {
        const sign = createSigns(fifths);
        const pieces = byBar.map((of) => piecesOf(of[index], bar, lines, spans[index]));
        const isUsed = pieces.map((each) => each.some(({ chord }) => chord !== null));
        const shown = isUsed[1] ? (isUsed[0] ? [0, 1] : [1]) : [0];
        // Signs go by what is read first: both voices share the staff.
        const inOrder = shown
          .flatMap((voice) => pieces[voice].map((piece) => ({ piece, voice })))
          .sort((a, b) => a.piece.at - b.piece.at || a.voice - b.voice);
        const written = new Map<Piece, WrittenItem>();
        for (const { piece, voice } of inOrder) {
          written.set(piece, itemOf(piece, bar.number, sign, nextOf));
          if (!piece.chord || piece.isTiedFrom) continue;
          const { chord } = piece;
          const place = {
            bar: bar.number,
            at: piece.at,
            units: chord.end - chord.at,
            staff,
            voice: voice + 1,
          };
          for (const { row } of chord.notes) placeOf.set(notes.id[row], { ...place, isGrace: false });
          for (const row of chord.graces) placeOf.set(notes.id[row], { ...place, units: 0, isGrace: true });
        }
        // A voice keeps its number where it is alone: ties lead on in it.
        return shown.map((voice) => ({
          number: voice + 1,
          items: pieces[voice].flatMap((piece) => written.get(piece) ?? []),
        }));
      }),
    };
  });
  return {
    name: input.name,
    staves: staves.length,
    clefs: clefsOf(input, staves.length, options.clef),
    isDrums,
    transposition: options.transposition,
    bars,
    concerns: concerns.sort((a, b) => a.bar - b.bar),
    placeOf,
  };

  function itemOf(
    piece: Piece,
    bar: number,
    sign: ReturnType<typeof createSigns>,
    nextOf: (chord: LongChord, pitch: number) => number | null,
  ): WrittenItem {
    const { chord, isTiedFrom, isTiedTo } = piece;
    const noteOf = (row: number, next: number | null, tied: boolean): WrittenNote => {
      // What is tied on is called as it was.
      const spelled = namesOf(row, next, chord ? frame.barAt(chord.at).number : bar);
      const lyric = input.lyrics?.get(notes.id[row]);
      return {
        id: notes.id[row],
        pitch: notes.pitch[row],
        velocity: notes.velocity[row],
        ...spelled,
        accidental: isDrums ? null : sign(spelled, tied),
        tiedFrom: tied,
        tiedTo: isTiedTo,
        ...(!tied && lyric !== undefined && { lyric }),
      };
    };
    const grace = (row: number): WrittenNote => ({ ...noteOf(row, null, false), tiedTo: false });
    return {
      at: piece.at,
      units: piece.units,
      value: piece.value,
      tuplet: piece.tuplet,
      graces: chord && !isTiedFrom ? chord.graces.map((row) => [grace(row)]) : [],
      notes: chord ? chord.notes.map(({ row, pitch }) => noteOf(row, nextOf(chord, pitch), isTiedFrom)) : [],
      isStaccato: (chord?.isStaccato ?? false) && !isTiedFrom,
      isRolled: (chord?.isRolled ?? false) && !isTiedFrom,
      isWholeBar: piece.isWholeBar,
      beams: piece.beams,
    };
  }
}

const NO_HARMONY: Harmony = { chords: [], keys: [] };

/** The key notes of a bar are called by; null where it is that of the whole. */
function keysByBar({ keys }: Harmony, transposition: number) {
  const named = keys.map(({ bar, key }) => ({ bar, ...fifthsOfKey(key) }));
  return (bar: number) => {
    const found = named.findLast((each) => each.bar <= bar);
    return found ? { fifths: movedKey(found.fifths, -transposition), mode: found.mode } : null;
  };
}

/** For each bar the chords that sound in it. */
function chordsByBar({ bars }: Frame, chords: readonly LongChord[]): LongChord[][] {
  const byBar = bars.map((): LongChord[] => []);
  let first = 0;
  for (const chord of chords) {
    while (first + 1 < bars.length && chord.at >= bars[first].at + bars[first].units) first++;
    for (let bar = first; bar < bars.length && bars[bar].at < chord.end; bar++) byBar[bar].push(chord);
  }
  return byBar;
}

/** The pitch a semitone away in the chord of the same voice that follows, for spelling. */
function nextPitches(chords: readonly LongChord[]) {
  const next = new Map<LongChord, LongChord>();
  for (const voice of [1, 2]) {
    const own = chords.filter((chord) => chord.voice === voice);
    own.forEach((chord, index) => own[index + 1] && next.set(chord, own[index + 1]));
  }
  return (chord: LongChord, pitch: number): number | null =>
    next.get(chord)?.notes.find((note) => Math.abs(note.pitch - pitch) === 1)?.pitch ?? null;
}
