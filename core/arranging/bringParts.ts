import {
  itemOf,
  listOf,
  orderedOf,
  timelineOf,
  type Part,
  type PartTake,
  type Piece,
  type Session,
  type TakeReference,
} from '../session';
import { partsIn } from '../evaluate';
import type { Step } from '../steps';
import { scaledStep } from './scaledStep';

/** What parts of another session bring: to be put into this one. */
export interface BroughtParts {
  parts: Part[];
  references: TakeReference[];
  /** Least values for the counters of the session, so that nothing made later is taken for what came along. */
  nextPiece: number;
  nextNoteId: number;
  /** How many parts came along since others are made of them; they are set aside. */
  sources: number;
}

/** How many ticks of a session are one of another. */
export const tickScale = (from: Session, to: Session): number =>
  timelineOf(to).ticksPerQuarter / timelineOf(from).ticksPerQuarter;

/**
 * Parts of another session with their takes, steps and all they are made of. They lie by their beats (those locked to seconds by their seconds) and keep the
 * identities of their notes, so that hand edits and wheres go on. `tableKeys` names the columns of hand edits anew where the ticks differ.
 */
export function bringParts(
  from: Session,
  ids: readonly string[],
  to: Session,
  newId: () => string,
  tableKeys: ReadonlyMap<string, string> = new Map(),
): BroughtParts {
  const scale = tickScale(from, to);
  const wanted = new Set<string>();
  const want = (id: string) => {
    const part = itemOf(from.parts, id);
    if (!part || wanted.has(id)) return;
    wanted.add(id);
    partsOfPart(part).forEach(want);
  };
  ids.forEach(want);
  const all = listOf(from.parts).filter(({ id }) => wanted.has(id));
  const newIds = new Map(all.map(({ id }): [string, string] => [id, newId()]));
  const taken = new Set(listOf(to.parts).map(({ name }) => name));
  const parts = all.map((part) => {
    const made = translated(part, { from, newIds, scale, tableKeys });
    const isSource = !ids.includes(part.id);
    const name = taken.has(part.name) ? `${part.name} (${from.name})`.slice(0, 200) : part.name;
    return { ...made, name, setAside: isSource || part.setAside, soloed: false };
  });
  const keys = new Set(all.flatMap(takesNamed));
  return {
    parts,
    references: listOf(from.takes).filter(({ id }) => keys.has(id) && !Object.hasOwn(to.takes.byId, id)),
    nextPiece: Math.max(from.nextPiece, to.nextPiece),
    nextNoteId: Math.max(from.nextNoteId, to.nextNoteId),
    sources: all.length - all.filter(({ id }) => ids.includes(id)).length,
  };
}

/** The parts that a part, its takes to choose from and what its permanent steps were made of name. */
const partsOfPart = (part: Part): string[] => [
  ...new Set([...partsIn(part), ...part.folded.flatMap(partsIn), ...sourcesIn(part.takes, 'part')]),
];

function sourcesIn(takes: Part['takes'], kind: 'part' | 'take'): string[] {
  return listOf(takes ?? orderedOf<PartTake>([])).flatMap(({ source }) =>
    'part' in source ? (kind === 'part' ? [source.part] : []) : kind === 'take' ? [source.take] : [],
  );
}

/** The takes a part names anywhere. */
function takesNamed(part: Part): string[] {
  const laid = [part, ...part.folded].flatMap(({ layers }) =>
    listOf(layers).flatMap(({ pieces }) =>
      listOf(pieces).flatMap(({ source }) => ('take' in source ? [source.take] : [])),
    ),
  );
  return [...laid, ...part.folded.map(({ take }) => take), ...sourcesIn(part.takes, 'take')];
}

interface Translation {
  from: Session;
  newIds: ReadonlyMap<string, string>;
  scale: number;
  tableKeys: ReadonlyMap<string, string>;
}

function translated(part: Part, how: Translation): Part {
  const { newIds } = how;
  // Seconds are the same length in every session.
  const scale = part.lockedTo === 'seconds' ? 1 : how.scale;
  const place = (tick: number) => tick * scale;
  const source = <S extends Pick<Piece, 'source'>>(item: S): S =>
    'part' in item.source
      ? { ...item, source: { part: newIds.get(item.source.part) ?? item.source.part } }
      : item;
  const layers = (of: Part['layers']): Part['layers'] =>
    orderedOf(
      listOf(of).map((layer) => ({
        ...layer,
        pieces: orderedOf(
          listOf(layer.pieces).map((piece) =>
            source({
              ...piece,
              from: place(piece.from),
              to: piece.to === null ? null : place(piece.to),
              at: place(piece.at),
            }),
          ),
        ),
      })),
    );
  const steps = (of: Part['steps']): Part['steps'] =>
    orderedOf(listOf(of).map(({ id, step }) => ({ id, step: translatedStep(step, how) })));
  return {
    ...part,
    id: newIds.get(part.id) ?? part.id,
    layers: layers(part.layers),
    ...(part.takes && {
      takes: orderedOf(
        listOf(part.takes).map((take) =>
          source({
            ...take,
            from: place(take.from),
            to: take.to === null ? null : place(take.to),
            slide: place(take.slide),
          }),
        ),
      ),
    }),
    steps: steps(part.steps),
    folded: part.folded.map((fold) => ({ ...fold, layers: layers(fold.layers), steps: steps(fold.steps) })),
  };
}

function translatedStep(step: Step, { from, newIds, scale, tableKeys }: Translation): Step {
  const scaled = scaledStep(step, scale);
  if (scaled.kind === 'align')
    // A part that did not come along is meant by its name.
    return { ...scaled, to: newIds.get(scaled.to) ?? itemOf(from.parts, scaled.to)?.name ?? scaled.to };
  if (scaled.kind === 'edits' && scaled.table)
    return {
      ...scaled,
      table: { ...scaled.table, key: tableKeys.get(scaled.table.key) ?? scaled.table.key },
    };
  return scaled;
}

/** The columns of hand edits that some parts name. */
export function tablesNamed(from: Session, ids: readonly string[]): string[] {
  const seen = new Set<string>();
  const keys = new Set<string>();
  const visit = (id: string) => {
    const part = itemOf(from.parts, id);
    if (!part || seen.has(id)) return;
    seen.add(id);
    for (const { step } of [part, ...part.folded].flatMap(({ steps }) => listOf(steps)))
      if (step.kind === 'edits' && step.table) keys.add(step.table.key);
    partsOfPart(part).forEach(visit);
  };
  ids.forEach(visit);
  return [...keys];
}
