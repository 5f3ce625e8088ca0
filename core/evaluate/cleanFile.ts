import {
  DRUM_CHANNEL,
  collectTempoAndMeter,
  pickEvents,
  type EventColumns,
  type MidiFile,
  type MidiTrack,
} from '../midi';
import {
  indexIds,
  joinEvents,
  joinTables,
  pickRows,
  takesOfFile,
  type Material,
  type NoteTable,
} from '../model';
import type { Step } from '../steps';
import { createTimeline, type Timeline } from '../time';
import { assembleTake } from '../assembly';
import { channelsOfParts } from '../session';
import { applySteps } from './evaluatePart';
import { portOfTake } from './portOfPart';
import { weave } from './weave';

/**
 * A file with steps applied, how many notes it had, how many changed in time, pitch, velocity or length or went, and how
 * many of those start elsewhere.
 */
export interface CleanedFile extends ChangeCount {
  file: MidiFile;
  notes: number;
}

export interface ChangeCount {
  changed: number;
  moved: number;
}

/**
 * Applies steps to every part of a file: each channel of each track is a part of its own, as when the file is opened as a
 * session. Format, division, tracks and every other event stay.
 */
export function cleanFile(file: MidiFile, steps: readonly Step[]): CleanedFile {
  const takes = takesOfFile(file, () => '');
  let notesInAll = 0;
  let nextPiece = 0;
  const tracks = takes.map((take, index) => {
    const time = file.format === 2 ? collectTempoAndMeter([file.tracks[index]]) : take;
    const timeline = createTimeline(file.division, time.tempos, time.meters);
    // Numbered as when the file is opened as a session, so that what is drawn by chance is the same.
    const channels = channelsOfParts(take, file.format !== 2 && index === 0);
    const first = nextPiece;
    nextPiece += channels.length;
    const assembly = assembleTake(take, (channel) => first + Math.max(0, channels.indexOf(channel + 1)));
    notesInAll += take.notes.length;
    const { notes, events } = assembly.material;
    const parts = byChannel(notes, events).map(({ channel, table }): FilePart => ({
      name: take.name.trim(),
      track: file.format === 2 ? index : 0,
      channel,
      timeline,
      material: { notes: table, events },
      alone: null,
      cleaned: null,
      port: portOfTake(take),
    }));
    return { take, assembly, parts };
  });
  const parts = tracks.flatMap((track) => track.parts);
  for (const part of parts) cleanPart(part, parts, steps, []);
  const count = { changed: 0, moved: 0 };
  const cleanedTracks = tracks.map(({ take, assembly, parts: own }): MidiTrack => {
    const { notes, events } = assembly.material;
    const results = own.map((part) => part.cleaned ?? part.material);
    const moved = results.find((result) => result.events !== events)?.events;
    // Steps that take controllers along do so for one channel; each channel's events come from its own part.
    const woven: Material = {
      notes: results.length === 0 ? notes : joinTables(results.map((result) => result.notes)),
      // A track of one channel is one part, and its events are the part's.
      events: !moved ? events : own.length === 1 ? results[0].events : mergeChannels(own, results),
    };
    const { changed, moved: elsewhere } = countChanged(notes, woven.notes);
    count.changed += changed;
    count.moved += elsewhere;
    const out = weave([{ assembly, material: woven, firstOrder: 0 }]);
    const last = out.length === 0 ? 0 : out.tick[out.length - 1];
    return { events: out, endTick: Math.max(take.endTick, last) };
  });
  return { file: { ...file, tracks: cleanedTracks }, notes: notesInAll, ...count };
}

/** One channel of one track: a part, as when the file is opened as a session. */
interface FilePart {
  name: string;
  /** Parts of one number sound together: the tracks of format 2 are pieces of their own. */
  track: number;
  channel: number;
  port: number;
  timeline: Timeline;
  material: Material;
  /** What the steps make of it when it sees no events but its own, and then what they make of it. */
  alone: Material | null;
  cleaned: Material | null;
}

function cleanPart(
  part: FilePart,
  all: readonly FilePart[],
  steps: readonly Step[],
  waiting: readonly FilePart[],
  alone = false,
): Material {
  const known = alone ? part.alone : part.cleaned;
  if (known) return known;
  const otherPart = (name: string): NoteTable | null => {
    const found = all.find((other) => other.name === name);
    // The part itself, and parts that wait for this one, are heard as they are: the same recipe runs on every part of a file.
    if (!found || found === part) return null;
    if (waiting.includes(found)) return found.material.notes;
    return cleanPart(found, all, steps, [...waiting, part], true).notes;
  };
  const others = all.filter(
    (other) =>
      other !== part &&
      other.channel === part.channel &&
      other.port === part.port &&
      other.track === part.track,
  );
  const beside = () =>
    alone ? [] : others.map((other) => cleanPart(other, all, steps, [...waiting, part], true));
  const cleaned = applySteps(part.material, steps, {
    timeline: part.timeline,
    isDrums: part.channel === DRUM_CHANNEL,
    channel: part.channel,
    otherPart,
    beside,
  });
  if (alone) part.alone = cleaned;
  else part.cleaned = cleaned;
  return cleaned;
}

/** The events of a track where parts moved those of their channels: each channel's from its part, the rest as they were. */
function mergeChannels(parts: readonly FilePart[], results: readonly Material[]): EventColumns {
  const channels = new Set(parts.map(({ channel }) => channel));
  const rowsOf = (list: EventColumns, wanted: (status: number) => boolean) =>
    Array.from({ length: list.length }, (_, row) => row).filter((row) => wanted(list.status[row]));
  // What belongs to no channel goes with the first part, as it does in a session.
  const first = results[0].events;
  const rest = rowsOf(first, (status) => status >= 0xf0 || !channels.has(status & 15));
  const lists = [
    { events: pickEvents(first, rest), order: Float64Array.from(rest) },
    ...results.map((result, index) => {
      const rows = rowsOf(result.events, (status) => status < 0xf0 && (status & 15) === parts[index].channel);
      return { events: pickEvents(result.events, rows), order: Float64Array.from(rows) };
    }),
  ];
  return joinEvents(lists).events;
}

/** The notes of each channel that has notes or events; a channel of controllers alone is a part too, as in a session. */
function byChannel(notes: NoteTable, events: EventColumns): { channel: number; table: NoteTable }[] {
  const counts = new Uint32Array(16);
  const inOrder: number[] = [];
  const seen = (channel: number) => {
    if (!inOrder.includes(channel)) inOrder.push(channel);
  };
  for (let row = 0; row < notes.length; row++)
    if (counts[notes.channel[row]]++ === 0) seen(notes.channel[row]);
  for (let row = 0; row < events.length; row++) if (events.status[row] < 0xf0) seen(events.status[row] & 15);
  return inOrder.map((channel) => {
    if (counts[channel] === notes.length) return { channel, table: notes };
    const rows = new Uint32Array(counts[channel]);
    let count = 0;
    for (let row = 0; row < notes.length; row++) if (notes.channel[row] === channel) rows[count++] = row;
    return { channel, table: pickRows(notes, rows) };
  });
}

/** How many notes of `before` are missing from `after` or differ there, and how many start elsewhere, by the time they reach a file. */
export function countChanged(before: NoteTable, after: NoteTable): ChangeCount {
  if (before === after) return { changed: 0, moved: 0 };
  const index = indexIds(after.id);
  const { id, start, end, pitch, velocity } = before;
  let [changed, moved] = [0, 0];
  for (let row = 0; row < before.length; row++) {
    const other = index.rowOf(id[row]);
    if (other < 0) {
      changed++;
      continue;
    }
    const isElsewhere = Math.round(start[row]) !== Math.round(after.start[other]);
    if (isElsewhere) moved++;
    if (
      isElsewhere ||
      Math.round(end[row]) !== Math.round(after.end[other]) ||
      pitch[row] !== after.pitch[other] ||
      Math.round(velocity[row]) !== Math.round(after.velocity[other])
    )
      changed++;
  }
  return { changed, moved };
}
