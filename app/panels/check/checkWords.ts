import { programName, type ExportAddition, type ExportConcern } from '@ordle/core';
import { counted } from '@/words/counts';

/** What a concern is, in a sentence. `name` and `other` are the names of its parts. */
export function concernInWords({ kind, count }: ExportConcern, name: string, other: string): string {
  switch (kind) {
    case 'nested':
      return `${name}: ${counted(count, 'note sounds', 'notes sound')} within another of the same pitch. Another program may give each the other's end.`;
    case 'overlap':
      return `${name}: ${counted(count, 'note begins', 'notes begin')} before one of the same pitch has ended.`;
    case 'speck':
      return `${name}: ${counted(count, 'note lasts', 'notes last')} a single tick.`;
    case 'squeezed':
      return `${name}: ${counted(count, 'note', 'notes')} from before the start were squeezed onto it.`;
    case 'loudest':
      return `${name}: ${counted(count, 'velocity was', 'velocities were')} held to 1 or 127.`;
    case 'muted':
      return `${name} is muted here but will be exported.`;
    case 'left-behind':
      return `${name} is played under the sound, pedal or controllers of ${other}, on one channel; ${other} is left out.`;
    case 'programs':
      return `${name} and ${other} choose different sounds on one channel; the last one sent holds for both.`;
    case 'pedals':
      return `${name} and ${other} both move the pedal on one channel.`;
    case 'shared-overlap':
      return `${name} and ${other}: ${counted(count, 'note sounds', 'notes sound')} while the other holds the same pitch on one channel.`;
  }
}

/** What is added, in a sentence. */
export function additionInWords(addition: ExportAddition, nameOf: (partId: string) => string): string {
  if (addition.kind === 'tempo') return 'Tempo and meter are written again.';
  if (addition.kind === 'division')
    return `A quarter gets ${addition.ticksPerQuarter} ticks, so that what lies in real time stays there.`;
  if (addition.kind === 'markers')
    return `${counted(addition.count, 'marker')} in place of those of the files.`;
  if (addition.kind === 'name')
    return `The track of ${nameOf(addition.partId)} gets the name “${addition.name}”.`;
  return `${nameOf(addition.partId)} gets a program change to ${programName(addition.program)} in place of its own.`;
}
