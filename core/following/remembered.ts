import type { PlayedNotes } from './chords';
import { follow, type Following } from './follow';
import type { Said } from './jumps';
import type { Score } from './score';

/** So many answers are remembered: those of the scores that are just being tried, and of the one that was laid. */
const MOST = 4;

/** `follow`, as it may be remembered. */
export type Follow = typeof follow;

const same = (one: ArrayLike<number>, other: ArrayLike<number>): boolean => {
  if (one.length !== other.length) return false;
  for (let row = 0; row < one.length; row++) if (one[row] !== other[row]) return false;
  return true;
};

const sameScore = (one: Score, other: Score): boolean =>
  one === other ||
  (one.at.every((at, row) => Math.abs(at - other.at[row]) < 1e-3) &&
    same(one.pitch, other.pitch) &&
    same(one.bars, other.bars) &&
    same(one.order ?? [], other.order ?? []));

/**
 * `follow`, and the same answer again for the same performance and score: laying a score asks what its page asks next.
 */
export function createRememberedFollow(): Follow {
  let known: { score: Score; playing: PlayedNotes; said: readonly Said[]; following: Following }[] = [];
  return (score, playing, said = []) => {
    const there = known.find(
      (each) =>
        same(each.playing.seconds, playing.seconds) &&
        same(each.playing.pitch, playing.pitch) &&
        each.said.length === said.length &&
        each.said.every(({ seconds, bar }, at) => seconds === said[at].seconds && bar === said[at].bar) &&
        sameScore(each.score, score),
    );
    if (there) return there.following;
    const following = follow(score, playing, said);
    known = [{ score, playing, said, following }, ...known].slice(0, MOST);
    return following;
  };
}
