import { DRUM_CHANNEL, collectTempoAndMeter, type MidiFile, type MidiTrack } from '../midi';
import { joinTables, pickRows, takesOfFile, type Material, type NoteTable } from '../model';
import type { Step } from '../steps';
import { createTimeline } from '../time';
import { assembleTake } from './assemble';
import { applySteps } from './evaluatePart';
import { weave } from './weave';

/** A file with steps applied, and how many of its notes moved in time, pitch, velocity or length, or went. */
export interface CleanedFile {
  file: MidiFile;
  notes: number;
  changed: number;
}

/**
 * Applies steps to every part of a file: each channel of each track is a part of its own, as when the file is opened as a
 * session. Format, division, tracks and every other event stay.
 */
export function cleanFile(file: MidiFile, steps: readonly Step[]): CleanedFile {
  const takes = takesOfFile(file);
  let firstNoteId = 0;
  let changed = 0;
  const tracks: MidiTrack[] = takes.map((take, index) => {
    const time = file.format === 2 ? collectTempoAndMeter([file.tracks[index]]) : take;
    const timeline = createTimeline(file.division, time.tempos, time.meters);
    const assembly = assembleTake(take, firstNoteId);
    firstNoteId += take.notes.length;
    const { notes, events } = assembly.material;
    const cleaned = byChannel(notes).map(({ channel, table }) => {
      const part: Material = { notes: table, events };
      return applySteps(part, steps, { timeline, isDrums: channel === DRUM_CHANNEL }).notes;
    });
    const material: Material = { notes: cleaned.length === 0 ? notes : joinTables(cleaned), events };
    changed += countChanged(notes, material.notes);
    const woven = weave([{ assembly, material, firstOrder: 0 }]);
    const last = woven.length === 0 ? 0 : woven.tick[woven.length - 1];
    return { events: woven, endTick: Math.max(take.endTick, last) };
  });
  return { file: { ...file, tracks }, notes: firstNoteId, changed };
}

function byChannel(notes: NoteTable): { channel: number; table: NoteTable }[] {
  const rows = new Map<number, number[]>();
  for (let row = 0; row < notes.length; row++) {
    const list = rows.get(notes.channel[row]);
    if (list) list.push(row);
    else rows.set(notes.channel[row], [row]);
  }
  return [...rows].map(([channel, list]) => ({ channel, table: pickRows(notes, list) }));
}

/** How many notes of `before` are missing from `after` or differ there by the time they reach a file. */
export function countChanged(before: NoteTable, after: NoteTable): number {
  const rowOf = new Map<number, number>();
  for (let row = 0; row < after.length; row++) rowOf.set(after.id[row], row);
  let changed = 0;
  for (let row = 0; row < before.length; row++) {
    const other = rowOf.get(before.id[row]);
    if (
      other === undefined ||
      Math.round(before.start[row]) !== Math.round(after.start[other]) ||
      Math.round(before.end[row]) !== Math.round(after.end[other]) ||
      before.pitch[row] !== after.pitch[other] ||
      Math.round(before.velocity[row]) !== Math.round(after.velocity[other])
    ) {
      changed++;
    }
  }
  return changed;
}
