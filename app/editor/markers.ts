/** A marker as it is shown: a name at a tick. */
export interface SeenMarker {
  id: string;
  tick: number;
  name: string;
}

/** Pixels a letter takes at most, about, and those around the words. */
const LETTER = 6.6;
const PAD = 12;

/** Width of a marker's tab with these words in it, in pixels; painting and pressing go by the same. */
export const tabWidth = (words: string): number => PAD + LETTER * words.length;

/** A tab on a ruler: from x on, as wide as its words, but not over the next one. */
export interface MarkerTab {
  marker: SeenMarker;
  left: number;
  right: number;
}

/** The tabs of markers in order of time, where `xOf` places them; `words` is what stands in a tab. */
export function tabsOf(
  markers: readonly SeenMarker[],
  xOf: (tick: number) => number,
  words: (marker: SeenMarker) => string,
): MarkerTab[] {
  return markers.map((marker, at) => {
    const left = xOf(marker.tick);
    const next = at + 1 < markers.length ? xOf(markers[at + 1].tick) - 1 : Infinity;
    return { marker, left, right: Math.min(left + tabWidth(words(marker)), next) };
  });
}

/** The marker whose tab lies at x; of several the later, which lies over the other. */
export const tabAt = (tabs: readonly MarkerTab[], x: number): MarkerTab | undefined =>
  tabs.findLast(({ left, right }) => x >= left && x < right);

/** What stands in a tab: with the number of the bar, where one begins there. */
export const wordsOfTab = ({ name }: SeenMarker, bar: number | null): string =>
  bar === null ? name : `${bar} ${name}`;
