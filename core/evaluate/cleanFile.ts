import { type MidiFile } from '../midi';
import { indexIds, type NoteTable, type Take } from '../model';
import { mapItems, orderedOf, sessionOfFile, timelineOf, type Part, type Session } from '../session';
import type { Step } from '../steps';
import { createEvaluator } from './evaluatePart';
import { exportSession, optionsAsItCame } from './exportSession';

/**
 * A file with steps applied, how many notes it had, how many changed in time, pitch, velocity or length or went, and
 * how many of those start elsewhere.
 *
 * @public
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
 * Applies steps to every part of a file. It is what a person does who opens the file, puts the steps on every part
 * and writes it as it came: a session, the steps, the export. Format, division, tracks and every other event stay.
 * The sequences of a file of format 2 are pieces of their own, and each is cleaned by itself.
 *
 * @public
 */
export function cleanFile(file: MidiFile, steps: readonly Step[]): CleanedFile {
  if (file.format !== 2) return cleanSong(file, file.format, steps);
  const songs = file.tracks.map((track) => cleanSong({ ...file, format: 0, tracks: [track] }, 0, steps));
  const sum = (of: (song: CleanedFile) => number) => songs.reduce((total, song) => total + of(song), 0);
  return {
    file: { ...file, tracks: songs.flatMap((song) => song.file.tracks) },
    notes: sum(({ notes }) => notes),
    changed: sum(({ changed }) => changed),
    moved: sum(({ moved }) => moved),
  };
}

function cleanSong(file: MidiFile, format: 0 | 1, steps: readonly Step[]): CleanedFile {
  let next = 0;
  const newId = () => `${next++}`;
  // A file that is only cleaned needs no keys of its content, and working them out costs more than reading: its takes
  // are known by their places.
  const { session: opened, takes } = sessionOfFile(file, '', newId, 0, (_, place) => `${place}`);
  const byKey = new Map(takes.map((take) => [take.key, take]));
  const takeOf = (key: string) => byKey.get(key) as Take;
  const line = orderedOf(steps.map((step, index) => ({ id: `${index}`, step })));
  const session: Session = {
    ...opened,
    parts: mapItems(opened.parts, (part): Part => ({ ...part, steps: line })),
  };
  const evaluator = createEvaluator(takeOf);
  const timeline = timelineOf(session);
  const count = { notes: 0, changed: 0, moved: 0 };
  for (const id of session.parts.order) {
    const { stages } = evaluator.evaluate(session.parts.byId[id], session, timeline);
    const { changed, moved } = countChanged(stages[0].notes, stages[stages.length - 1].notes);
    count.notes += stages[0].notes.length;
    count.changed += changed;
    count.moved += moved;
  }
  if (session.parts.order.length === 0) return { file, ...count };
  return { file: exportSession(session, optionsAsItCame(format, session), evaluator, takeOf), ...count };
}

/**
 * How many notes of `before` are missing from `after` or differ there, and how many start elsewhere, by the time they
 * reach a file.
 */
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
