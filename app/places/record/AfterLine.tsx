import { isQuantize, kindOf, listOf, type Part, type Session, type Step } from '@ordle/core';
import { X } from 'lucide-react';
import { Link } from 'react-router';
import { forgetLastPut, startRecording, useLastPut } from '@/recording/recorder';
import { Button } from '@/ui';
import { engine } from '@/engine/engineClient';
import { useAnswer } from '@/engine/useAnswer';
import { selectMayWrite } from '@/state/sessionSlice';
import { useAppDispatch, useAppSelector } from '@/state/store';
import { addSuggested, quantizeTo } from '@/steps/suggestedSteps';
import { counted, msInWords } from '@/words/counts';
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
  // Taken back, there is nothing to lead on from.
  if (parts.length === 0 || !put.takes.every((key) => session.takes.order.includes(key))) return null;
  const isFree = parts.some(({ lockedTo }) => lockedTo === 'seconds');
  return (
    <p
      role="status"
      className="flex shrink-0 flex-wrap items-center gap-2 border-b border-rule bg-well px-5 py-1.5"
    >
      <span className="grow">
        <b>{put.label}</b>: {put.notes === 0 ? 'controllers alone' : counted(put.notes, 'note')}
        {put.passes > 1 && ` in ${put.passes} passes`}.
      </span>
      <Button onClick={() => void playback.toggle()}>{playback.playing ? 'Stop' : 'Hear it'}</Button>
      <Advice session={session} part={parts[0]} />
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

const inWords = (step: Step) => `${kindOf(step.kind).title} ${kindOf(step.kind).describe(step)}`;

/** Fewer notes tell nothing of a grid. */
const FEWEST_NOTES = 8;

/** What would clean up what was just played, and a grid that explains it better than the one it was heard on. */
function Advice({ session, part }: { session: Session; part: Part }) {
  const dispatch = useAppDispatch();
  const mayWrite = useAppSelector(selectMayWrite);
  const { answer } = useAnswer(readingsOf, { session });
  const { answer: suggested } = useAnswer(suggestionOf, { session });
  const own = answer?.parts.find(({ partId }) => partId === part.id);
  if (!own || !mayWrite) return null;
  const heardOn = listOf(part.steps)
    .map(({ step }) => step)
    .find(isQuantize);
  const likely = own.grids.find(({ isLikely }) => isLikely);
  const isEnough = own.played.notes >= FEWEST_NOTES;
  const isOther = isEnough && heardOn !== undefined && likely !== undefined && heardOn.grid !== likely.grid;
  const suggestion = suggested?.parts.find(({ partId }) => partId === part.id);
  return (
    <>
      {isOther && likely.fit > 0.5 && (
        <Button
          title={`It fits ${Math.round(100 * likely.fit)} % of what was played`}
          onClick={() => quantizeTo(dispatch, part, likely)}
        >
          Played nearer to {likely.grid}: take that grid
        </Button>
      )}
      {suggestion && suggestion.steps.length > 0 && !isOther && (
        <Button
          title={suggestion.reasons.join(' ')}
          onClick={() => addSuggested(dispatch, [{ partId: part.id, steps: suggestion.steps }])}
        >
          {suggestion.steps.map(inWords).join(', ')}: {msInWords(suggestion.before.offMs)} →{' '}
          {msInWords(suggestion.after.offMs)} ms
        </Button>
      )}
    </>
  );
}

const readingsOf = ({ session }: { session: Session }) =>
  engine.readings({ session, grid: '1/16', where: {} });
const suggestionOf = ({ session }: { session: Session }) => engine.suggestion({ session, said: {} });

const LinkButton = ({ to, children }: { to: string; children: string }) => (
  <Link
    to={to}
    className="inline-flex h-7 items-center rounded-medium border border-edge bg-sheet px-2.5 whitespace-nowrap hover:bg-well"
  >
    {children}
  </Link>
);
