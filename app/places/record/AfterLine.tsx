import { listOf, type Session } from '@ordle/core';
import { X } from 'lucide-react';
import { Link } from 'react-router';
import { forgetLastPut, startRecording, useLastPut } from '@/recording/recorder';
import { Button } from '@/ui';
import { counted } from '@/words/counts';
import type { usePlayback } from '@/playback/usePlayback';

interface AfterLineProps {
  session: Session;
  playback: ReturnType<typeof usePlayback>;
  onUndo(): void;
}

/** After a recording one line leads on. */
export function AfterLine({ session, playback, onUndo }: AfterLineProps) {
  const put = useLastPut();
  if (!put || put.sessionId !== session.id) return null;
  const parts = listOf(session.parts).filter(({ id }) => put.partIds.includes(id));
  if (parts.length === 0) return null;
  const isFree = parts.some(({ lockedTo }) => lockedTo === 'seconds');
  return (
    <p
      role="status"
      className="flex shrink-0 flex-wrap items-center gap-2 border-b border-rule bg-well px-5 py-1.5"
    >
      <span className="grow">
        <b>{put.label}</b>: {counted(put.notes, 'note')}
        {put.passes > 1 && ` in ${put.passes} passes`}.
      </span>
      <Button onClick={() => void playback.toggle()}>{playback.playing ? 'Stop' : 'Hear it'}</Button>
      <LinkButton to={`/s/${session.id}/readings`}>Suggested clean-up</LinkButton>
      <LinkButton to={`/s/${session.id}/takes`}>Takes</LinkButton>
      {isFree && <LinkButton to={`/s/${session.id}/tempo`}>Find its tempo</LinkButton>}
      <Button onClick={onUndo}>Take it back</Button>
      <Button onClick={() => void startRecording()}>Again</Button>
      <button
        type="button"
        aria-label="Close"
        onClick={forgetLastPut}
        className="p-1 text-ink-2 hover:text-ink"
      >
        <X size={14} aria-hidden="true" />
      </button>
    </p>
  );
}

const LinkButton = ({ to, children }: { to: string; children: string }) => (
  <Link
    to={to}
    className="inline-flex h-7 items-center rounded-medium border border-edge bg-sheet px-2.5 whitespace-nowrap hover:bg-well"
  >
    {children}
  </Link>
);
