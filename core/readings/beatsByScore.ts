import { OrdleError } from '../errors';
import type { Followed } from '../evaluate';
import { barsPlayed, meterAt, secondsAt } from '../following';
import { NO_HINTS } from '../tempo';
import type { PulseHints } from '../session';

/** Beats closer than this, in seconds, are none: the clock stands where places were played together. */
const LEAST_BEAT = 0.02;
/** More places than this are not said. */
const MOST_SAID = 10_000;

/**
 * The beats of a performance as its score tells them: all of them laid, with the bar each first one begins. What was
 * said of the settling stays. Throws `no-beats` where fewer than two are found.
 */
export function beatsByScore({ following, score }: Followed, hints: PulseHints = NO_HINTS): PulseHints {
  const { passages, occurrences, clock } = following;
  const last = occurrences.reduce((most, { place }) => Math.max(most, place), 0);
  const { numerator, denominator } = meterAt(score, 0);
  // Threes of eighths are one beat, as in 6/8; all else is counted in quarters.
  const isTernary = denominator >= 8 && numerator % 3 === 0 && numerator > 3;
  const beat = isTernary ? 12 / denominator : 1;
  const laid: number[] = [];
  const places: NonNullable<PulseHints['places']> = [];
  barsPlayed(passages, score).forEach(({ at, length, bar }, index) => {
    // A pick-up is the end of a bar: its beats are counted from the line behind it.
    const isPickUp = index === 0 && bar === 0 && score.firstBar === 0;
    for (let into = isPickUp ? length % beat : 0; into < length - 1e-6; into += beat) {
      const place = at + into;
      if (place > last + 1e-6) break;
      const seconds = secondsAt(clock, place);
      if (seconds < 0 || seconds - (laid.at(-1) ?? -1) < LEAST_BEAT) continue;
      if (into === 0 && !isPickUp && places.length < MOST_SAID)
        places.push({ at: seconds, beat: 1, bar: index + 1 });
      laid.push(seconds);
    }
  });
  if (laid.length < 2)
    throw new OrdleError('no-beats', 'Too little of the score was found in the playing to tell its beats.');
  const { settling, roundTo } = hints;
  return {
    ...NO_HINTS,
    settling,
    ...(roundTo !== undefined && { roundTo }),
    laid,
    places,
    division: isTernary ? 'ternary' : 'binary',
    beatsPerBar: Math.max(1, Math.round((numerator * 4) / denominator / beat)),
  };
}
