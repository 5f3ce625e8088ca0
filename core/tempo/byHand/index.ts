/** What a person says of beats: each of it holds to the letter, and nothing of it is a hint to a search. */
export { NO_HINTS, withTimesMoved, type Strokes } from './said';
export { shiftedBeats, halvedBeats, doubledBeats } from './levels';
export {
  draggedBeats,
  withBeatAt,
  withBeatDragged,
  withBeatFree,
  withBeatOut,
  withBeatsKept,
  foundAnew,
} from './posts';
export { lagOfTaps, withTaps } from './taps';
export { withBarsSaid, withPlaceSaid, type BeatPlace } from './places';
