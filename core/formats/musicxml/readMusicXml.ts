import { OrdleError } from '../../errors';
import { MARK_VALUES } from '../../steps';
import { FORTE } from './noteXml';
import { playingOrder, soundsIn } from './playingOrder';
import { childOf, childrenOf, numberOf, readXml, textOf, type XmlElement } from './xmlTree';

/** A note as it is written: places and lengths in quarters from the start, repeats expanded. */
export interface ScoreNote {
  at: number;
  length: number;
  /** As it sounds. */
  pitch: number;
  velocity: number;
  /** What is sung to it, of the first verse; a hyphen behind it where its word goes on. */
  lyric?: string;
}

export interface ScorePart {
  name: string;
  /** General MIDI program, 0-127. */
  program: number;
  isDrums: boolean;
  notes: ScoreNote[];
}

/** A written score, as it is played (with repeats, endings and jumps taken) or as it stands on paper. */
export interface ScoreMusic {
  title: string;
  parts: ScorePart[];
  /** Quarters a minute, from a place on. */
  tempos: { at: number; bpm: number }[];
  meters: { at: number; numerator: number; denominator: number }[];
  markers: { at: number; name: string }[];
  /** Where each measure starts, in quarters, and behind the last where the music ends. */
  bars: number[];
  /** Whether the first measure is a pick-up, which is called 0. */
  beginsWithPickUp: boolean;
  /** Measures on paper, from 0, in the order they are played. */
  order: number[];
  /** Where the music ends, in quarters. */
  end: number;
  /** What of it is not read, by kind, and how often it is there. */
  leftOut: ReadonlyMap<string, number>;
}

const SEMITONES: Record<string, number> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };
const UNSAID = 80;
/** A grace note sounds so long before the note it leads to, in quarters. */
const GRACE = 1 / 8;
/** What is not read, and what it is called. */
const NOT_READ: Record<string, string> = {
  slur: 'slurs',
  ornaments: 'ornaments',
  articulations: 'articulations',
  harmony: 'chord names',
  wedge: 'hairpins',
  pedal: 'pedal',
};

/**
 * Reads a MusicXML document, partwise or timewise, 3.0 to 4.0: as it is played, or each measure once. Throws
 * `score-unreadable`.
 */
export function readMusicXml(text: string, repeats: 'taken' | 'on paper' = 'taken'): ScoreMusic {
  const root = readXml(text);
  const parts = partsOf(root);
  if (parts.length === 0)
    throw new OrdleError(
      'score-unreadable',
      'This is not a score that can be read: there are no parts in it.',
    );
  const list = childrenOf(childOf(root, 'part-list'), 'score-part');
  const leftOut = new Map<string, number>();
  const playing = playingOrder(parts[0].measures);
  const order = repeats === 'taken' ? playing : [...parts[0].measures.keys()];
  const frames = frameOf(parts, order);
  const music: ScoreMusic = {
    title: textOf(childOf(root, 'work'), 'work-title') || textOf(root, 'movement-title'),
    parts: [],
    tempos: [],
    meters: [],
    markers: [],
    bars: [...frames.starts, frames.end],
    beginsWithPickUp: isPickUp(parts[0].measures.at(0)),
    order: playing,
    end: frames.end,
    leftOut,
  };
  parts.forEach(({ id, measures }, index) => {
    const head = list.find(({ attributes }) => attributes.id === id);
    music.parts.push(readPart(head, measures, order, frames.starts, index === 0 ? music : null, leftOut));
  });
  return music;
}

const isPickUp = (measure: XmlElement | undefined): boolean =>
  measure?.attributes.implicit === 'yes' || measure?.attributes.number === '0';

interface RawPart {
  id: string;
  measures: XmlElement[];
}

/** The measures of each part, of a document of either kind. */
function partsOf(root: XmlElement): RawPart[] {
  if (root.name === 'score-partwise')
    return childrenOf(root, 'part').map((part) => ({
      id: part.attributes.id ?? '',
      measures: childrenOf(part, 'measure'),
    }));
  if (root.name !== 'score-timewise') return [];
  const parts = new Map<string, XmlElement[]>();
  for (const measure of childrenOf(root, 'measure'))
    for (const part of childrenOf(measure, 'part')) {
      const id = part.attributes.id ?? '';
      const list = parts.get(id) ?? [];
      list.push({ ...measure, children: part.children });
      parts.set(id, list);
    }
  return [...parts].map(([id, measures]) => ({ id, measures }));
}

/** Where each measure that is played starts, in quarters: as long as the longest part has it. */
function frameOf(parts: readonly RawPart[], order: readonly number[]): { starts: number[]; end: number } {
  const lengths = new Float64Array(parts[0].measures.length);
  for (const { measures } of parts) {
    let divisions = 1;
    measures.forEach((measure, index) => {
      let [at, most] = [0, 0];
      for (const child of measure.children) {
        divisions = numberOf(child, 'divisions', divisions) || 1;
        const length = durationOf(child, divisions);
        if (child.name === 'backup') at = Math.max(0, at - length);
        else if (child.name === 'forward' || (child.name === 'note' && !childOf(child, 'chord')))
          at += length;
        most = Math.max(most, at);
      }
      lengths[index] = Math.max(lengths[index] ?? 0, most);
    });
  }
  let end = 0;
  const starts = order.map((measure) => {
    const start = end;
    end += lengths[measure];
    return start;
  });
  return { starts, end };
}

const durationOf = (element: XmlElement, divisions: number): number =>
  Math.max(0, numberOf(element, 'duration', 0)) / divisions;

function readPart(
  head: XmlElement | undefined,
  measures: readonly XmlElement[],
  order: readonly number[],
  starts: readonly number[],
  music: ScoreMusic | null,
  leftOut: Map<string, number>,
): ScorePart {
  const midi = childOf(head, 'midi-instrument');
  const unpitched = new Map(
    childrenOf(head, 'midi-instrument').map((each) => [
      each.attributes.id ?? '',
      numberOf(each, 'midi-unpitched', 0) - 1,
    ]),
  );
  const part: ScorePart = {
    name: textOf(head, 'part-name'),
    program: Math.min(127, Math.max(0, numberOf(midi, 'midi-program', 1) - 1)),
    isDrums: numberOf(midi, 'midi-channel', 1) === 10,
    notes: [],
  };
  let [divisions, transposed, loudness] = [1, 0, UNSAID];
  order.forEach((index, played) => {
    const measure = measures.at(index);
    if (!measure) return;
    const from = starts[played];
    let [at, last] = [0, 0];
    let graces: number[] = [];
    if (music) for (const sound of soundsIn(measure)) tempoOf(sound, music, from);
    for (const child of measure.children) {
      if (child.name === 'attributes') {
        divisions = numberOf(child, 'divisions', divisions) || 1;
        const transpose = childOf(child, 'transpose');
        if (transpose)
          transposed = numberOf(transpose, 'chromatic', 0) + 12 * numberOf(transpose, 'octave-change', 0);
        if (music) meterOf(child, music, from + at);
      } else if (child.name === 'direction') {
        loudness = loudnessOf(child) ?? loudness;
        if (music) markerOf(child, music, from + at);
      } else if (child.name === 'backup') at -= durationOf(child, divisions);
      else if (child.name === 'forward') at += durationOf(child, divisions);
      else if (child.name === 'note') readNote(child);
      tally(child);
    }

    function readNote(note: XmlElement) {
      const length = durationOf(note, divisions);
      const isChord = childOf(note, 'chord') !== undefined;
      const pitch = pitchOf(note, transposed, unpitched);
      if (childOf(note, 'unpitched')) part.isDrums = true;
      if (childOf(note, 'grace')) {
        if (pitch !== null) graces.push(pitch);
        return;
      }
      const place = from + (isChord ? last : at);
      if (pitch !== null && !childOf(note, 'cue')) {
        const said = Number(note.attributes.dynamics);
        const velocity = Number.isFinite(said) && said > 0 ? (said * FORTE) / 100 : loudness;
        graces.forEach((grace, count) =>
          part.notes.push({
            at: Math.max(0, place - GRACE * (graces.length - count)),
            length: GRACE,
            pitch: grace,
            velocity: clamped(velocity * 0.8),
          }),
        );
        graces = [];
        const lyric = lyricOf(note);
        addNote(part, note, {
          at: place,
          length,
          pitch,
          velocity: clamped(velocity),
          ...(lyric && { lyric }),
        });
      }
      if (!isChord) [last, at] = [at, at + length];
    }
  });
  part.notes.sort((a, b) => a.at - b.at || a.pitch - b.pitch);
  return part;

  function tally(element: XmlElement, depth = 0) {
    const what = NOT_READ[element.name];
    if (what) leftOut.set(what, (leftOut.get(what) ?? 0) + 1);
    if (depth < 4) for (const child of element.children) tally(child, depth + 1);
  }
}

/** The first verse sung to a note. */
function lyricOf(note: XmlElement): string {
  const lyric = childOf(note, 'lyric');
  const text = textOf(lyric, 'text').slice(0, 200);
  const goesOn = ['begin', 'middle'].includes(textOf(lyric, 'syllabic'));
  return text && goesOn ? `${text}-` : text;
}

const clamped = (velocity: number): number => Math.min(127, Math.max(1, Math.round(velocity)));

/** A note, or the rest of one that is tied on. */
function addNote({ notes }: ScorePart, element: XmlElement, note: ScoreNote) {
  const ties = childrenOf(element, 'tie').map(({ attributes }) => attributes.type);
  const open = ties.includes('stop')
    ? notes.findLast(
        (other) => other.pitch === note.pitch && Math.abs(other.at + other.length - note.at) < 1e-6,
      )
    : undefined;
  if (open) open.length += note.length;
  else if (note.length > 0) notes.push({ ...note });
}

function pitchOf(
  note: XmlElement,
  transposed: number,
  unpitched: ReadonlyMap<string, number>,
): number | null {
  const pitch = childOf(note, 'pitch');
  if (pitch) {
    const step = SEMITONES[textOf(pitch, 'step')];
    const value = step + Math.round(numberOf(pitch, 'alter', 0)) + 12 * (numberOf(pitch, 'octave', 4) + 1);
    const sounding = value + transposed;
    return Number.isFinite(sounding) && sounding >= 0 && sounding <= 127 ? sounding : null;
  }
  if (!childOf(note, 'unpitched')) return null;
  const known = unpitched.get(childOf(note, 'instrument')?.attributes.id ?? '');
  return known !== undefined && known >= 0 && known <= 127 ? known : 38;
}

function tempoOf({ attributes }: XmlElement, { tempos }: ScoreMusic, at: number) {
  const bpm = Number(attributes.tempo);
  if (bpm >= 4 && bpm <= 1000) tempos.push({ at, bpm });
}

function meterOf(attributes: XmlElement, { meters }: ScoreMusic, at: number) {
  const time = childOf(attributes, 'time');
  const beats = textOf(time, 'beats').split('+').map(Number);
  const numerator = beats.reduce((sum, each) => sum + each, 0);
  const denominator = numberOf(time, 'beat-type', 0);
  if (numerator >= 1 && numerator <= 255 && [1, 2, 4, 8, 16, 32, 64].includes(denominator))
    meters.push({ at, numerator, denominator });
}

function loudnessOf(direction: XmlElement): number | null {
  const said = Number(childOf(direction, 'sound')?.attributes.dynamics);
  if (Number.isFinite(said) && said > 0) return (said * FORTE) / 100;
  const marks = childrenOf(direction, 'direction-type').flatMap(
    (type) => childOf(type, 'dynamics')?.children ?? [],
  );
  return (
    marks
      .map(({ name }) => (MARK_VALUES as Record<string, number | undefined>)[name])
      .find((value) => value !== undefined) ?? null
  );
}

function markerOf(direction: XmlElement, { markers }: ScoreMusic, at: number) {
  for (const type of childrenOf(direction, 'direction-type')) {
    const name = textOf(type, 'rehearsal');
    if (name) markers.push({ at, name: name.slice(0, 200) });
  }
}
