import { META, META_PORT, payloadOf } from '../midi';
import type { Take } from '../model';
import { itemOf, listOf, type Part, type Piece, type Session } from '../session';

/** The port a take names for all of its events; 0 where it names none. */
export function portOfTake({ events }: Pick<Take, 'events'>): number {
  for (let row = 0; row < events.length; row++)
    if (events.status[row] === META && events.data1[row] === META_PORT) return payloadOf(events, row)[0] ?? 0;
  return 0;
}

/** Takes never change, and every evaluation asks for their ports. */
const ports = new WeakMap<Take, number>();

function rememberedPort(take: Take): number {
  const known = ports.get(take);
  if (known !== undefined) return known;
  const port = portOfTake(take);
  ports.set(take, port);
  return port;
}

/** The port a part goes out by: that of the first thing it is made of. */
export function portOfPart(part: Part, session: Session, takes: (key: string) => Take): number {
  let at: Part | undefined = part;
  // A part of a part of a part; circles are refused elsewhere and only end the search here.
  for (let depth = 0; at && depth < 64; depth++) {
    const first: Piece | undefined = listOf(at.layers).flatMap(({ pieces }) => listOf(pieces))[0];
    if (!first) return 0;
    if ('take' in first.source) return rememberedPort(takes(first.source.take));
    at = itemOf(session.parts, first.source.part);
  }
  return 0;
}
