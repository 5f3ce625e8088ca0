import { overlapsBetween } from '../analysis';
import { lanesIn, readLane } from '../curves';
import type { Material, NoteTable } from '../model';
import type { Part } from '../session';
import type { ChannelSharing } from './partView';

interface PartOnChannel {
  part: Part;
  material: Material;
}

/** How two parts on one channel get on with each other. */
export function sharingOf(own: PartOnChannel, other: PartOnChannel): ChannelSharing {
  const channel = own.part.channel - 1;
  const programs = [own, other].map(({ material }) => readLane(material.events, 'program', channel).value[0]);
  const pedals = [own, other].map(({ material }) => readLane(material.events, 'cc64', channel).length);
  return {
    partId: other.part.id,
    name: other.part.name,
    lanes: lanesIn(other.material.events),
    programs:
      programs[0] !== undefined && programs[1] !== undefined && programs[0] !== programs[1]
        ? [programs[0], programs[1]]
        : null,
    pedals: pedals[0] > 0 && pedals[1] > 0,
    overlaps: overlapsOf(own.material.notes, other.material.notes),
  };
}

/** Tables never change, and every view of either part asks for the same. */
const counted = new WeakMap<NoteTable, WeakMap<NoteTable, number>>();

function overlapsOf(own: NoteTable, other: NoteTable): number {
  const known = counted.get(own)?.get(other);
  if (known !== undefined) return known;
  const count = overlapsBetween(own, other).length;
  const inner = counted.get(own) ?? new WeakMap<NoteTable, number>();
  counted.set(own, inner.set(other, count));
  return count;
}
