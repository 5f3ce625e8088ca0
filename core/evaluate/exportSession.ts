import { OrdleError } from '../errors';
import {
  META,
  META_TRACK_NAME,
  createEventBuilder,
  decodeText,
  encodeText,
  payloadOf,
  pickEvents,
  programName,
  trackName,
  type EventColumns,
  type MidiFile,
  type MidiTrack,
} from '../midi';
import { channelsOf, listOf, isNameOnImport, type Part, type Session } from '../session';
import { applyStep, createStep } from '../steps';
import type { Division, Timeline } from '../time';
import { joinEvents, type Material, type Take } from '../model';
import { conductorOf, isNameEvent, orderOfTake, replacedBy, writtenAnew } from './conductor';
import { takesIn, type Evaluator } from './evaluatePart';
import { chosenParts, type Chosen, type PartsChoice } from './chosenParts';
import { eventPlaces } from './eventPlaces';
import { carriedAlong, fromItsStart, sessionOfExcerpt } from './excerpts';
import { finerList, finerShare, ticksForEach } from './finerTicks';
import { groupedByTrack } from './sourceTracks';
import { weave, type WovenPart } from './weave';

/** How chosen parts are laid into a Standard MIDI File. */
export interface MidiLayout {
  format: 0 | 1;
  /**
   * What becomes of notes of one pitch that overlap in a part: written as they are, or the earlier ends where the
   * later begins, so that every reader pairs them alike.
   */
  overlaps?: 'keep' | 'cut';
  /** In format 1: a track for each part, or parts that came from one track in one track again. */
  tracks?: 'parts' | 'source';
  /** Ticks of a quarter; without it those of the session, or finer where that would move what lies in real time. */
  division?: number;
  /** Without bank selection and program changes, and without names of tracks. */
  leaves?: { programs?: boolean; names?: boolean };
}

/**
 * What is to be written: ids of parts, cleaned or as played, in format 0 or 1, as it came or a track a part.
 *
 * @public
 */
export interface ExportOptions extends MidiLayout, PartsChoice {}

/** A session of one file cleaned and written as that file came: in its format, parts of one track in one track. */
export const optionsAsItCame = (format: number, session: Session): ExportOptions => ({
  format: format === 0 ? 0 : 1,
  version: 'cleaned',
  tracks: 'source',
  parts: session.parts.order,
});

/**
 * The session or some of its parts (by id), cleaned or as played, as a Standard MIDI File. `takes` gives what a key of
 * a take stands for. Throws OrdleError `nothing-to-export` where no part is chosen, `division` where another one is
 * asked for of music that is timed by film frames, and as working the parts out does.
 *
 * @public
 */
export const exportSession = (
  session: Session,
  options: ExportOptions,
  evaluator: Pick<Evaluator, 'evaluate'>,
  takes: (key: string) => Take,
): MidiFile => weaveFile(chosenParts(session, options, evaluator), options, takes);

/**
 * Chosen parts as a Standard MIDI File. Format 1: a track of tempo, meter and markers, then a track for each part, or
 * as the parts came. Format 0: all of it in one track. Some bars alone begin at the start of the file. Throws
 * `division` where another one is asked for of music that is timed by film frames.
 */
export function weaveFile(chosen: Chosen, layout: MidiLayout, takes: (key: string) => Take): MidiFile {
  const session = sessionOfExcerpt(chosen, takes);
  const anew = writtenAnew(session, takes);
  const times = ticksWritten(chosen, layout, takes);
  const conductor = conductorOf(session, takes);
  const isAllKept = session.conductor !== null && !anew.tempos && !anew.meters && !anew.markers;
  const isReplaced = replacedBy(anew, session);
  const all = chosen.excerpt ? joinEvents([carriedAlong(chosen, takes), conductor.list]) : conductor.list;
  const list = finerList(all, times);
  const division = finerDivision(session.division, times);
  const woven = chosen.parts.map((own) => {
    const { part, assembly } = own;
    const material =
      layout.overlaps === 'cut' ? withoutOverlaps(own.material, part, chosen.timeline) : own.material;
    const firstOrder = orderOfTake(session, takesIn(part)[0]);
    const share: WovenPart = fromItsStart({ assembly, material, firstOrder }, chosen);
    // What the session writes anew the parts must not bring too.
    const kept = isAllKept ? share : withoutEvents(share, isReplaced);
    const { programs, names } = layout.leaves ?? {};
    const bare = programs ? withoutEvents(kept, choosesSound) : kept;
    return { part, share: finerShare(names ? withoutEvents(bare, isNameEvent) : bare, times) };
  });
  const excerptEnd = chosen.excerpt ? chosen.excerpt.to - chosen.excerpt.from : 0;
  const conductorEnd = Math.round(Math.max(conductor.endTick, excerptEnd) * times);
  const endTick = Math.max(conductorEnd, ...woven.map(({ share }) => Math.round(share.assembly.endTick)));
  if (layout.format === 0) {
    const shares = woven.map(({ share }) => withoutEvents(share, isNameEvent));
    return {
      format: 0,
      division,
      tracks: [trackOf(weave(shares, [list]), endTick)],
    };
  }
  const groups =
    layout.tracks === 'source'
      ? groupedByTrack(woven)
      : woven.map((item) => ({ track: null, items: [item] }));
  // A track that only conducts makes no part: one of the same content is another.
  const conducting =
    session.conductor?.events === 'timed'
      ? groups.find(({ track }) => track === session.conductor?.take)
      : undefined;
  const first = conducting
    ? trackOf(
        weave(
          conducting.items.map(({ share }) => share),
          [list],
        ),
        endOf(conducting.items, conductorEnd),
      )
    : trackOf(list.events, conductorEnd);
  const rest = groups
    .filter((group) => group !== conducting)
    .map(({ items }) => {
      const [{ part }] = items;
      // A track of several parts keeps its own name.
      const name = items.length > 1 || layout.leaves?.names ? null : nameToWrite(part, takes);
      const events = weave(items.map(({ share }) => share));
      return trackOf(name === null ? events : named(events, name), endOf(items, excerptEnd * times));
    });
  return { format: 1, division, tracks: [first, ...rest] };
}

/**
 * How many ticks are written for each of the session's: those of the division asked for, or else as few as keep what
 * lies in real time. Throws `division` as `weaveFile`.
 */
export function ticksWritten(
  { session, parts }: Chosen,
  { division }: Pick<MidiLayout, 'division'>,
  takes: (key: string) => Take,
): number {
  if (division === undefined)
    return ticksForEach(
      session,
      parts.map(({ part }) => part.id),
      writtenAnew(session, takes).tempos,
    );
  if (session.division.kind !== 'metrical')
    throw new OrdleError(
      'division',
      'This music is timed by film frames, so it has no ticks of a quarter to choose. Leave the division as it came.',
    );
  return division / session.division.ticksPerQuarter;
}

const choosesSound = (events: EventColumns, row: number): boolean => {
  const kind = events.status[row] & 0xf0;
  return kind === 0xc0 || (kind === 0xb0 && (events.data1[row] === 0 || events.data1[row] === 32));
};

const finerDivision = (division: Division, times: number): Division =>
  division.kind === 'metrical'
    ? { ...division, ticksPerQuarter: Math.round(division.ticksPerQuarter * times) }
    : division;

/** The division chosen parts are written in: the session's own, the one asked for, or a finer one. */
export const divisionWritten = (
  chosen: Chosen,
  layout: Pick<MidiLayout, 'division'>,
  takes: (key: string) => Take,
): Division => finerDivision(chosen.session.division, ticksWritten(chosen, layout, takes));

/** Notes of one pitch cut where the next begins; what does not overlap stays the same. */
function withoutOverlaps(material: Material, part: Part, timeline: Timeline): Material {
  return applyStep(material, createStep('length'), { timeline, isDrums: part.sound.drums });
}

const endOf = (items: readonly { share: WovenPart }[], least: number): number =>
  items.reduce((latest, { share }) => Math.max(latest, Math.round(share.assembly.endTick)), least);

function trackOf(events: EventColumns, endTick: number): MidiTrack {
  const last = events.length === 0 ? 0 : events.tick[events.length - 1];
  return { events, endTick: Math.max(endTick, last) };
}

/** The share without some of its events, the places of the others kept. */
function withoutEvents(share: WovenPart, drop: (events: EventColumns, row: number) => boolean): WovenPart {
  const { events } = share.material;
  const rows: number[] = [];
  for (let row = 0; row < events.length; row++) if (!drop(events, row)) rows.push(row);
  if (rows.length === events.length) return share;
  const order = share.order ?? eventPlaces(share.assembly, share.material);
  return {
    ...share,
    material: { ...share.material, events: pickEvents(events, rows) },
    order: Float64Array.from(rows, (row) => order[row]),
  };
}

/**
 * The name to write for a part: one a person gave, or that of its track. What was brought in without one, or with a
 * blank one, goes out so: null.
 */
export function nameToWrite(part: Part, takes: (key: string) => Take): string | null {
  // What was made permanent is a take of its own, which is called as the part was.
  if (part.folded.length > 0)
    return part.name === (part.sound.drums ? 'Drums' : programName(part.sound.program)) ? null : part.name;
  const pieces = listOf(part.layers).flatMap(({ pieces: own }) => listOf(own));
  // Of several takes the name may be that of any of their tracks.
  const looked = new Set<string>();
  for (const { source, split } of pieces) {
    if (!('take' in source)) break;
    const key = `${source.take} ${split?.label}`;
    if (looked.has(key)) continue;
    looked.add(key);
    const take = takes(source.take);
    const channels = channelsOf(take);
    const shared = split?.by === 'channel' && channels.length > 1;
    // The channel it was brought in on, whatever was chosen since.
    const channel =
      split?.by === 'channel' ? Number(split.label.slice('ch'.length)) : (channels[0] ?? part.channel);
    const own = trackName(take.events).trim();
    // What was recorded here, or made permanent, has no name of its own to go by.
    if (take.name.trim() !== own || !isNameOnImport(part.name, { take, channel, shared })) continue;
    return !shared && own !== '' ? own : null;
  }
  return part.name;
}

/** The track with a name: the old name event where it says the same, else one at the start. */
function named(events: EventColumns, name: string): EventColumns {
  const builder = createEventBuilder(events.length + 1);
  let kept = false;
  for (let row = 0; row < events.length; row++)
    if (isNameEvent(events, row) && decodeText(payloadOf(events, row)).trim() === name) kept = true;
  if (!kept) builder.add(0, META, META_TRACK_NAME, 0, encodeText(name));
  for (let row = 0; row < events.length; row++) {
    if (!kept && isNameEvent(events, row)) continue;
    const payload = events.payload[row] === 0 ? undefined : payloadOf(events, row);
    builder.add(events.tick[row], events.status[row], events.data1[row], events.data2[row], payload);
  }
  return builder.build();
}
