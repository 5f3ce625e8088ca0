import {
  choose,
  itemOf,
  listOf,
  numbersOf,
  takesOfPart,
  toggle,
  withTakes,
  type Part,
  type PartTake,
  type PieceNumbers,
  type Session,
  type Stretch,
} from '@ordle/core';
import { changeAssembly } from '@/edits/assemblyActions';
import { edit, selectDocument } from '@/state/sessionSlice';
import { store, type AppDispatch } from '@/state/store';
import { barsInWords } from '@/words/counts';

/** Bars as a stretch of a part in its own unit; the last one goes on for ever, so that nothing is cut off after it. */
export type StretchOf = (from: number, to: number) => Stretch;

/**
 * The first and last of some bars in which a take that is a pass of a longer one holds at least half of the bar, and
 * so can be chosen; null where there is none. Before its own beginning and after its end a whole take is silent, which
 * can be chosen.
 */
export function barsReached(
  { from: begin, to: end, slide }: PartTake,
  [from, to]: [number, number],
  stretchOf: StretchOf,
): [number, number] | null {
  const first = begin > 0 ? begin + slide : -Infinity;
  const last = end === null ? Infinity : end + slide;
  let reached: [number, number] | null = null;
  for (let bar = from; bar <= to; bar++) {
    const own = stretchOf(bar, bar);
    const middle = own.to === Infinity ? own.from : (own.from + own.to) / 2;
    if (middle >= first && middle < last) reached = [reached?.[0] ?? bar, bar];
  }
  return reached;
}

/** Chooses a take for some bars (0 is the first) of the first layer; null leaves them empty. */
export function chooseBars(
  dispatch: AppDispatch,
  part: Part,
  take: PartTake | null,
  [from, to]: [number, number],
  stretchOf: StretchOf,
) {
  const bars = barsInWords(from + 1, to + 1);
  changeAssembly(
    dispatch,
    take ? `Choose ${take.name} for ${bars}` : `Leave ${bars} empty`,
    part.id,
    (now, session, numbers) => {
      const made = choose(now, firstLayer(now), stretchOf(from, to), take, numbers);
      return made === now ? now : withTakes(made, takesOfPart(now, session));
    },
  );
}

/** Adds a take to what sounds in some bars, or takes it away. */
export function layerBars(
  dispatch: AppDispatch,
  part: Part,
  take: PartTake,
  [from, to]: [number, number],
  stretchOf: StretchOf,
) {
  changeAssembly(
    dispatch,
    `Layer ${take.name} in ${barsInWords(from + 1, to + 1)}`,
    part.id,
    (now, session, numbers) =>
      toggle(withTakes(now, takesOfPart(now, session)), stretchOf(from, to), take, numbers),
  );
}

/** A part whose first layer lays the given take (by its place in the list; -1 for none) in each bar. */
export function withChoice(
  part: Part,
  session: Session,
  choice: Int32Array,
  stretchOf: StretchOf,
  numbers: PieceNumbers,
): Part {
  const takes = takesOfPart(part, session);
  let made = withTakes(part, takes);
  const layer = firstLayer(made);
  for (let from = 0; from < choice.length;) {
    let to = from;
    while (to + 1 < choice.length && choice[to + 1] === choice[from]) to++;
    made = choose(made, layer, stretchOf(from, to), takes[choice[from]] ?? null, numbers);
    from = to + 1;
  }
  return made;
}

export const firstLayer = (part: Part): string => listOf(part.layers)[0]?.id ?? '';

/** New takes for a part, from performances or other parts. Those of a name that is taken are numbered. */
export function addTakes(
  dispatch: AppDispatch,
  label: string,
  partId: string,
  found: readonly { name: string; source: PartTake['source']; split?: PartTake['split'] }[],
  references: Session['takes']['byId'][string][] = [],
) {
  const session = selectDocument(store.getState());
  const part = session && itemOf(session.parts, partId);
  if (!session || !part || found.length === 0) return;
  const numbers = numbersOf(session);
  const before = takesOfPart(part, session);
  const names = new Set(before.map(({ name }) => name));
  const added = found.map(({ name, source, split }): PartTake => {
    let own = name;
    for (let count = 2; names.has(own); count++) own = `${name} ${count}`;
    names.add(own);
    const number = numbers.next++;
    return {
      id: `take${number}`,
      name: own,
      number,
      source,
      ...(split && { split }),
      from: 0,
      to: null,
      slide: 0,
    };
  });
  const next = withTakes(part, [...before, ...added]);
  dispatch(
    edit(label, (draft) => {
      for (const reference of references)
        if (!Object.hasOwn(draft.takes.byId, reference.id)) {
          draft.takes.byId[reference.id] = reference;
          draft.takes.order.push(reference.id);
        }
      const own = itemOf(draft.parts, partId);
      if (own && next.takes) own.takes = structuredClone(next.takes);
      draft.nextPiece = numbers.next;
    }),
  );
}
