import { FINDING_KINDS, isCertain, itemOf, type FindingKind, FINDING_NAMES } from '@ordle/core';
import { useState } from 'react';
import { useOpenBench } from '@/music/useBench';
import { placeInWords } from '@/panels/notes/noteColumns';
import { useAppDispatch } from '@/state/store';
import { Button, Select, WithMenu } from '@/ui';
import { counted, figures } from '@/words/counts';
import { mendInWords } from '@/words/findings';
import { mend, type PartFinding } from '@/edits/mendFindings';
import { dismiss, putRight, recall } from './readingsActions';

interface FindingsListProps {
  findings: readonly PartFinding[];
  isRead: boolean;
  onHear(finding: PartFinding): void;
  onShow(finding: PartFinding): void;
}

/** Rows at a time: a person goes through no more of them at once. */
const MOST_ROWS = 150;

/** What is probably wrong, each with its place, its reason, and what can be done about it. */
export function FindingsList({ findings, isRead, onHear, onShow }: FindingsListProps) {
  const { session, timeline, mayWrite } = useOpenBench();
  const dispatch = useAppDispatch();
  const [kind, setKind] = useState<FindingKind | ''>('');
  const counts = new Map<FindingKind, number>();
  for (const each of findings) counts.set(each.kind, (counts.get(each.kind) ?? 0) + 1);
  const filter = kind !== '' && counts.has(kind) ? kind : '';
  const listed = filter === '' ? findings : findings.filter((each) => each.kind === filter);
  const mendable = listed.filter(({ mend: step }) => step !== null);
  const mended = mendable.filter(isCertain);
  const left = mendable.length - mended.length;
  const areDismissed = session.parts.order.some((id) => (session.parts.byId[id].dismissed?.length ?? 0) > 0);
  return (
    <section aria-label="Findings" data-testid="findings" className="flex min-h-0 grow flex-col">
      <header className="flex flex-col gap-2 border-b border-rule p-4">
        <h2 className="font-serif text-[1.05rem] font-semibold">
          Findings{' '}
          <span className="font-sans text-work font-normal text-ink-2">
            {isRead ? `${figures(findings.length)} in the parts as cleaned` : 'Looking ...'}
          </span>
        </h2>
        <div className="flex items-center gap-2">
          <Select
            label="Kind"
            tip="Which kind of findings is listed."
            initial="all kinds"
            value={filter}
            className="max-w-48"
            onChange={(value) => setKind(value as FindingKind | '')}
          >
            <option value="">all kinds</option>
            {FINDING_KINDS.filter((each) => counts.has(each)).map((each) => (
              <option key={each} value={each}>
                {FINDING_NAMES[each]} ({figures(counts.get(each) ?? 0)})
              </option>
            ))}
          </Select>
          <span className="grow" />
          <Button disabled={!mayWrite || mended.length === 0} onClick={() => mend(dispatch, mended)}>
            Fix these {mended.length > 0 && figures(mended.length)}
          </Button>
        </div>
        {left > 0 && (
          <p className="text-ink-2" data-testid="mend-left">
            {counted(left, 'is only likely', 'are only likely')}, and left for you to decide.
          </p>
        )}
      </header>
      <ul className="grow overflow-y-auto" tabIndex={0} aria-label="Findings in order of time">
        {isRead && listed.length === 0 && (
          <li className="p-4 text-ink-2">Nothing was found that needs fixing.</li>
        )}
        {listed.slice(0, MOST_ROWS).map((finding) => {
          const does = mendInWords(finding);
          const doIt = () => (finding.mend ? mend(dispatch, [finding]) : putRight(dispatch, finding));
          return (
            <WithMenu
              key={`${finding.kind} ${finding.partId} ${finding.tick} ${finding.notes.join(' ')}`}
              items={() => [
                { label: 'Hear', onSelect: () => onHear(finding) },
                { label: 'Show on the Bench', onSelect: () => onShow(finding) },
                null,
                ...(does ? [{ label: does, disabled: !mayWrite, onSelect: doIt }] : []),
                { label: 'Dismiss', disabled: !mayWrite, onSelect: () => dismiss(dispatch, finding) },
              ]}
            >
              <li className="flex flex-col gap-0.5 border-b border-rule px-4 py-2">
                <p className="flex items-baseline gap-2">
                  <span className="font-semibold">{FINDING_NAMES[finding.kind]}</span>
                  <span className="text-quiet text-ink-2">{isCertain(finding) ? 'certain' : 'likely'}</span>
                  <span className="min-w-0 grow truncate text-ink-2">
                    {itemOf(session.parts, finding.partId)?.name},{' '}
                    {placeInWords(finding.tick, { timeline, time: 'bars' })}
                  </span>
                </p>
                <p>{finding.reason}</p>
                <p className="flex flex-wrap items-center gap-1 pt-0.5">
                  <Button look="quiet" className="-ml-2 h-6 px-2" onClick={() => onHear(finding)}>
                    Hear
                  </Button>
                  <Button look="quiet" className="h-6 px-2" onClick={() => onShow(finding)}>
                    Show
                  </Button>
                  <Button
                    look="quiet"
                    className="h-6 px-2"
                    disabled={!mayWrite}
                    onClick={() => dismiss(dispatch, finding)}
                  >
                    Dismiss
                  </Button>
                  <span className="grow" />
                  {does && (
                    <Button className="h-6 px-2" disabled={!mayWrite} onClick={doIt}>
                      {does}
                    </Button>
                  )}
                </p>
              </li>
            </WithMenu>
          );
        })}
        {listed.length > MOST_ROWS && (
          <li className="p-4 text-ink-2">
            {counted(listed.length - MOST_ROWS, 'more finding')}: fix or dismiss some of these, or choose a
            kind.
          </li>
        )}
      </ul>
      {areDismissed && (
        <footer className="border-t border-rule p-2">
          <Button look="quiet" disabled={!mayWrite} onClick={() => recall(dispatch)}>
            List the dismissed again
          </Button>
        </footer>
      )}
    </section>
  );
}
