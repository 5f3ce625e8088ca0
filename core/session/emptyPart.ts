import { layerOf } from './importFile';
import { orderedOf } from './ordered';
import { PLAIN_DOUBLES, PLAIN_SEAMS, type Part, type Session } from './session';

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

/** A part with nothing in it, as it comes after all others of a session; it was recorded by itself. */
export const nextPart = ({ parts }: Pick<Session, 'parts'>, id: string): Part => ({
  ...emptyPart({
    id,
    name: `Part ${parts.order.length + 1}`,
    ink: parts.order.length % 8,
    channel: 1,
    sound: { program: 0, drums: false, chosen: false },
    layers: orderedOf([layerOf([])]),
  }),
  recording: id,
});
