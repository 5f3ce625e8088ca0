import {
  COMPARED_KINDS,
  COMPARED_WITHIN,
  COMPARED_WORDS,
  comparisonReport,
  drumName,
  listOf,
  pitchName,
  takesOfPart,
  type Part,
  type Session,
  type ComparisonView,
  type Counterpart,
} from '@ordle/core';
import { useMemo, useState } from 'react';
import { engine } from '@/engine/engineClient';
import { useAnswer } from '@/engine/useAnswer';
import { useOpenBench } from '@/music/useBench';
import { placeInWords } from '@/panels/notes/noteColumns';
import { SessionChoice } from '@/panels/otherSession/SessionChoice';
import { useOtherSession } from '@/panels/otherSession/useOtherSession';
import { useShowOnBench } from '@/panels/useShowOnBench';
import { saveAs } from '@/files/saveAs';
import { Button, Select } from '@/ui';
import { figures, msInWords } from '@/words/counts';
import { csvRows } from './chartFiles';
import { Differences } from './Differences';

const encoder = new TextEncoder();
/** The value of the choice that looks into another session. */
const ELSEWHERE = 'elsewhere';

/** A part beside another performance, note by note: what is missing, what is extra, what lies or sounds otherwise. */
export function ComparePane({ session, part }: { session: Session; part: Part }) {
  const { timeline, view: seen } = useOpenBench();
  const show = useShowOnBench();
  const other = useOtherSession(session.id);
  const [chosen, setChosen] = useState('played');
  const [elsewhere, setElsewhere] = useState('');
  const takes = takesOfPart(part, session);
  const parts = listOf(session.parts).filter(({ id }) => id !== part.id);
  const [kind, id] = chosen.split(' ');
  const otherParts = other.from ? listOf(other.from.parts) : [];
  const thatPart = otherParts.find((each) => each.id === elsewhere) ?? otherParts[0];
  const thatId = otherParts.length === 0 ? null : thatPart.id;
  const {
    answer: view,
    isCurrent,
    error,
  } = useAnswer(comparisonAsked, {
    session,
    partId: part.id,
    kind,
    id,
    from: other.from,
    thatId,
  });
  const otherName =
    kind === 'take'
      ? (takes.find((take) => take.id === id)?.name ?? '')
      : kind === 'part'
        ? (parts.find((each) => each.id === id)?.name ?? '')
        : kind === ELSEWHERE
          ? `${thatPart?.name ?? ''} of ${other.from?.name ?? ''}`
          : `${part.name} as played`;
  const nameOf = (pitch: number) =>
    (part.sound.drums ? drumName(pitch) : null) ?? pitchName(pitch, seen.middleC);
  const rows = useMemo(() => view?.notes.filter((note) => note.kind !== 'same') ?? [], [view]);
  const told = () =>
    rows.map(({ tick, pitch, ...rest }) => ({
      ...rest,
      place: placeInWords(Math.max(0, tick), { timeline, time: 'bars' }),
      note: nameOf(pitch),
    }));
  const save = (format: 'html' | 'csv') => {
    if (!view) return;
    const text =
      format === 'csv'
        ? csvRows([
            ['at', 'note', 'what', 'laterMs', 'louder', 'longerMs'],
            ...told().map(({ place, note, kind: what, laterMs, louder, longerMs }) => [
              place,
              note,
              COMPARED_WORDS[what],
              laterMs.toFixed(2),
              louder.toFixed(0),
              longerMs.toFixed(2),
            ]),
          ])
        : comparisonReport({
            one: `${part.name} as cleaned`,
            other: otherName,
            made: `Made on ${new Date().toLocaleDateString('en-GB', { dateStyle: 'long' })} in the session ${session.name}.`,
            counts: view.counts,
            slidMs: view.slidMs,
            laterMs: view.laterMs,
            differences: told(),
          });
    saveAs(
      `${part.name} compared.${format}`,
      encoder.encode(text),
      format === 'csv' ? 'text/csv' : 'text/html',
    );
  };
  return (
    <section aria-label="Compare" className="flex min-h-0 min-w-0 grow flex-col gap-2 py-3 pr-4">
      <header className="flex flex-wrap items-center gap-2">
        <span className="text-ink-2">{part.name} as cleaned, compared with</span>
        <Select label="Compared with" value={chosen} className="max-w-48" onChange={setChosen}>
          <option value="played">itself as played</option>
          {takes.length > 1 &&
            takes.map((take) => (
              <option key={take.id} value={`take ${take.id}`}>
                take: {take.name}
              </option>
            ))}
          {parts.map((each) => (
            <option key={each.id} value={`part ${each.id}`}>
              {each.name}
            </option>
          ))}
          <option value={ELSEWHERE}>a part of another session</option>
        </Select>
        {kind === ELSEWHERE && <SessionChoice other={other} onLook={() => setElsewhere('')} />}
        {kind === ELSEWHERE && thatPart && (
          <Select label="Part there" value={thatPart.id} onChange={setElsewhere}>
            {otherParts.map((each) => (
              <option key={each.id} value={each.id}>
                {each.name}
              </option>
            ))}
          </Select>
        )}
        <span className="grow" />
        <Button disabled={!isCurrent} onClick={() => save('csv')}>
          Save CSV
        </Button>
        <Button disabled={!isCurrent} onClick={() => save('html')}>
          Save report
        </Button>
      </header>
      {error && <p role="alert">{error}</p>}
      {view && (
        <p data-testid="compared">
          {COMPARED_KINDS.map((each) => `${figures(view.counts[each])} ${COMPARED_WORDS[each]}`).join(', ')}
          <span className="text-ink-2">
            {view.counts.same + view.counts.moved + view.counts.changed > 0 &&
              `; on average ${msInWords(Math.abs(view.laterMs.mean))} ms ${view.laterMs.mean >= 0 ? 'later' : 'earlier'} here, ${msInWords(view.laterMs.deviation)} ms about that`}
            {view.slidMs !== 0 &&
              `; the other was slid ${figures(Math.round(Math.abs(view.slidMs)))} ms ${view.slidMs > 0 ? 'later' : 'earlier'}`}
          </span>
          <span className="block text-ink-2">
            {figures(view.elsewhere)} of them are elsewhere by half a millisecond or more; up to{' '}
            {COMPARED_WITHIN.alikeMs} ms counts as the same, notes are paired over {COMPARED_WITHIN.pairedMs}{' '}
            ms.
          </span>
        </p>
      )}
      {view && rows.length > 0 && (
        <Differences
          rows={rows}
          words={({ tick, pitch }) => ({
            place: placeInWords(Math.max(0, tick), { timeline, time: 'bars' }),
            note: nameOf(pitch),
          })}
          onShow={({ tick, row }) =>
            show({ partId: part.id, notes: row < 0 ? [] : [view.ids[row]], tick: Math.max(0, tick) })
          }
        />
      )}
    </section>
  );
}

interface Asked {
  session: Session;
  partId: string;
  /** What was chosen: itself as played, a take or a part by its id, or a part of another session. */
  kind: string;
  id: string;
  from: Session | null;
  thatId: string | null;
}

function counterpartOf({ partId, kind, id, from, thatId }: Asked): Counterpart | null {
  if (kind === 'take') return { kind: 'take', takeId: id };
  if (kind === 'part') return { kind: 'part', partId: id, stage: 'cleaned' };
  if (kind !== ELSEWHERE) return { kind: 'part', partId, stage: 'played' };
  return from && thatId !== null ? { kind: 'part', partId: thatId, stage: 'cleaned', session: from } : null;
}

/** The comparison that is asked for; none while nothing is chosen to compare with. */
async function comparisonAsked(asked: Asked): Promise<ComparisonView | null> {
  const counterpart = counterpartOf(asked);
  const { session, partId } = asked;
  return counterpart ? engine.comparison({ session, partId, counterpart }) : null;
}
