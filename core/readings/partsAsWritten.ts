import { OrdleError } from '../errors';
import { estimateKey, harmonyOf } from '../analysis';
import { PEDAL_LANES, footMoves, readLane } from '../curves';
import { markersOf, type Chosen } from '../evaluate';
import { joinTables, type NoteTable, type Take } from '../model';
import { notate, type Mark, type WrittenPart } from '../notation';
import { listOf, type Part } from '../session';
import { firstAtOrAfter } from '../time';
import { DYNAMIC_MARKS, isCurve, type PlacedMark } from '../steps';
import { META, META_LYRIC, decodeText, payloadOf, type EventColumns } from '../midi';

/** More notes than this take minutes and gigabytes to be written down, and nobody reads them. */
const MOST_NOTES = 200_000;

/**
 * Chosen parts as notation, whole, each by its own settings, with the markers over the first, dynamics by the marks of
 * its steps and the pedal by its presses. Parts without notes are left out. Throws `too-many-to-write`.
 */
export function partsAsWritten(
  { session, timeline, version, parts }: Chosen,
  takes: (key: string) => Take,
): { partId: string; written: WrittenPart }[] {
  const markers = markersOf(session, takes);
  const materials = parts.flatMap(({ part, material: { notes, events } }) =>
    notes.length === 0 ? [] : [{ part, notes, events }],
  );
  const count = materials.reduce((sum, { notes }) => sum + notes.length, 0);
  if (count > MOST_NOTES)
    throw new OrdleError(
      'too-many-to-write',
      `These parts have ${count.toLocaleString('en')} notes; up to ${MOST_NOTES.toLocaleString('en')} are written down at once. Choose fewer parts.`,
    );
  // What is played together is in one key.
  const pitched = materials.filter(({ part }) => !part.sound.drums).map(({ notes }) => notes);
  const key = pitched.length === 0 ? undefined : estimateKey(joinTables(pitched))?.key;
  const harmony = harmonyOf(pitched, timeline);
  let isFirst = true;
  return materials.map(({ part, notes, events }) => {
    const marks = [
      ...(isFirst ? markers.map(({ tick, name }): Mark => ({ tick, kind: 'rehearsal', words: name })) : []),
      ...(version === 'played' ? [] : dynamicsOf(part)),
      ...(part.sound.drums ? [] : pedalOf(events, part.channel - 1)),
    ];
    isFirst = false;
    const input = {
      name: part.name,
      notes,
      isDrums: part.sound.drums,
      timeline,
      marks,
      key,
      harmony,
      lyrics: lyricsOf(notes, events, timeline.ticksPerQuarter),
    };
    return { partId: part.id, written: notate(input, part.notation) };
  });
}

/** The marks of the steps that are on, as they stand over the notes. */
function dynamicsOf({ steps }: Part): Mark[] {
  const placed = listOf(steps).flatMap(({ step }): PlacedMark[] =>
    step.on && isCurve(step) && step.op === 'marks' ? step.marks : [],
  );
  placed.sort((a, b) => a.at - b.at);
  const loudness = (mark: PlacedMark | undefined) => (mark ? DYNAMIC_MARKS.indexOf(mark.mark) : -1);
  return placed.flatMap((mark, index): Mark[] => {
    const next = placed[index + 1];
    const marks: Mark[] = [{ tick: mark.at, kind: 'dynamic', words: mark.mark }];
    if (mark.hairpin && next && loudness(next) !== loudness(mark))
      marks.push(
        { tick: mark.at, kind: loudness(next) > loudness(mark) ? 'crescendo' : 'diminuendo' },
        { tick: next.at, kind: 'hairpin-end' },
      );
    return marks;
  });
}

/** A syllable belongs to the note that starts nearest to it, within so many quarters. */
const NEAR_LYRIC = 0.25;

/** What is sung, by the id of the note it is sung to: each note has one syllable, the first that is nearest to it. */
function lyricsOf(notes: NoteTable, events: EventColumns, ticksPerQuarter: number): Map<number, string> {
  const lyrics = new Map<number, string>();
  for (let row = 0; row < events.length; row++) {
    if (events.status[row] !== META || events.data1[row] !== META_LYRIC) continue;
    const text = decodeText(payloadOf(events, row)).replace(/[\r\n]/g, '');
    const behind = firstAtOrAfter(notes.start, events.tick[row]);
    const near = [behind - 1, behind].filter((at) => at >= 0 && at < notes.length);
    near.sort(
      (a, b) => Math.abs(notes.start[a] - events.tick[row]) - Math.abs(notes.start[b] - events.tick[row]),
    );
    const [nearest] = near;
    if (nearest === undefined || text.trim() === '') continue;
    const isNear = Math.abs(notes.start[nearest] - events.tick[row]) <= NEAR_LYRIC * ticksPerQuarter;
    const id = notes.id[nearest];
    if (isNear && !lyrics.has(id)) lyrics.set(id, text);
  }
  return lyrics;
}

/** Where the sustain pedal goes down and comes up. */
function pedalOf(events: EventColumns, channel: number): Mark[] {
  const [lane] = PEDAL_LANES;
  return footMoves(readLane(events, lane, channel)).flatMap(({ start, end }): Mark[] => [
    { tick: start, kind: 'pedal-down' },
    { tick: end, kind: 'pedal-up' },
  ]);
}
