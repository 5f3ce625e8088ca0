import { createEvaluator, exportSession, optionsAsItCame } from '../evaluate';
import type { MidiFile } from '../midi';
import { rowsById, type Take } from '../model';
import {
  listOf,
  mapItems,
  orderedOf,
  sessionOfFile,
  timelineOf,
  type Part,
  type PlacedStep,
} from '../session';
import { createStep, isByHand, type AddedNote, type EditsStep, type NoteChange, type Step } from '../steps';
import { barAt } from '../time';
import type { Finding } from './finding';
import { lookThrough } from './lookThrough';

/** A finding with the part it is in, by name, and its place in bars. */
export interface FileFinding extends Omit<Finding, 'notes'> {
  part: string;
  bar: number;
  notes: { tick: number; pitch: number }[];
}

/**
 * What is wrong with a file, and the file with every mend done.
 *
 * @public
 */
export interface FileFindings {
  findings: FileFinding[];
  /** The file with whatever of it has a mend put right. */
  mended(): MidiFile;
}

/**
 * Looks through a file as it is opened: a part for each channel of each track. Ids in mends are those of the file as
 * `clean` counts them.
 *
 * @public
 */
export function fileFindings(file: MidiFile): FileFindings {
  let next = 0;
  const { session, takes } = sessionOfFile(file, '', () => `id${next++}`, 0);
  const byKey = new Map(takes.map((take): [string, Take] => [take.key, take]));
  const takeOf = (key: string) => byKey.get(key) ?? takes[0];
  const evaluator = createEvaluator(takeOf);
  const timeline = timelineOf(session);
  const barOf = (tick: number) => barAt(timeline.meter, Math.max(0, tick)).number;
  const parts = listOf(session.parts);
  const found = lookThrough(
    parts.map((part) => {
      const { assembly, stages } = evaluator.evaluate(part, session, timeline);
      return { part, material: stages[0], endTick: assembly.endTick };
    }),
    timeline,
  );
  const findings = found
    .flatMap(({ part, material, own }) => {
      const rows = rowsById(material.notes);
      return own.map(({ notes, ...finding }): FileFinding => {
        return {
          ...finding,
          part: part.name,
          bar: barOf(finding.tick),
          notes: notes.flatMap((id) => {
            const row = rows.rowOf(id);
            if (row < 0) return [];
            return [{ tick: material.notes.start[row], pitch: material.notes.pitch[row] }];
          }),
        };
      });
    })
    .sort((a, b) => a.tick - b.tick);
  return {
    findings,
    mended() {
      const mended = mapItems(session.parts, (part): Part => {
        const own = found.find((each) => each.part.id === part.id)?.own ?? [];
        return { ...part, steps: orderedOf(placed(mendsOf(own))) };
      });
      return exportSession(
        { ...session, parts: mended },
        optionsAsItCame(file.format, session),
        evaluator,
        takeOf,
      );
    },
  };
}

const placed = (steps: readonly Step[]): PlacedStep[] =>
  steps.map((step, index) => ({ id: `mend${index}`, step }));

/** The mends of a part as few steps: all hand edits in one, of several ends of a note the earliest. */
export function mendsOf(findings: readonly Finding[]): Step[] {
  const change: Record<string, NoteChange> = {};
  const gone = new Set<number>();
  const curves: NonNullable<EditsStep['curves']> = [];
  const messages = new Set<number>();
  const add: AddedNote[] = [];
  const others: Step[] = [];
  for (const { mend } of findings) {
    if (!mend) continue;
    if (!isByHand(mend)) {
      others.push(mend);
      continue;
    }
    for (const [id, { end, pitch }] of Object.entries(mend.change)) {
      if (end !== undefined) change[id] = { ...change[id], end: Math.min(end, change[id]?.end ?? Infinity) };
      if (pitch !== undefined) change[id] = { ...change[id], pitch };
    }
    add.push(...mend.add);
    for (const id of mend.delete) gone.add(id);
    curves.push(...(mend.curves ?? []));
    for (const at of mend.messages ?? []) messages.add(at);
  }
  for (const id of gone) delete change[id];
  const isEdited = Object.keys(change).length + gone.size + add.length + curves.length + messages.size > 0;
  const edits = createStep('edits', {
    change,
    delete: [...gone],
    add,
    ...(curves.length > 0 && { curves }),
    ...(messages.size > 0 && { messages: [...messages] }),
  });
  return [...(isEdited ? [edits] : []), ...others];
}
