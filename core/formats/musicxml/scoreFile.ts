import { strFromU8, unzipSync } from 'fflate';
import { OrdleError } from '../../errors';
import {
  DRUM_CHANNEL,
  META,
  META_LYRIC,
  META_MARKER,
  META_TEMPO,
  META_TIME_SIGNATURE,
  META_TRACK_NAME,
  createEventBuilder,
  encodeText,
  readMidi,
  type MidiFile,
  type MidiTrack,
} from '../../midi';
import {
  barsOfMeter,
  rowsOfNotes,
  scoreOf,
  type Score,
  type ScoreBars,
  type ScoreRow,
} from '../../following';
import { takesOfFile } from '../../model';
import { createTimeline, microsecondsOf } from '../../time';
import { readMusicXml, type ScoreMusic, type ScorePart } from './readMusicXml';
import { childOf, childrenOf, readXml } from './xmlTree';

/** Ticks a quarter: thirds, fifths and sevenths of all values down to 1/32 are whole. */
const QUARTER = 6720;
/** A score packed tighter than this is no score, in bytes. */
const MOST_BYTES = 64e6;

const isZip = (bytes: Uint8Array) => bytes[0] === 0x50 && bytes[1] === 0x4b;

/** Whether a file may be a written score, plain or compressed: by its first bytes. */
export function isScoreFile(bytes: Uint8Array): boolean {
  if (isZip(bytes)) return true;
  const start = String.fromCharCode(...bytes.subarray(0, 64)).replace(/\0/g, '');
  return /^(?:ÿþ|þÿ|ï»¿)?\s*<(?:\?xml|!DOCTYPE|score-)/i.test(start);
}

/** The text of a score's document, out of its container where it is compressed. Throws `score-unreadable`. */
export function scoreText(bytes: Uint8Array): string {
  if (!isZip(bytes)) return decoded(bytes);
  try {
    const files = unzipSync(bytes, { filter: ({ originalSize }) => originalSize <= MOST_BYTES });
    const container = files['META-INF/container.xml'];
    const [root] = container
      ? childrenOf(childOf(readXml(strFromU8(container)), 'rootfiles'), 'rootfile')
      : [];
    const named = root?.attributes['full-path'];
    const name = named ?? Object.keys(files).find((each) => /^[^/]+\.(?:musicxml|xml)$/i.test(each));
    const score = name === undefined ? undefined : files[name];
    if (score) return decoded(score);
  } catch (error) {
    if (error instanceof OrdleError) throw error;
  }
  throw new OrdleError(
    'score-unreadable',
    'This is not a score that can be read: there is none in this zip file.',
  );
}

/** UTF-8, or UTF-16 by its mark. */
function decoded(bytes: Uint8Array): string {
  const isLittle = bytes[0] === 0xff && bytes[1] === 0xfe;
  if (!isLittle && !(bytes[0] === 0xfe && bytes[1] === 0xff)) return strFromU8(bytes).replace(/^\ufeff/, '');
  const letters: string[] = [];
  for (let at = 2; at + 1 < bytes.length; at += 2)
    letters.push(
      String.fromCharCode(isLittle ? bytes[at] | (bytes[at + 1] << 8) : (bytes[at] << 8) | bytes[at + 1]),
    );
  return letters.join('');
}

/** A written score as a MIDI file: what is written, at the tempo it says, with repeats taken. */
export function midiOfScore(music: ScoreMusic): MidiFile {
  const channels = music.parts.map(({ isDrums }, index) =>
    isDrums ? DRUM_CHANNEL : PITCHED[index % PITCHED.length],
  );
  return {
    format: 1,
    division: { kind: 'metrical', ticksPerQuarter: QUARTER },
    tracks: [
      conductorOf(music),
      ...music.parts.map((part, index) => trackOf(part, channels[index], music.end)),
    ],
  };
}

/** Channels of parts with pitches: all but that of drums. */
const PITCHED = Array.from({ length: 16 }, (_, channel) => channel).filter(
  (channel) => channel !== DRUM_CHANNEL,
);

const tickOf = (quarters: number): number => Math.round(quarters * QUARTER);

function conductorOf({ tempos, meters, markers, end, title }: ScoreMusic): MidiTrack {
  const builder = createEventBuilder();
  const rows: { tick: number; type: number; bytes: Uint8Array }[] = [];
  if (title) rows.push({ tick: 0, type: META_TRACK_NAME, bytes: encodeText(title) });
  for (const { at, bpm } of tempos) {
    const value = Math.min(0xffffff, Math.max(1, Math.round(microsecondsOf(bpm))));
    rows.push({
      tick: tickOf(at),
      type: META_TEMPO,
      bytes: Uint8Array.of(value >> 16, (value >> 8) & 255, value & 255),
    });
  }
  for (const { at, numerator, denominator } of meters)
    rows.push({
      tick: tickOf(at),
      type: META_TIME_SIGNATURE,
      bytes: Uint8Array.of(numerator, Math.log2(denominator), 24, 8),
    });
  for (const { at, name } of markers)
    rows.push({ tick: tickOf(at), type: META_MARKER, bytes: encodeText(name) });
  rows.sort((a, b) => a.tick - b.tick);
  for (const { tick, type, bytes } of rows) builder.add(tick, META, type, 0, bytes);
  return { events: builder.build(), endTick: tickOf(end) };
}

function trackOf({ name, program, isDrums, notes }: ScorePart, channel: number, end: number): MidiTrack {
  const builder = createEventBuilder(2 * notes.length + 2);
  builder.add(0, META, META_TRACK_NAME, 0, encodeText(name));
  if (!isDrums) builder.add(0, 0xc0 | channel, program, 0);
  const rows = notes.flatMap(({ at, length, pitch, velocity }) => [
    { tick: tickOf(at), status: 0x90 | channel, pitch, value: velocity },
    { tick: Math.max(tickOf(at) + 1, tickOf(at + length)), status: 0x80 | channel, pitch, value: 64 },
  ]);
  // What ends at a tick ends before what begins there.
  rows.sort((a, b) => a.tick - b.tick || (a.status & 0xf0) - (b.status & 0xf0));
  const sung = notes.filter(({ lyric }) => lyric !== undefined);
  let next = 0;
  for (const { tick, status, pitch, value } of rows) {
    // A syllable stands before the stroke it is sung to.
    while (next < sung.length && tickOf(sung[next].at) <= tick) {
      builder.add(tickOf(sung[next].at), META, META_LYRIC, 0, encodeText(sung[next].lyric ?? ''));
      next++;
    }
    builder.add(tick, status, pitch, value);
  }
  return { events: builder.build(), endTick: Math.max(tickOf(end), rows.at(-1)?.tick ?? 0) };
}

/** What of a score was not read, in a sentence; null where all of it was. */
export function leftOutInWords({ leftOut }: ScoreMusic): string | null {
  if (leftOut.size === 0) return null;
  const list = [...leftOut].map(([what, count]) => `${what} (${count})`);
  return `Of this written score is not read: ${list.join(', ')}.`;
}

/** What a file says is written: of each of its parts, and of all together. */
export interface WrittenMusic extends ScoreBars {
  /** What the piece is called; empty where it says nothing. */
  title: string;
  parts: { name: string; isDrums: boolean; rows: ScoreRow[] }[];
}

/**
 * What is written in a score, its repeats not taken, or in a MIDI file, taken as it is written. Throws as the readers
 * of both do, and `nothing-written` where there are no notes.
 */
export function readWritten(bytes: Uint8Array): WrittenMusic {
  const written = isScoreFile(bytes) ? writtenInScore(bytes) : writtenInMidi(bytes);
  if (written.parts.length === 0)
    throw new OrdleError('nothing-written', 'There are no notes in it, so there is nothing to follow.');
  return written;
}

/** Some parts of what is written, or all, as one score. */
export function scoreOfWritten(written: WrittenMusic, which?: number): Score {
  const { parts } = written;
  const chosen = which === undefined ? parts : [parts[which]];
  return scoreOf(
    chosen.flatMap(({ rows }) => rows),
    written,
  );
}

function writtenInScore(bytes: Uint8Array): WrittenMusic {
  const music = readMusicXml(scoreText(bytes), 'on paper');
  const { title, bars, meters, order } = music;
  const parts = music.parts
    .filter(({ notes }) => notes.length > 0)
    .map(({ name, isDrums, notes }) => ({ name, isDrums, rows: notes }));
  return { title, parts, bars, meters, firstBar: music.beginsWithPickUp ? 0 : 1, order };
}

function writtenInMidi(bytes: Uint8Array): WrittenMusic {
  const { file } = readMidi(bytes);
  const takes = takesOfFile(file, () => '');
  const { meter, ticksPerQuarter } = createTimeline(file.division, takes[0].tempos, takes[0].meters);
  const parts = takes.flatMap(({ name, notes }) => {
    const rows = rowsOfNotes(notes, ticksPerQuarter);
    return rows.length > 0 ? [{ name, isDrums: notes.channel[0] === DRUM_CHANNEL, rows }] : [];
  });
  const last = parts.flatMap(({ rows }) => rows).reduce((most, { at }) => Math.max(most, at), 0);
  return { title: '', parts, ...barsOfMeter(meter, ticksPerQuarter, last) };
}

/**
 * The bytes of a MIDI file, or of a written score (MusicXML, plain or compressed) read as one, repeats taken. Throws
 * OrdleError as `readMidi` does, and `score-unreadable` where a score cannot be read.
 *
 * @public
 */
export function readMusic(bytes: Uint8Array): ReturnType<typeof readMidi> {
  if (!isScoreFile(bytes)) return readMidi(bytes);
  const music = readMusicXml(scoreText(bytes));
  const told = leftOutInWords(music);
  return {
    file: midiOfScore(music),
    repairs: told === null ? [] : [{ code: 'left-out', message: told, track: -1, byte: 0 }],
  };
}
