import { xmlIdOf, type Timeline } from '@ordle/core';
import { useCallback, useMemo } from 'react';
import type { PlayedScore } from '@/engine/protocol';
import type { Selection } from '@/state/selection';
import { paintPlayed } from './paintPlayed';
import { ScoreSheet } from './ScoreSheet';

interface PlayedSheetProps {
  score: PlayedScore | null;
  error: string | null;
  scale: number;
  layout: 'continuous' | 'pages';
  timeline: Timeline;
  playing: boolean;
  onSelect(partId: string, id: number): void;
}

/** The written score with the playing on it. */
export function PlayedSheet({ score, error, onSelect, ...sheet }: PlayedSheetProps) {
  const marks = useMemo(() => score?.marks ?? [], [score]);
  const elements = useMemo(() => {
    const byNote = new Map<string, string>();
    for (const { id, note } of marks) if (note) byNote.set(`${note.partId} ${note.id}`, xmlIdOf(0, id));
    return byNote;
  }, [marks]);
  const decorate = useCallback((page: Element) => score && paintPlayed(page, score), [score]);
  const chosen = ({ partId, ids }: Selection) =>
    Array.from(ids).flatMap((id) => elements.get(`${partId ?? ''} ${id}`) ?? []);
  if (!score || score.strips.length === 0)
    return (
      <p className="grow p-6 text-ink-2" role="status">
        {error ?? (score ? 'Nothing of the score was found in the playing.' : 'Following the score ...')}
      </p>
    );
  return (
    <ScoreSheet
      {...sheet}
      strips={score.strips}
      barAt={(tick) => Math.max(1, score.barTicks.findLastIndex((at) => at <= tick + 1e-6) + 1)}
      onNote={(_, id) => {
        const note = marks.at(id)?.note;
        if (note) onSelect(note.partId, note.id);
      }}
      chosen={chosen}
      decorate={decorate}
    />
  );
}
