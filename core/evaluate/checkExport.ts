import { overlapsBetween, overlapsWithin } from '../analysis';
import { readLane } from '../curves';
import type { NoteTable, Take } from '../model';
import { listOf, type Part, type Session } from '../session';
import { writtenAnew } from './conductor';
import type { Evaluator } from './evaluatePart';
import { groupedByTrack } from './sourceTracks';
import type { Chosen, ChosenPart } from './chosenParts';
import { divisionWritten, nameToWrite, type MidiLayout } from './exportSession';

/** Something to know before a file is written; `notes` are ids, `tick` where the first of it is. */
export interface ExportConcern {
  kind:
    | 'overlap'
    | 'nested'
    | 'speck'
    | 'squeezed'
    | 'loudest'
    | 'muted'
    | 'programs'
    | 'pedals'
    | 'shared-overlap'
    | 'left-behind';
  partId: string;
  /** The other part, where two get in each other's way. */
  otherId: string | null;
  count: number;
  tick: number;
  notes: number[];
}

/** What is written that was not in what was brought in. */
export type ExportAddition =
  | { kind: 'name'; partId: string; name: string }
  | { kind: 'program'; partId: string; program: number }
  | { kind: 'tempo' }
  | { kind: 'division'; ticksPerQuarter: number }
  | { kind: 'markers'; count: number };

export interface ExportCheck {
  concerns: ExportConcern[];
  additions: ExportAddition[];
  /** Parts whose notes, and whose controllers, go out exactly as they were played. */
  sameNotes: string[];
  sameControllers: string[];
}

/** Ids named with a concern at most; the count tells of all. */
const MOST_NAMED = 10_000;

/**
 * Looks through what `weaveFile` would write: what another program may read otherwise, what was bent to fit, what
 * is added.
 */
export function checkExport(
  chosen: Chosen,
  layout: MidiLayout,
  evaluator: Pick<Evaluator, 'partsBeside' | 'aloneBeside'>,
  takes: (key: string) => Take,
): ExportCheck {
  const { session, parts: checked } = chosen;
  const concerns = [
    ...checked.flatMap(concernsOfPart),
    ...concernsBetween(checked, session, evaluator),
    ...leftBehind(chosen, evaluator),
  ];
  const isOverlap = ({ kind }: ExportConcern) => kind === 'overlap' || kind === 'nested';
  const cut = new Set(
    layout.overlaps === 'cut' ? concerns.filter(isOverlap).map(({ partId }) => partId) : [],
  );
  return {
    concerns,
    additions: additionsOf(chosen, layout, takes),
    sameNotes: checked
      .filter(
        ({ part, played, material }) =>
          isAsPlayed(part) && material.notes === played.notes && !cut.has(part.id),
      )
      .map(idOf),
    sameControllers: checked
      .filter(({ part, played, material }) => isAsPlayed(part) && material.events === played.events)
      .map(idOf),
  };
}

/** What steps became permanently is not what was played. */
const isAsPlayed = ({ folded }: Part) => folded.length === 0;

const idOf = ({ part }: ChosenPart) => part.id;

function concernsOfPart({ part, played, material }: ChosenPart): ExportConcern[] {
  const { notes } = material;
  const made: ExportConcern[] = [];
  const add = (kind: ExportConcern['kind'], rows: readonly number[], count = rows.length) => {
    if (count > 0) made.push(concern(kind, part.id, notes, rows, count));
  };
  const overlaps = overlapsWithin(notes);
  const nested = overlaps.filter((each) => each.nested);
  const rowsOf = (list: typeof overlaps) => [...new Set(list.flatMap(({ row, other }) => [row, other]))];
  add('nested', rowsOf(nested), nested.length);
  const plain = overlaps.filter((each) => !each.nested);
  add('overlap', rowsOf(plain), plain.length);
  const rows = [...notes.id.keys()];
  add(
    'speck',
    rows.filter((row) => Math.round(notes.end[row]) - Math.round(notes.start[row]) <= 1),
  );
  // Only what the steps did: what was played so is as it was played.
  const before = new Map(Array.from(played.notes.id, (id, row) => [id, row]));
  const was = (row: number) => before.get(notes.id[row]);
  const isNew = (row: number, test: (table: NoteTable, at: number) => boolean) => {
    const at = was(row);
    return test(notes, row) && (at === undefined || !test(played.notes, at));
  };
  if (notes !== played.notes) {
    const atStart = rows.filter((row) => isNew(row, (table, at) => table.start[at] <= 0));
    // One chord may stand there; several places squeezed into one may not.
    const squeezed = atStart.filter((row) => was(row) !== undefined);
    const places = new Set(squeezed.map((row) => Math.round(played.notes.start[was(row) ?? 0])));
    if (places.size > 1) add('squeezed', squeezed);
    add(
      'loudest',
      rows.filter((row) => isNew(row, (table, at) => table.velocity[at] >= 127 || table.velocity[at] <= 1)),
    );
  }
  if (part.muted) made.push({ ...concern('muted', part.id, notes, [], 1), tick: 0 });
  return made;
}

function concernsBetween(
  checked: readonly ChosenPart[],
  session: Session,
  evaluator: Pick<Evaluator, 'partsBeside'>,
): ExportConcern[] {
  return checked.flatMap((own, index) => {
    const beside = new Set(evaluator.partsBeside(own.part, session).map(({ id }) => id));
    return checked
      .slice(index + 1)
      .flatMap((other) => (beside.has(other.part.id) ? concernsOfPair(own, other) : []));
  });
}

/** Parts whose controllers hold for a chosen one, on its channel, and which are not written themselves. */
function leftBehind(
  { session, timeline, parts }: Chosen,
  evaluator: Pick<Evaluator, 'aloneBeside'>,
): ExportConcern[] {
  const written = new Set(parts.map(({ part }) => part.id));
  return parts
    .filter(({ material }) => material.notes.length > 0)
    .flatMap((own) =>
      evaluator
        .aloneBeside(own.part, session, timeline)
        .filter(({ part }) => !written.has(part.id))
        .flatMap(({ part: other, material: { events } }) => {
          const count = events.status.filter((status) => status >= 0xa0 && status < 0xf0).length;
          if (count === 0) return [];
          const made = concern('left-behind', own.part.id, own.material.notes, [], count);
          return [{ ...made, otherId: other.id }];
        }),
    );
}

function concernsOfPair(own: ChosenPart, other: ChosenPart): ExportConcern[] {
  const made: ExportConcern[] = [];
  const channel = own.part.channel - 1;
  const add = (kind: ExportConcern['kind'], rows: readonly number[], count: number) =>
    made.push({ ...concern(kind, own.part.id, own.material.notes, rows, count), otherId: other.part.id });
  const [program, theirs] = [own, other].map(
    ({ material }) => readLane(material.events, 'program', channel).value[0],
  );
  if (program !== undefined && theirs !== undefined && program !== theirs) add('programs', [], 1);
  const pedals = [own, other].map(({ material }) => readLane(material.events, 'cc64', channel).length);
  if (pedals[0] > 0 && pedals[1] > 0) add('pedals', [], 1);
  const overlaps = overlapsBetween(own.material.notes, other.material.notes);
  if (overlaps.length > 0)
    add('shared-overlap', [...new Set(overlaps.map(({ row }) => row))], overlaps.length);
  return made;
}

function concern(
  kind: ExportConcern['kind'],
  partId: string,
  notes: NoteTable,
  rows: readonly number[],
  count: number,
): ExportConcern {
  const tick = rows.reduce((first, row) => Math.min(first, notes.start[row]), Infinity);
  return {
    kind,
    partId,
    otherId: null,
    count,
    tick: tick === Infinity ? 0 : tick,
    notes: rows.slice(0, MOST_NAMED).map((row) => notes.id[row]),
  };
}

function additionsOf(chosen: Chosen, layout: MidiLayout, takes: (key: string) => Take): ExportAddition[] {
  const { session, parts: checked } = chosen;
  const { format, tracks, leaves } = layout;
  const anew = writtenAnew(session, takes);
  const made: ExportAddition[] = !session.conductor || anew.tempos || anew.meters ? [{ kind: 'tempo' }] : [];
  const division = divisionWritten(chosen, layout, takes);
  if (
    division.kind === 'metrical' &&
    session.division.kind === 'metrical' &&
    division.ticksPerQuarter > session.division.ticksPerQuarter
  )
    made.push({ kind: 'division', ticksPerQuarter: division.ticksPerQuarter });
  if (anew.markers) made.push({ kind: 'markers', count: session.markers?.length ?? 0 });
  const alone = new Set(
    groupedByTrack(checked).flatMap(({ items }) => (items.length === 1 ? [items[0].part.id] : [])),
  );
  for (const { part } of checked) {
    const isNamed = format === 1 && !leaves?.names && (tracks !== 'source' || alone.has(part.id));
    const name = isNamed ? nameToWrite(part, takes) : null;
    if (name !== null && !wasNamed(part, name, takes)) made.push({ kind: 'name', partId: part.id, name });
    if (part.sound.chosen && !part.sound.drums && !leaves?.programs)
      made.push({ kind: 'program', partId: part.id, program: part.sound.program });
  }
  return made;
}

/** Whether the take a part stands on is called so already. */
function wasNamed(part: Part, name: string, takes: (key: string) => Take): boolean {
  return listOf(part.layers)
    .flatMap(({ pieces }) => listOf(pieces))
    .some(({ source }) => 'take' in source && takes(source.take).name.trim() === name);
}
