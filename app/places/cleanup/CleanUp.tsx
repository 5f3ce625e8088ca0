import { itemOf, listOf } from '@ordle/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useCommands } from '@/commands';
import { cancelEngine } from '@/engine/engineClient';
import { onProgress } from '@/engine/progress';
import { useRepairs } from '@/files/cameIn';
import { stopAt } from '@/music/stops';
import { useBench, useOpenBench, type BenchState } from '@/music/useBench';
import { isWithoutNotes, usePartContents } from '@/music/usePartContents';
import { NoParts } from '@/panels/NoParts';
import { TransportBar } from '@/panels/transport/TransportBar';
import { usePlayback } from '@/playback/usePlayback';
import { transport } from '@/sound/transport';
import { undoLast } from '@/state/sessionSlice';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { Button, Progress } from '@/ui';
import { counted, msInWords } from '@/words/counts';
import { BeatsToAgree } from './BeatsToAgree';
import { Noticed } from './Noticed';
import { PartLine } from './PartLine';
import { useCleanUp, type CleanUpState, type Done } from './useCleanUp';
import { certainty, whatItIs } from './words';

/** What came in and what would be done about it: one sheet, with one button for all of it. */
export function CleanUp() {
  const bench = useBench();
  if (!bench) return null;
  if (!bench.part) return <NoParts>This session has no parts to clean up.</NoParts>;
  // Another session is another sheet.
  return <Sheet key={bench.session.id} />;
}

function Sheet() {
  const bench = useOpenBench();
  const { mayWrite, session } = bench;
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const state = useCleanUp(session);
  const { suggestion, done } = state;
  const heard = useHeard(bench, state);
  const playback = usePlayback(heard, bench.timeline);
  useLetGo(state.isCurrent);
  useCommands({
    play: () => void playback.toggle(),
    click: () => dispatch(viewChanged({ click: !bench.view.click })),
    'to-start': () => transport.locate(0),
  });
  const [only] = suggestion?.recordings ?? [];
  const beats = suggestion?.recordings.length === 1 ? only.beats : null;
  return (
    <main className="flex min-w-0 grow flex-col">
      <div className="min-h-0 grow overflow-y-auto px-4 py-5">
        <article
          aria-label="Suggested clean-up"
          data-testid="clean-up"
          data-read={suggestion !== null && state.isCurrent}
          className="mx-auto w-full max-w-5xl border border-rule bg-sheet px-6 py-5 max-sm:px-3"
        >
          <p className="text-ink-2">Suggested clean-up</p>
          {suggestion === null ? (
            <Looking error={state.error} onAgain={state.again} />
          ) : (
            <>
              <h2 className="font-serif text-xl leading-snug font-semibold">{whatItIs(suggestion)}</h2>
              {suggestion.recordings.length === 1 && (
                <p className="mt-0.5 text-ink-2">
                  That it was {only.recorded === 'freely' ? 'played freely' : 'recorded to the click'} is{' '}
                  {certainty(only.confidence)}.
                </p>
              )}
              {done && (
                <DoneBox done={done} sessionId={session.id} onUndo={() => void dispatch(undoLast())} />
              )}
              {beats && (
                <BeatsToAgree
                  recording={only}
                  beats={beats}
                  state={state}
                  sessionId={session.id}
                  mayWrite={mayWrite}
                  isPlaying={playback.playing}
                  onHear={() => {
                    dispatch(viewChanged({ click: true }));
                    void playback.toggle();
                  }}
                />
              )}
              {!done && <Parts state={state} isAsked={beats !== null && !state.agreed} mayWrite={mayWrite} />}
            </>
          )}
          {suggestion !== null && !done && (
            <footer className="mt-4 flex flex-wrap items-center gap-2">
              <Button
                look="main"
                className="h-9! px-4!"
                disabled={!mayWrite || !state.mayDo}
                title={beats && !state.agreed ? 'Agree to the beats first' : undefined}
                onClick={state.clean}
              >
                Clean all of it
              </Button>
              <Button onClick={() => void playback.toggle()}>
                {playback.playing ? 'Stop' : 'Hear it cleaned'}
              </Button>
              <Button onClick={() => void navigate(`/s/${session.id}`)}>Look closer on the Bench</Button>
              <Link to={`/s/${session.id}`} className="ml-1 underline hover:text-ink">
                Not now
              </Link>
              {error(state)}
            </footer>
          )}
          {suggestion !== null && <CameIn bench={bench} />}
        </article>
      </div>
      <TransportBar playback={playback} />
    </main>
  );
}

/** Leaving the sheet while the music is still looked through gives that up, so that nothing else waits for it. */
function useLetGo(isDone: boolean) {
  const latest = useRef(isDone);
  useEffect(() => {
    latest.current = isDone;
  });
  useEffect(
    () => () => {
      if (!latest.current) cancelEngine();
    },
    [],
  );
}

const error = ({ error: words }: CleanUpState) => words !== null && <p role="alert">{words}</p>;

/** What is played while the sheet is open: the session as it would be. Only listened to, it is kept nowhere. */
function useHeard(bench: BenchState, { heard, timeline }: CleanUpState): BenchState {
  return useMemo(() => {
    const part = itemOf(heard.parts, bench.part?.id ?? undefined) ?? null;
    return { ...bench, session: heard, timeline, part, stop: part && stopAt(part, 'cleaned') };
  }, [bench, heard, timeline]);
}

/** While the music is looked through: how far that is, and a way out of it. */
function Looking({ error, onAgain }: { error: string | null; onAgain(): void }) {
  const [share, setShare] = useState(0);
  useEffect(() => onProgress(setShare), []);
  if (error)
    return (
      <div className="mt-2 flex flex-col items-start gap-2">
        <p role="alert">{error}</p>
        <Button onClick={onAgain}>Look again</Button>
      </div>
    );
  return (
    <div className="mt-2 flex items-center gap-3">
      <p role="status">Looking through the parts ...</p>
      <Progress label="Looking through the parts" share={share} />
      <Button onClick={cancelEngine}>Cancel</Button>
    </div>
  );
}

function Parts({ state, isAsked, mayWrite }: { state: CleanUpState; isAsked: boolean; mayWrite: boolean }) {
  const { suggestion, heard } = state;
  if (!suggestion) return null;
  return (
    <section aria-label="Parts" className="mt-4">
      {isAsked && (
        <p className="text-ink-2">Once the beats are agreed to, this would be done to the parts:</p>
      )}
      <ul className="border-t border-rule-strong" aria-busy={!state.isCurrent}>
        {suggestion.parts.map((advised) => {
          const part = itemOf(heard.parts, advised.partId);
          return (
            part && (
              <PartLine
                key={part.id}
                part={part}
                advised={advised}
                session={heard}
                state={state}
                disabled={isAsked || !mayWrite || !state.isCurrent}
              />
            )
          );
        })}
      </ul>
    </section>
  );
}

/** What was done, in figures, and where to go from here. */
function DoneBox({ done, sessionId, onUndo }: { done: Done; sessionId: string; onUndo(): void }) {
  return (
    <section
      role="status"
      aria-label="What was done"
      className="mt-4 border-y border-rule-strong bg-ground px-4 py-3"
    >
      <p className="font-semibold">
        {done.beats > 0 && `The tempo map follows the ${counted(done.beats, 'beat')} that were played. `}
        {counted(done.parts.length, 'part')} cleaned, as one action. What was played is kept.
      </p>
      <ul className="mt-1">
        {done.parts.map(({ name, words, before, after }) => (
          <li key={name}>
            {name}: {words}; {msInWords(before)} → {msInWords(after)} ms off the grid
          </li>
        ))}
      </ul>
      <div className="mt-2 flex flex-wrap gap-2">
        <LinkButton to={`/s/${sessionId}/export`} isMain>
          Go on to Export
        </LinkButton>
        <LinkButton to={`/s/${sessionId}`}>See it on the Bench</LinkButton>
        <Button onClick={onUndo}>Take all of it back</Button>
      </div>
    </section>
  );
}

function LinkButton({ to, isMain = false, children }: { to: string; isMain?: boolean; children: string }) {
  return (
    <Link
      to={to}
      className={`inline-flex h-7 items-center rounded-medium border px-2.5 whitespace-nowrap ${isMain ? 'border-accent bg-accent text-on-accent hover:brightness-110' : 'border-edge bg-sheet hover:bg-well'}`}
    >
      {children}
    </Link>
  );
}

/** What was repaired on the way in, what is empty, and what else is wrong with it. */
function CameIn({ bench: { session } }: { bench: BenchState }) {
  const repairs = useRepairs(session.id);
  const contents = usePartContents(session);
  const empty = listOf(session.parts).filter(({ id }) => isWithoutNotes(contents[id]));
  return (
    <section aria-label="What else there is to know" className="mt-4 flex flex-col gap-1 text-ink-2">
      {repairs.length > 0 && (
        <details>
          <summary className="cursor-pointer">
            {counted(repairs.length, 'repair')} to the file on the way in; the file on your disk is as it was
          </summary>
          <ul className="ml-4 list-disc">
            {repairs.slice(0, 100).map(({ message }, at) => (
              <li key={at}>{message}</li>
            ))}
          </ul>
        </details>
      )}
      {empty.length > 0 && (
        <p>
          Without notes:{' '}
          {empty
            .slice(0, 6)
            .map(({ name }) => name)
            .join(', ')}
          {empty.length > 6 && ` and ${empty.length - 6} more`}.
        </p>
      )}
      <Noticed session={session} />
    </section>
  );
}
