import { listOf, type Part } from '../session';

/**
 * Key of the take whose track a part is a share of, as it was brought in; null for a part that was put together here.
 */
export function sourceTrackOf(part: Part): string | null {
  const pieces = listOf(part.layers).flatMap(({ pieces: own }) => listOf(own));
  const [piece] = pieces;
  if (pieces.length !== 1 || !('take' in piece.source)) return null;
  const isWhole = piece.from === 0 && piece.to === null && piece.at === 0;
  return isWhole && (piece.split === undefined || piece.split.by === 'channel') ? piece.source.take : null;
}

const shareOf = (part: Part): string =>
  listOf(part.layers).flatMap(({ pieces }) => listOf(pieces))[0].split?.label ?? 'all';

/**
 * Items whose parts came from one track together, in the order of the first of each; others alone. Tracks that are
 * equal to the last byte have one take, and are told apart by their shares coming again.
 */
export function groupedByTrack<T extends { part: Part }>(
  items: readonly T[],
): { track: string | null; items: T[] }[] {
  const groups: { track: string | null; items: T[]; shares: Set<string> }[] = [];
  const byTrack = new Map<string, typeof groups>();
  for (const item of items) {
    const track = sourceTrackOf(item.part);
    const share = track === null ? '' : shareOf(item.part);
    const alike = track === null ? [] : (byTrack.get(track) ?? []);
    const known = alike.find(({ shares }) => !shares.has(share));
    if (known) {
      known.items.push(item);
      known.shares.add(share);
      continue;
    }
    const group = { track, items: [item], shares: new Set([share]) };
    groups.push(group);
    if (track !== null) byTrack.set(track, [...alike, group]);
  }
  return groups;
}
