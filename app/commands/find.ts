/** Something that can be found by its words, and what happens when it is chosen. */
export interface Findable {
  id: string;
  group: string;
  title: string;
  /** Other words people look for it by. */
  words: readonly string[];
  keys?: readonly string[];
}

const plain = (text: string) =>
  text
    .toLowerCase()
    .normalize('NFD')
    .replace(/[^a-z0-9+\- ]/g, '')
    .trim();

/** How well one word that was typed fits an entry, 0 to 1. */
function fitOfWord(typed: string, title: string, words: readonly string[], group: string): number {
  const inTitle = title.split(/[ -]/);
  if (inTitle.includes(typed)) return inTitle[0] === typed ? 1 : 0.96;
  if (words.includes(typed)) return 0.93;
  if (inTitle.some((word) => word.startsWith(typed))) return 0.85;
  if (words.some((word) => word.startsWith(typed) || word.split(' ').includes(typed))) return 0.75;
  if (typed.length > 2 && title.includes(typed)) return 0.5;
  if (typed.length > 2 && words.some((word) => word.includes(typed))) return 0.4;
  return group.startsWith(typed) ? 0.3 : 0;
}

/** How well what was typed fits an entry: 1 where it is its name, 0 where some word of it is nowhere in it. */
export function fitOf({ title, words, group }: Findable, typed: string): number {
  const query = plain(typed);
  if (query === '') return 1;
  const [name, others] = [plain(title), words.map(plain)];
  if (name === query) return 1;
  // A place by its name comes before what is named after it.
  if (group === 'Places' && name.endsWith(` ${query}`)) return 0.99;
  if (others.includes(query)) return 0.95;
  const fits = query.split(/ +/).map((word) => fitOfWord(word, name, others, plain(group)));
  if (fits.includes(0)) return 0;
  return (0.98 * fits.reduce((sum, fit) => sum + fit, 0)) / fits.length;
}

/** What fits, best first; of equal ones the shorter name, then the one that came first. */
export function found<F extends Findable>(entries: readonly F[], typed: string): F[] {
  return entries
    .map((entry, at) => ({ entry, at, fit: fitOf(entry, typed) }))
    .filter(({ fit }) => fit > 0)
    .sort((a, b) => b.fit - a.fit || a.entry.title.length - b.entry.title.length || a.at - b.at)
    .map(({ entry }) => entry);
}
