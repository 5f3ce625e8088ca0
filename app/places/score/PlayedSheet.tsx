import { xmlIdOf, type Timeline } from '@ordle/core';
import { useCallback, useMemo, useRef } from 'react';
import { useCommands } from '@/commands';
import type { PlayedScore } from '@/engine/protocol';
import type { Selection } from '@/state/selection';
import { PageStrip, barOfTick } from './PageStrip';
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
  useFaultWalk(score, onSelect);
  const chosen = ({ partId, ids }: Selection) =>
    Array.from(ids).flatMap((id) => elements.get(`${partId ?? ''} ${id}`) ?? []);
  if (!score || score.strips.length === 0)
    return (
      <p className="grow p-6 text-ink-2" role="status">
        {error ?? (score ? 'Nothing of the score was found in the playing.' : 'Following the score ...')}
      </p>
    );
  return (
    <div className="flex min-w-0 grow flex-col">
      <PageStrip score={score} onBar={(bar) => showBar(score, bar)} />
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
    </div>
  );
}

/** Brings a bar of the page into sight. */
function showBar({ strips }: PlayedScore, bar: number) {
  const strip = strips.find(({ from, to }) => bar >= from && bar < to);
  const section = document.querySelector(`.score section[data-from="${strip?.from ?? 1}"]`);
  const measure = section?.querySelectorAll('g.measure')[bar - (strip?.from ?? 1)];
  (measure ?? section)?.scrollIntoView({ block: 'nearest' });
}

/** A note this early or late is gone to, in ms. */
const LOOSE_MS = 40;
/** So long a strip that came into sight is waited for, in ms. */
const DRAWN_WITHIN = 5000;

/** From one wrong, missing or loose note to the next, by key; what was played is selected too. */
function useFaultWalk(score: PlayedScore | null, onSelect: PlayedSheetProps['onSelect']) {
  const at = useRef(-1);
  const go = (step: 1 | -1) => {
    const faults = (score?.marks ?? []).filter(
      ({ is, lateMs }) => is !== 'right' || Math.abs(lateMs) > LOOSE_MS,
    );
    const next =
      step > 0 ? faults.find(({ id }) => id > at.current) : faults.findLast(({ id }) => id < at.current);
    const mark = next ?? faults.at(step > 0 ? 0 : -1);
    if (!mark || !score) return;
    at.current = mark.id;
    if (mark.note) onSelect(mark.note.partId, mark.note.id);
    showBar(score, barOfTick(score.barTicks, mark.tick) + 1);
    pointAt(xmlIdOf(0, mark.id), performance.now() + DRAWN_WITHIN);
  };
  useCommands({ 'next-fault': () => go(1), 'fault-before': () => go(-1) });
}

/** Brings a note into sight and points at it, as soon as it is engraved. */
function pointAt(id: string, until: number) {
  document.querySelectorAll('.score .pointed').forEach((each) => each.classList.remove('pointed'));
  const note = document.getElementById(id);
  if (note) {
    note.scrollIntoView({ block: 'nearest' });
    note.classList.add('pointed');
  } else if (performance.now() < until) requestAnimationFrame(() => pointAt(id, until));
}
