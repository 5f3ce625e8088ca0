import { THEMES, contrast, linear, type Triple } from './editor/testing/contrast';

/**
 * What dichromats see, in linear light: Machado, Oliveira and Fernandes 2009, severity 1 (the matrices from memory,
 * as widely printed).
 */
const EYES: Record<string, [Triple, Triple, Triple]> = {
  usual: [[1, 0, 0], [0, 1, 0], [0, 0, 1]], // prettier-ignore
  protanopic: [[0.152286, 1.052583, -0.204868], [0.114503, 0.786281, 0.099216], [-0.003882, -0.048116, 1.051998]], // prettier-ignore
  deuteranopic: [[0.367322, 0.860646, -0.227968], [0.280085, 0.672501, 0.047413], [-0.01182, 0.04294, 0.968881]], // prettier-ignore
  tritanopic: [[1.255528, -0.076749, -0.178779], [-0.078411, 0.930809, 0.147602], [0.004733, 0.691367, 0.3039]], // prettier-ignore
};
const through = (eyes: string, colour: Triple): Triple =>
  EYES[eyes].map((row) =>
    Math.min(
      1,
      Math.max(
        0,
        row.reduce((sum, share, at) => sum + share * colour[at], 0),
      ),
    ),
  ) as Triple;

/** Oklab (Ottosson 2020), in which distances are about as large as they look; 0.02 can just be told. */
function oklab([red, green, blue]: Triple): Triple {
  const long = Math.cbrt(0.4122214708 * red + 0.5363325363 * green + 0.0514459929 * blue);
  const middle = Math.cbrt(0.2119034982 * red + 0.6806995451 * green + 0.1073969566 * blue);
  const short = Math.cbrt(0.0883024619 * red + 0.2817188376 * green + 0.6299787005 * blue);
  return [
    0.2104542553 * long + 0.793617785 * middle - 0.0040720468 * short,
    1.9779984951 * long - 2.428592205 * middle + 0.4505937099 * short,
    0.0259040371 * long + 0.7827717662 * middle - 0.808675766 * short,
  ];
}
function distance(one: string, other: string, eyes: string): number {
  const [a, b] = [one, other].map((hex) => oklab(through(eyes, linear(hex))));
  return Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
}

describe.each(Object.entries(THEMES))('the colours of the %s theme', (_, tokens) => {
  const inks = Array.from({ length: 8 }, (_unused, ink) => tokens[`ink-part-${ink + 1}`]);
  const grounds = [tokens.ground, tokens.sheet, tokens.well];

  it('can be read: text 4.5 to 1 on every ground, borders of controls 3 to 1', () => {
    for (const ground of grounds) {
      for (const ink of ['ink', 'ink-2', 'ink-3'])
        expect(contrast(tokens[ink], ground)).toBeGreaterThanOrEqual(4.5);
      expect(contrast(tokens.edge, ground)).toBeGreaterThanOrEqual(3);
    }
    expect(contrast(tokens['on-set'], tokens.set)).toBeGreaterThanOrEqual(4.5);
    expect(contrast(tokens['on-accent'], tokens.accent)).toBeGreaterThanOrEqual(4.5);
    for (const colour of [...inks, tokens.late, tokens.early])
      expect(contrast(colour, tokens.sheet)).toBeGreaterThanOrEqual(3);
  });

  it.each(Object.keys(EYES))(
    'are told apart by %s eyes: the inks of parts, late, early and the accent',
    (eyes) => {
      inks.forEach((ink, at) =>
        inks.slice(0, at).forEach((other) => expect(distance(ink, other, eyes)).toBeGreaterThan(0.048)),
      );
      expect(distance(tokens.late, tokens.accent, eyes)).toBeGreaterThan(0.048);
      expect(distance(tokens.early, tokens.accent, eyes)).toBeGreaterThan(0.1);
      expect(distance(tokens.late, tokens.early, eyes)).toBeGreaterThan(0.1);
    },
  );
});

it('what is set does not outshine the notes in the dark', () => {
  const { set, sheet } = THEMES.dark;
  for (let ink = 1; ink <= 8; ink++)
    expect(contrast(THEMES.dark[`ink-part-${ink}`], sheet)).toBeGreaterThan(contrast(set, sheet));
});
