import { groupedByTrack, listOf, type Part, type Session } from '@ordle/core';

/** How the parts lie in the file: tracks as they came, a track for each part (format 1), or all in one (format 0). */
export type Layout = 'source' | 'parts' | 'one';

/** The layouts there are for a session, the one it came in first. */
export function layoutsOf(session: Session): { value: Layout; label: string; title: string }[] {
  const parts = listOf(session.parts);
  const groups = groupedByTrack(parts.map((part) => ({ part })));
  const conducts = groups.some(({ track }) => track !== null && track === session.conductor?.take);
  const layouts: { value: Layout; label: string; title: string }[] = [
    {
      value: 'parts',
      label: 'one track per part',
      title: 'Format 1: a track for each part, and one for tempo, meter and markers',
    },
    {
      value: 'one',
      label: 'one track',
      title: 'Format 0: everything in one track, parts told apart by channel',
    },
  ];
  if (session.sourceFormat === 0) return layouts.reverse();
  // Only where it differs from a track for each part.
  return groups.length < parts.length || conducts
    ? [
        {
          value: 'source',
          label: 'tracks as they came',
          title: 'Format 1: the tracks of the imported file',
        },
        ...layouts,
      ]
    : layouts;
}

/** What the file will be, in a sentence. */
export function tracksInWords(exported: readonly Part[], session: Session, layout: Layout): string {
  const count = exported.length;
  if (count === 0) return 'Nothing: select at least one part.';
  const parts = count === 1 ? 'one part' : `${count} parts`;
  if (layout === 'one') return `Format 0: one track with ${parts}, tempo and meter.`;
  if (layout === 'parts')
    return `Format 1: one track per part, ${count + 1} with that of tempo, meter and markers.`;
  const groups = groupedByTrack(exported.map((part) => ({ part })));
  const conducts = groups.some(({ track }) => track !== null && track === session.conductor?.take);
  const tracks = groups.length + (conducts ? 0 : 1);
  return `Format 1, ${tracks === 1 ? 'one track' : `${tracks} tracks`} as they came, with ${parts}.`;
}
