/** Names that file systems of one kind or another keep for themselves (Windows: "Naming Files", from memory). */
const KEPT = /^(con|prn|aux|nul|com[0-9¹²³]|lpt[0-9¹²³])(\.|$)/i;
/** What no file name may hold anywhere: separators, wildcards, quotes, and letters nobody sees (C0, C1, directions). */
// eslint-disable-next-line no-control-regex
const REFUSED = /[\u0000-\u001f\u007f-\u009f\u200e\u200f\u202a-\u202e\u2066-\u2069\\/:*?"<>|]+/g;
/** Bytes of UTF-8 a name may take without its extension, so that it fits wherever 255 do. */
const MOST_BYTES = 200;

/**
 * A text as the name of a file that every system takes, without its extension: nothing they refuse, no dots or spaces
 * at its ends, none of the names they keep, not too long; `instead` where nothing is left.
 */
export function legalName(text: string, instead = 'session'): string {
  const plain = trimmed(text.normalize('NFC').replace(REFUSED, '-').replace(/\s+/g, ' '));
  const cut = trimmed(shortened(plain));
  if (cut === '' || /^-+$/.test(cut)) return instead;
  return KEPT.test(cut) ? `_${cut}` : cut;
}

// A leading dash would be taken for an option, a leading dot hides the file.
const trimmed = (text: string): string => text.replace(/^[\s.-]+/, '').replace(/[\s.]+$/, '');

function shortened(text: string): string {
  let [bytes, name] = [0, ''];
  for (const letter of text) {
    const code = letter.codePointAt(0) ?? 0;
    bytes += code < 0x80 ? 1 : code < 0x800 ? 2 : code < 0x10000 ? 3 : 4;
    if (bytes > MOST_BYTES) break;
    name += code >= 0xd800 && code <= 0xdfff ? '-' : letter;
  }
  return name;
}

/** What a pattern of names may speak of, in braces. */
export const NAME_TOKENS = ['session', 'part', 'section', 'number', 'bars', 'tempo', 'version'] as const;
export type NameToken = (typeof NAME_TOKENS)[number];
export type NameValues = Record<NameToken, string>;

/** How files are called where nobody says otherwise: whole ones, and those of sections or blocks. */
export const PLAIN_PATTERN = '{session} - {part} - {bars} ({version})';
export const PACK_PATTERN = '{section} - {part} - {tempo} bpm';

/**
 * A name by a pattern, before it is made legal. What has no value leaves no brackets and no dash behind. Braces with
 * anything else in them stand as they are.
 */
export function nameBy(pattern: string, values: NameValues): string {
  const NOTHING = '\u0000';
  const filled = pattern.replace(/\{(\w+)\}/g, (whole, token: string) =>
    isToken(token) ? values[token] || NOTHING : whole,
  );
  return filled
    .replace(new RegExp(`[([]\\s*${NOTHING}\\s*[)\\]]`, 'g'), '')
    .replace(new RegExp(`\\s*[-–_,]\\s*${NOTHING}(\\s*bpm)?`, 'g'), '')
    .replace(new RegExp(`^\\s*${NOTHING}(\\s*bpm)?\\s*[-–_,]\\s*`), '')
    .replaceAll(NOTHING, '')
    .replace(/\s+/g, ' ')
    .trim();
}

const isToken = (token: string): token is NameToken => (NAME_TOKENS as readonly string[]).includes(token);

/** Names of files apart from each other, also where capitals count for nothing: later ones get a number. */
export function namesApart(names: readonly { stem: string; extension: string }[]): string[] {
  const taken = new Set<string>();
  return names.map(({ stem, extension }) => {
    for (let number = 1; ; number++) {
      const name = `${stem}${number === 1 ? '' : ` (${number})`}.${extension}`;
      if (taken.has(name.toLowerCase())) continue;
      taken.add(name.toLowerCase());
      return name;
    }
  });
}
