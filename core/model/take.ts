import {
  NEVER_RELEASED,
  collectTempoAndMeter,
  pairNotes,
  trackName,
  type EventColumns,
  type MidiFile,
  type NotePairs,
} from '../midi';
import type { Division, MeterChange, TempoChange } from '../time';
import { contentKey } from './contentKey';
import { emptyNoteTable, type NoteTable } from './noteTable';

/**
 * One performance as it was played; never changed. It holds every event of a track verbatim with the time it was
 * captured under, and the notes found in them: row n of `notes` has id n and was made by the events `pairs.on[n]`
 * and `pairs.off[n]`. `key` is the SHA-256 of the content, so the same performance is stored once.
 *
 * @public
 */
export interface Take {
  key: string;
  name: string;
  division: Division;
  tempos: TempoChange[];
  meters: MeterChange[];
  events: EventColumns;
  endTick: number;
  /**
   * The row of each note's release, in order of the strokes, where that is not first-in first-out: of notes of one
   * pitch one may lie within another.
   */
  releases?: Uint32Array;
  pairs: NotePairs;
  notes: NoteTable;
}

/** The part of a take that has to be stored; the notes are found again from the events. */
export type StoredTake = Omit<Take, 'pairs' | 'notes'>;

/** All of a stored take but its key, which is worked out of it. */
export type TakeContent = Omit<StoredTake, 'key'>;

/** The key of a track's take, by what it holds or its place in the file. */
export type KeyOfTrack = (content: TakeContent, place: number) => string;

/**
 * Every track of a file as a take. In format 2 each track carries its own tempo and meter. `keyOf` gives the key; a
 * file that is only cleaned needs none, and working one out costs more than reading.
 */
export function takesOfFile(file: MidiFile, keyOf: KeyOfTrack = contentKey): Take[] {
  const shared = collectTempoAndMeter(file.tracks);
  return file.tracks.map((track, place) => {
    const time = file.format === 2 ? collectTempoAndMeter([track]) : shared;
    const content = {
      name: trackName(track.events),
      division: file.division,
      ...time,
      events: track.events,
      endTick: track.endTick,
    };
    return restoreTake({ key: keyOf(content, place), ...content });
  });
}

/** A whole take from its stored part. */
export function restoreTake(stored: StoredTake): Take {
  const pairs = pairsOf(stored);
  return { ...stored, pairs, notes: notesOf(stored.events, pairs, stored.endTick) };
}

function pairsOf({ events, releases }: StoredTake): NotePairs {
  const pairs = pairNotes(events);
  return releases ? { on: pairs.on, off: releases } : pairs;
}

/**
 * Whether every note has a release of its own channel and pitch after its stroke (or none), and no two the same: what
 * `releases` of a take have to be.
 */
export function areReleases(events: EventColumns, releases: Uint32Array): boolean {
  const { on } = pairNotes(events);
  if (releases.length !== on.length) return false;
  const used = new Set<number>();
  return releases.every((off, note) => {
    if (off === NEVER_RELEASED) return true;
    if (off <= on[note] || off >= events.length || used.has(off)) return false;
    used.add(off);
    const kind = events.status[off] >> 4;
    const isRelease = kind === 8 || (kind === 9 && events.data2[off] === 0);
    return (
      isRelease &&
      (events.status[off] & 15) === (events.status[on[note]] & 15) &&
      events.data1[off] === events.data1[on[note]]
    );
  });
}

/** The notes of a track as a table; ids are places in the take. A note released at its own start keeps that length. */
export function notesOf(events: EventColumns, pairs: NotePairs, endTick: number): NoteTable {
  const table = emptyNoteTable(pairs.on.length);
  const { id, start, end, pitch, velocity, release, channel, length } = table;
  const { tick, status, data1, data2 } = events;
  const { on: ons, off: offs } = pairs;
  for (let note = 0; note < length; note++) {
    const on = ons[note];
    const off = offs[note];
    id[note] = note;
    start[note] = tick[on];
    end[note] = off === NEVER_RELEASED ? Math.max(endTick, tick[on] + 1) : tick[off];
    pitch[note] = data1[on];
    velocity[note] = data2[on];
    release[note] = off !== NEVER_RELEASED && status[off] >> 4 === 8 ? data2[off] : 64;
    channel[note] = status[on] & 15;
  }
  return table;
}

/** A take as it is stored: only what cannot be computed again. */
export function storedPart({
  key,
  name,
  division,
  tempos,
  meters,
  events,
  endTick,
  releases,
}: Take): StoredTake {
  return { key, name, division, tempos, meters, events, endTick, ...(releases && { releases }) };
}
