import { groupedByTrack, itemOf, listOf, timelineOf, type MidiOptions, type Part } from '@ordle/core';
import { useEffect, useMemo } from 'react';
import { CheckList } from '@/panels/check/CheckList';
import { useExportCheck } from '@/panels/check/useExportCheck';
import { engine } from '@/engine/engineClient';
import { useAnswer } from '@/engine/useAnswer';
import { isWithoutNotes, usePartContents } from '@/music/usePartContents';
import { NoParts } from '@/panels/NoParts';
import { selectDocument } from '@/state/sessionSlice';
import { useAppSelector } from '@/state/store';
import { ExportBar } from './ExportBar';
import { choiceOf, isWanted, optionsKept, ticked, useKeptChoice } from './exportChoice';
import { seeRun } from './exportRun';
import { FormatList } from './FormatList';
import { PartsToExport } from './PartsToExport';
import { Untouched } from './Untouched';
import { WhatIsWritten } from './WhatIsWritten';
import { WhatOfThem } from './WhatOfThem';

/** Says what to hand on and as what, shows what will be written, lets it be heard, and writes it. */
export function Export() {
  const session = useAppSelector(selectDocument);
  if (!session) return null;
  if (session.parts.order.length === 0) return <NoParts>This session has no parts to be handed on.</NoParts>;
  return <ExportOf key={session.id} />;
}

const knownAsked = (asked: Parameters<typeof engine.checkFormats>[0]) => engine.checkFormats(asked);
const planAsked = (asked: Parameters<typeof engine.planExport>[0]) => engine.planExport(asked);

function ExportOf() {
  const session = useAppSelector(selectDocument);
  const mayWrite = useAppSelector((state) => state.session.mayWrite);
  const contents = usePartContents(session);
  useEffect(seeRun, []);
  if (!session) throw new Error('No session is open.');
  const { kept, isRead, choose } = useKeptChoice(session);
  const wanted = useMemo(() => listOf(session.parts).filter((part) => isWanted(kept, part)), [session, kept]);
  const ids = useMemo(() => wanted.map(({ id }) => id), [wanted]);
  const midi = optionsKept<MidiOptions>(kept, 'mid');
  const { check, fault } = useExportCheck(session, { parts: ids, version: kept.version }, midi);
  const waiting = check?.waiting ?? [];
  // What cannot be worked out is not written; the rest is.
  const written = wanted.filter(({ id }) => !waiting.some(({ partId }) => partId === id));
  const choice = useMemo(() => choiceOf(kept, ids), [kept, ids]);
  const plan = useAnswer(planAsked, { session, choice });
  const known = useAnswer(knownAsked, { session, choice });
  const tick = (parts: readonly Part[], isOn: boolean) => choose({ ticks: ticked(kept, parts, isOn) });
  const tickOne = (id: string, isOn: boolean) =>
    tick(
      listOf(session.parts).filter((part) => part.id === id),
      isOn,
    );
  const untouched = written.filter(
    (part) =>
      !isWithoutNotes(contents[part.id]) &&
      part.folded.length === 0 &&
      !listOf(part.steps).some(({ step }) => step.on),
  );
  const timeline = timelineOf(session);
  return (
    <main className="flex min-w-0 grow flex-col" data-testid="export" data-busy={!isRead || !plan.isCurrent}>
      <div className="flex grow justify-center overflow-y-auto px-8 py-6 narrow:px-4 narrow:pt-4 narrow:pb-8">
        <div className="grid w-full max-w-6xl grid-cols-[minmax(0,1fr)_27rem] gap-10 max-lg:gap-6 narrow:grid-cols-[minmax(0,1fr)] narrow:gap-5">
          <section aria-label="Parts to export">
            <h2 className="font-serif text-2xl font-semibold">Export</h2>
            <PartsToExport
              session={session}
              contents={contents}
              isWanted={(part) => isWanted(kept, part)}
              onTick={tickOne}
              onAll={(isOn) => tick(listOf(session.parts), isOn)}
            />
            {kept.version === 'cleaned' && untouched.length > 0 && (
              <Untouched parts={untouched} all={written.length} sessionId={session.id} />
            )}
            <section aria-label="Check before export" className="mt-5">
              <h2 className="mb-1 font-semibold">Check</h2>
              {waiting.map(({ partId, why }) => (
                <p key={partId} role="alert" className="mb-1">
                  Not written: {why}
                </p>
              ))}
              {fault && <p role="alert">{fault}</p>}
              {written.length === 0 || fault ? null : check ? (
                <CheckList
                  session={session}
                  check={check}
                  ticksPerQuarter={timeline.ticksPerQuarter}
                  version={kept.version}
                  mayWrite={mayWrite}
                  onLeaveOut={(id) => tickOne(id, false)}
                  onTakeAlong={(id) => tickOne(id, true)}
                />
              ) : (
                <p className="text-ink-2">Looking through the parts ...</p>
              )}
            </section>
            <WhatIsWritten
              plan={plan.answer}
              known={known.isCurrent && known.error === null ? (known.answer ?? []) : []}
              isCurrent={plan.isCurrent}
              error={plan.error}
              check={kept.on.includes('mid') ? check : null}
              parts={written.length}
              nameOf={(id) => itemOf(session.parts, id)?.name ?? ''}
            />
          </section>
          <section
            aria-label="How it is written"
            className="flex min-w-0 flex-col gap-4 border-l border-rule pl-8 max-lg:pl-5 narrow:border-l-0 narrow:pl-0"
          >
            <WhatOfThem endTick={plan.answer?.endTick ?? 0} kept={kept} choose={choose} />
            <FormatList session={session} kept={kept} choose={choose} check={check} hasTracks={hasTracks} />
          </section>
        </div>
      </div>
      <ExportBar
        session={session}
        choice={choice}
        plan={plan.answer}
        isReady={isRead && plan.isCurrent && plan.error === null && written.length > 0}
      />
    </main>
  );

  /** Whether the tracks it came in are others than a track for each part. */
  function hasTracks(): boolean {
    if (!session || session.sourceFormat === 0) return false;
    const parts = listOf(session.parts);
    const groups = groupedByTrack(parts.map((part) => ({ part })));
    return (
      groups.length < parts.length ||
      groups.some(({ track }) => track !== null && track === session.conductor?.take)
    );
  }
}
