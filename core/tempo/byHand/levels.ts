import { median } from '../../analysis';
import type { PulseHints } from '../../session';
import type { FoundBeats } from '../findBeats';
import { inOrder, laidOut, nearestBeat, strokeMeant, withTimesMoved, type Strokes } from './said';

/** A stroke is the beat's where it is nearer to its place than this share of the beat, and than so many seconds. */
const [ONTO_SHARE, ONTO] = [0.13, 0.07];
/** Shares of a beat between which the strokes lie that beats may be shifted to. */
const [FIRST_LAYER, LAST_LAYER] = [0.28, 0.72];
/**
 * Strokes off the middle are a layer of their own where this share of the beats has one, spread by no more than this.
 */
const [LAYER_SHARE, LAYER_SPREAD] = [0.35, 0.06];

type Level = 'shift' | 'halve' | 'double';

/** Every beat half a beat later, or back where that was the last that was done. */
export function shiftedBeats(pulse: PulseHints, found: FoundBeats, strokes: Strokes): PulseHints {
  const { beats } = found;
  if (beats.length < 2) return pulse;
  if (pulse.was?.by === 'shift') return takenBack(pulse, pulse.was);
  const share = layerBetween(beats, strokes);
  const later = Array.from(beats, (at, beat) => {
    const gap = beat + 1 < beats.length ? beats[beat + 1] - at : at - beats[beat - 1];
    return between(at, gap, share, strokes);
  });
  const { first, last } = endsOf(strokes);
  const before = beats[0] - (1 - share) * (beats[1] - beats[0]);
  const isPlayedBefore = before >= 0 && first <= before + ONTO;
  const all = inOrder([...(isPlayedBefore ? [onto(before, beats[1] - beats[0], strokes)] : []), ...later]);
  const laid = all.filter((at, row) => row < 2 || at <= last + ONTO);
  const moved = withTimesMoved(pulse, (at) => {
    const to = later[nearestBeat(beats, at)];
    return laid.includes(to) ? to : null;
  });
  return remembered(laidOut(moved, laid, found), pulse, found, 'shift', 0);
}

/** Every second beat; the other ones where that was the last that was done, or what stood before a doubling. */
export function halvedBeats(pulse: PulseHints, found: FoundBeats): PulseHints {
  const { was } = pulse;
  if (was?.by === 'double') return takenBack(pulse, was);
  const beats = was?.by === 'halve' ? was.laid : [...found.beats];
  if (beats.length < 3) return pulse;
  const before: PulseHints = was?.by === 'halve' ? takenBack(pulse, was) : pulse;
  const from = was?.by === 'halve' ? 1 - was.from : firstKept(pulse, found);
  const laid = beats.filter((_, beat) => beat % 2 === from);
  const moved = withTimesMoved(before, (at) => (nearestBeat(beats, at) % 2 === from ? at : null));
  const binary = { division: 'binary' } as const;
  return remembered(
    laidOut(withRenumbered(moved), laid, binary),
    before,
    { beats, division: before.division ?? found.division },
    'halve',
    from,
  );
}

/** A beat between each two: at the stroke in the middle, or in the middle; what stood before a halving comes back. */
export function doubledBeats(pulse: PulseHints, found: FoundBeats, strokes: Strokes): PulseHints {
  if (pulse.was?.by === 'halve') return takenBack(pulse, pulse.was);
  const { beats } = found;
  if (beats.length < 2) return pulse;
  const { first, last } = endsOf(strokes);
  const added = Array.from(beats.subarray(1), (next, beat) =>
    between(beats[beat], next - beats[beat], 0.5, strokes),
  );
  const [head, tail] = [(beats[1] - beats[0]) / 2, (beats[beats.length - 1] - beats[beats.length - 2]) / 2];
  if (beats[0] - head >= 0 && first <= beats[0] - head + ONTO)
    added.push(onto(beats[0] - head, 2 * head, strokes));
  if (last >= beats[beats.length - 1] + tail - ONTO)
    added.push(onto(beats[beats.length - 1] + tail, 2 * tail, strokes));
  const laid = inOrder([...beats, ...added]);
  const said = laidOut(withRenumbered(withoutOnly(pulse)), laid, { division: 'binary' });
  return remembered(said, pulse, found, 'double', 0);
}

/** What a person said of every beat there is between two times cannot hold where there are twice as many. */
function withoutOnly(pulse: PulseHints): PulseHints {
  const said = { ...pulse };
  delete said.only;
  return said;
}

/**
 * Of places in the bars only the first keeps its number: at another level there are more bars or fewer between them.
 */
function withRenumbered(pulse: PulseHints): PulseHints {
  const first = pulse.places?.find(({ bar }) => bar !== undefined);
  if (!pulse.places || !first) return pulse;
  return {
    ...pulse,
    places: pulse.places.map((place) => (place === first ? place : { at: place.at, beat: place.beat })),
  };
}

const endsOf = ({ time }: Strokes) =>
  time.length === 0 ? { first: Infinity, last: -Infinity } : { first: time[0], last: time[time.length - 1] };

/** The place within a beat at `share` of it, or the stroke that is meant by it. */
const between = (at: number, gap: number, share: number, strokes: Strokes): number =>
  onto(at + share * gap, gap, strokes);

function onto(at: number, gap: number, strokes: Strokes): number {
  const stroke = strokeMeant(strokes, at, Math.min(ONTO, ONTO_SHARE * gap));
  return stroke < 0 ? at : strokes.time[stroke];
}

/**
 * Where the strokes between beats are, as a share of the beat: a half, unless they gather somewhere else, as in swung
 * playing.
 */
function layerBetween(beats: ArrayLike<number>, { time, strength }: Strokes): number {
  const shares: number[] = [];
  let stroke = 0;
  for (let beat = 0; beat + 1 < beats.length; beat++) {
    const gap = beats[beat + 1] - beats[beat];
    let [found, most] = [-1, 0];
    while (stroke < time.length && time[stroke] < beats[beat]) stroke++;
    for (let row = stroke; row < time.length && time[row] < beats[beat + 1]; row++) {
      const share = (time[row] - beats[beat]) / gap;
      if (share >= FIRST_LAYER && share <= LAST_LAYER && strength[row] >= most)
        [found, most] = [share, strength[row]];
    }
    if (found >= 0) shares.push(found);
  }
  if (shares.length < LAYER_SHARE * (beats.length - 1)) return 0.5;
  const layer = median(shares);
  const spread = median(shares.map((share) => Math.abs(share - layer)));
  return spread <= LAYER_SPREAD && Math.abs(layer - 0.5) > 2 * spread ? layer : 0.5;
}

/** The first beat that is kept of every two: with it the places that were said, else most of the bar lines. */
function firstKept(pulse: PulseHints, { beats, downbeats }: FoundBeats): number {
  const said = [...(pulse.places ?? []).map(({ at }) => at), ...pulse.beats];
  for (const rows of [said.map((at) => nearestBeat(beats, at)), downbeats]) {
    const odd = rows.filter((beat) => beat % 2 === 1).length;
    if (2 * odd !== rows.length) return 2 * odd > rows.length ? 1 : 0;
  }
  return 0;
}

function remembered(
  said: PulseHints,
  before: PulseHints,
  stood: { beats: ArrayLike<number>; division: FoundBeats['division'] },
  by: Level,
  from: number,
): PulseHints {
  const { beats, only, places } = before;
  const was = {
    by,
    from,
    laid: Array.from(stood.beats),
    beats,
    division: stood.division,
    ...(only && { only }),
    ...(places && { places }),
  };
  return { ...said, was };
}

/** What stood before, to the last beat. */
function takenBack(pulse: PulseHints, was: NonNullable<PulseHints['was']>): PulseHints {
  const { laid, beats, only, places, division } = was;
  const said: PulseHints = { ...pulse, laid, beats, only, places, division };
  delete said.was;
  for (const key of ['only', 'places', 'division'] as const)
    if (said[key] === undefined) Reflect.deleteProperty(said, key);
  return said;
}
