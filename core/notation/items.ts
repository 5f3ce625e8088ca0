import type { BarFrame, Frame } from './frame';
import type { LongChord } from './lengths';
import type { Reading } from './readingGrid';
import { QUARTER, flagsOf, plainValueOf, type PlainValue } from './units';
import { barLinesOf, valuesOf, type BarLines, type TupletSpan } from './values';
import type { Beam } from './written';

/** A written value of a voice before its notes have names: a piece of a chord, or a rest. */
export interface Piece {
  /** Within the bar. */
  at: number;
  units: number;
  value: PlainValue;
  tuplet: { actual: number; normal: number; starts: boolean; stops: boolean } | null;
  chord: LongChord | null;
  /** It goes on from the piece before, or into the next. */
  isTiedFrom: boolean;
  isTiedTo: boolean;
  isWholeBar: boolean;
  beams: Beam[];
}

/** A stretch of a bar in which one chord sounds, or none. */
interface Stretch {
  from: number;
  to: number;
  chord: LongChord | null;
}

/** The tuplets of each bar, by the reading: where a beat, or two, are divided by three, five, six or seven. */
export function spansOf(frame: Frame, reading: Reading): TupletSpan[][] {
  const spans = frame.bars.map((): TupletSpan[] => []);
  for (const { beat, beats, lines } of reading.beats) {
    const first = frame.beats[beat];
    if (first.bar >= frame.bars.length) break;
    const isTuplet = beats === 2 || (!first.isCompound && (lines % 3 === 0 || lines === 5 || lines === 7));
    if (!isTuplet) continue;
    const from = first.at - frame.bars[first.bar].at;
    spans[first.bar].push({ from, to: from + beats * first.units, lines });
  }
  return spans;
}

/** The lines of each bar that nothing hides. */
export const linesOfBar = ({ beats }: BarFrame): BarLines =>
  barLinesOf(
    beats.map(({ units }) => units),
    beats.map(({ isCompound }) => isCompound),
  );

/** The chords of one voice in one bar as written values that fill it. `chords` are those that sound in the bar. */
export function piecesOf(
  chords: readonly LongChord[],
  bar: BarFrame,
  lines: BarLines,
  spans: readonly TupletSpan[],
): Piece[] {
  const stretches = stretchesOf(chords, bar);
  if (stretches.every(({ chord }) => chord === null))
    return [{ ...pieceOf({ from: 0, to: bar.units, chord: null }, 0, bar.units), isWholeBar: true }];
  const pieces: Piece[] = [];
  let done = 0;
  for (const span of spans) {
    const inner = stretches
      .flatMap(({ from, to }) => [from, to])
      .filter((place) => place > span.from && place < span.to);
    const tuplet = tupletOf(inner, span);
    if (!tuplet) continue;
    pieces.push(...plainPieces(within(stretches, done, span.from), lines));
    pieces.push(...tupletPieces(within(stretches, span.from, span.to), span, tuplet));
    done = span.to;
  }
  pieces.push(...plainPieces(within(stretches, done, bar.units), lines));
  tie(pieces, bar);
  beam(pieces, bar);
  return pieces;
}

function stretchesOf(chords: readonly LongChord[], bar: BarFrame): Stretch[] {
  const stretches: Stretch[] = [];
  let done = 0;
  for (const chord of chords) {
    const from = Math.max(0, chord.at - bar.at);
    const to = Math.min(bar.units, chord.end - bar.at);
    if (from > done) stretches.push({ from: done, to: from, chord: null });
    if (to > from) stretches.push({ from, to, chord });
    done = Math.max(done, to);
  }
  if (done < bar.units) stretches.push({ from: done, to: bar.units, chord: null });
  return stretches;
}

const within = (stretches: readonly Stretch[], from: number, to: number): Stretch[] =>
  stretches.flatMap((each) => {
    const [start, end] = [Math.max(from, each.from), Math.min(to, each.to)];
    return end > start ? [{ ...each, from: start, to: end }] : [];
  });

/** How a span is divided for a voice that changes at some places inside it; null where plain values do. */
function tupletOf(inner: readonly number[], { from, to, lines }: TupletSpan) {
  const units = to - from;
  const isPlain = (place: number) => ((place - from) * 16) % units === 0;
  if (inner.every(isPlain)) return null;
  const isThird = (place: number) => ((place - from) * 3) % units === 0;
  const actual = lines === 6 && inner.every(isThird) ? 3 : lines;
  return { actual, normal: 2 ** Math.floor(Math.log2(actual)) };
}

const pieceOf = ({ chord }: Stretch, from: number, to: number, value?: PlainValue): Piece => ({
  at: from,
  units: to - from,
  value: value ?? plainValueOf(to - from) ?? { type: 'whole', dots: 0 },
  tuplet: null,
  chord,
  isTiedFrom: false,
  isTiedTo: false,
  isWholeBar: false,
  beams: [],
});

const plainPieces = (stretches: readonly Stretch[], lines: BarLines): Piece[] =>
  stretches.flatMap((stretch) =>
    valuesOf(stretch.from, stretch.to, lines, stretch.chord === null).map(([from, to]) =>
      pieceOf(stretch, from, to),
    ),
  );

function tupletPieces(
  stretches: readonly Stretch[],
  { from: start, to: stop }: TupletSpan,
  { actual, normal }: { actual: number; normal: number },
): Piece[] {
  const line = (stop - start) / actual;
  const pieces: Piece[] = [];
  for (const stretch of stretches) {
    let from = stretch.from;
    while (stretch.to - from > 0.5) {
      // As much at once as one value holds; never over the half of six.
      let count = Math.round((stretch.to - from) / line);
      const half = start + (stop - start) / 2;
      if (actual === 6 && from < half && from + count * line > half) count = Math.round((half - from) / line);
      let value = plainValueOf((count * line * actual) / normal);
      while (!value && count > 1) value = plainValueOf((--count * line * actual) / normal);
      const to = from + Math.max(1, count) * line;
      const piece = pieceOf(stretch, from, to, value ?? { type: '128th', dots: 0 });
      pieces.push({ ...piece, tuplet: { actual, normal, starts: from === start, stops: to > stop - 0.5 } });
      from = to;
    }
  }
  return pieces;
}

/** Says which pieces are the same chord going on. */
function tie(pieces: Piece[], bar: BarFrame): void {
  pieces.forEach((piece, index) => {
    if (!piece.chord) return;
    piece.isTiedFrom = bar.at + piece.at > piece.chord.at;
    const isLast = pieces[index + 1]?.chord !== piece.chord;
    piece.isTiedTo = !isLast || piece.chord.end > bar.at + bar.units;
  });
}

/** Beams over what lies in one beat: values shorter than a quarter with no rest between. */
function beam(pieces: Piece[], bar: BarFrame): void {
  const starts = bar.beats.map(({ at }) => at - bar.at);
  const beatOf = (at: number) => starts.findLastIndex((start) => start <= at);
  let group: Piece[] = [];
  const close = () => {
    if (group.length > 1) beamGroup(group);
    group = [];
  };
  for (const piece of pieces) {
    const joins = piece.chord !== null && flagsOf(piece.value.type) > 0;
    const before = group[group.length - 1];
    if (before && (!joins || beatOf(before.at) !== beatOf(piece.at) || before.units >= QUARTER)) close();
    if (joins) group.push(piece);
  }
  close();
}

function beamGroup(group: Piece[]): void {
  const flags = group.map(({ value }) => flagsOf(value.type));
  group.forEach((piece, index) => {
    piece.beams = Array.from({ length: flags[index] }, (_, level): Beam => {
      const before = (flags[index - 1] ?? 0) > level;
      const after = (flags[index + 1] ?? 0) > level;
      if (before && after) return 'continue';
      if (after) return 'begin';
      if (before) return 'end';
      return index === 0 ? 'forward hook' : 'backward hook';
    });
  });
}
