import { orderedOf } from './ordered';
import { PLAIN_DOUBLES, PLAIN_SEAMS, type Part } from './session';

/** A part as it begins: it plays what its layers lay, and nothing was done to it. */
export const emptyPart = (own: Pick<Part, 'id' | 'name' | 'ink' | 'channel' | 'sound' | 'layers'>): Part => ({
  ...own,
  rechannel: false,
  lockedTo: 'beats',
  doubles: PLAIN_DOUBLES,
  seams: PLAIN_SEAMS,
  steps: orderedOf([]),
  folded: [],
  setAside: false,
  muted: false,
  soloed: false,
});
