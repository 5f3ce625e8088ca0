import type { OtherTempo } from '@ordle/core';

const bpm = (value: number): string => value.toFixed(2).replace(/\.?0+$/, '');

/** What becomes of a file or session, named by `subject`, that is of another tempo than the session it is added to. */
export function otherTempoInWords(subject: string, { added, session }: OtherTempo): string {
  const [theirs, own] = [bpm(added), bpm(session)];
  const which =
    theirs === own ? 'tempo changes of its own' : `another tempo, ${theirs} bpm instead of ${own}`;
  return `${subject} has ${which}. It is laid by its beats into the tempo of this session, so it does not last as long as it was played.`;
}
