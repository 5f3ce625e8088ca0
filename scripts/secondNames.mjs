/**
 * Second names for things that have one already: what a text of the interface must not say, and what it says instead.
 * docs/glossary.md has the names; `npm run words` refuses these. A text may be meant otherwise: then it stands in
 * `MEANT`, with what it means.
 */
const SECOND = [
  [/\bby steps\b|\bgrid steps?\b|% of a step/i, 'keep offset, grid units (a step is one clean-up)'],
  [/\bstops?\b.*\barrow|\bat this stop\b|\bstops:/i, 'step (its ends are As played and Cleaned)'],
  [/\boff (its|the) lines?\b|\bloosest\b|\btroubles?\b/i, 'off the grid, unevenness, loose place'],
  [/\bset-?tle on\b|\bfollows? the playing\b|\bfollows? the grid\b/i, 'use these beats'],
  [/\banew\b/i, 'again'],
  [/\bsplit here\b/i, 'Split step at play line'],
  [/\btracks?\b/i, 'part (a track is of a file)'],
  [/\bclips?\b|\bprojects?\b|\bsongs?\b/i, 'take, session, piece of music'],
  [/\bgrace strokes?\b/i, 'grace notes (drums: flams)'],
  [/\bdouble strikes?\b|\bstruck twice\b/i, 'double note'],
  [/\bvels?\b(?!\.)/i, 'velocity'],
  [/\bmend(s|ed|ing)?\b|\bput(s|ting)? right\b/i, 'fix (a finding), repair (a file), clean (a step)'],
  [/\bbr(ing|ings|inging|ought) in\b|\btake over\b/i, 'import (files), copy from (sessions, parts)'],
  [/\bassembl(e|es|ing)\b/i, 'merge parts, layer takes, join notes'],
  [/\block(ed|s)? to\b|\blies by its beats\b/i, 'follows the tempo, keeps its real time'],
  [/\bwhose (counts|hold)\b/i, "which part's settings are used"],
  [/\bpropos(e|es|ed|al|als)\b/i, 'suggest, suggestion'],
  [/\bremove the part\b|\bremove part\b/i, 'Delete part'],
  [/\bseed\b/i, 'variation'],
  [/\bcompress\b/i, 'even out'],
  [/\banchor\b/i, 'keep in place'],
  [/\bmake permanent\b/i, 'turn the steps so far into a take'],
  [/\bno key\b/i, 'add shortcut'],
  [/\bto nothing\b/i, 'none'],
  [/\bspreads?\b/i, 'uneven by (a performance), scatter (what a step adds)'],
];

/** Texts that use such a word for something else, by what they are. */
const MEANT = [
  /full stop/i,
  /^(keep the )?spread$/,
  /^propose$/,
  /^track$/,
  /one track|tracks as they came/,
  /^Format [01]: /,
];

/** What is wrong with a text of a file, or nothing. */
export function secondNameIn(text, file) {
  // What is said of a file speaks of its tracks.
  if (file.startsWith('core/midi/') || MEANT.some((meant) => meant.test(text))) return null;
  const found = SECOND.find(([pattern]) => pattern.test(text));
  return found ? { is: found[0].exec(text)[0], instead: found[1] } : null;
}
