/** The tokens of the style sheet as the canvas needs them. */
export interface Colours {
  ground: string;
  sheet: string;
  well: string;
  rule: string;
  ruleStrong: string;
  ink: string;
  ink2: string;
  ink3: string;
  early: string;
  late: string;
  parts: string[];
  /** The family of letters. */
  font: string;
  /** Size and family of letters, as a canvas takes them: larger where the page's are. */
  letters: string;
}

/** Pixels of letters where the page's are 16 px: no smaller anywhere. */
export const USUAL_LETTERS = 12;

/** Pixels of letters on a canvas. */
export function sizeOfLetters(): number {
  const page = parseFloat(getComputedStyle(document.documentElement).fontSize);
  return Math.max(USUAL_LETTERS, Math.round((USUAL_LETTERS * page) / 16) || 0);
}

/** Reads the tokens of the theme in force. */
export function readColours(): Colours {
  const style = getComputedStyle(document.documentElement);
  const token = (name: string) => style.getPropertyValue(name).trim();
  return {
    ground: token('--ground'),
    sheet: token('--sheet'),
    well: token('--well'),
    rule: token('--rule'),
    ruleStrong: token('--rule-strong'),
    ink: token('--ink'),
    ink2: token('--ink-2'),
    ink3: token('--ink-3'),
    early: token('--early'),
    late: token('--late'),
    parts: Array.from({ length: 8 }, (_, index) => token(`--ink-part-${index + 1}`)),
    font: getComputedStyle(document.body).fontFamily,
    letters: `${sizeOfLetters()}px ${getComputedStyle(document.body).fontFamily}`,
  };
}

/** Red, green and blue of a #rrggbb colour. */
export function rgbOf(colour: string): [number, number, number] {
  const value = parseInt(colour.slice(1), 16);
  return [value >> 16, (value >> 8) & 255, value & 255];
}
