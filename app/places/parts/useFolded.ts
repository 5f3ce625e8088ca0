import { useState } from 'react';

/** Which groups are folded, by session, for as long as the page is open. */
const kept = new Map<string, ReadonlySet<string>>();

/** The folded groups of a session, and the way to fold or unfold one. */
export function useFolded(sessionId: string): [ReadonlySet<string>, (group: string) => void] {
  const [folded, setFolded] = useState<ReadonlySet<string>>(() => kept.get(sessionId) ?? new Set());
  return [
    folded,
    (group) => {
      const next = new Set(folded);
      if (!next.delete(group)) next.add(group);
      kept.set(sessionId, next);
      setFolded(next);
    },
  ];
}
