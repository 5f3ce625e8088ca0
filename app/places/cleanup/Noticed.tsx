import { nameOfFinding, type FindingKind, type Session, FINDING_NAMES } from '@ordle/core';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { engine } from '@/engine/engineClient';
import { useAnswer } from '@/engine/useAnswer';
import { figures } from '@/words/counts';

const readingsOf = ({ session }: { session: Session }) =>
  engine.readings({ session, grid: '1/16', where: {} });

/** What is probably wrong beside the timing, counted by kind, with the way to it. */
export function Noticed({ session }: { session: Session }) {
  const { answer } = useAnswer(readingsOf, { session });
  const counts = useMemo(() => {
    const found = new Map<FindingKind, number>();
    for (const finding of answer?.findings ?? []) {
      const dismissed = session.parts.byId[finding.partId].dismissed ?? [];
      if (finding.kind !== 'empty-track' && !dismissed.includes(nameOfFinding(finding)))
        found.set(finding.kind, (found.get(finding.kind) ?? 0) + 1);
    }
    return [...found];
  }, [answer, session.parts]);
  if (!answer) return null;
  if (counts.length === 0) return <p>Beside the timing nothing was noticed.</p>;
  return (
    <p>
      Noticed apart from the timing:{' '}
      {counts.map(([kind, count]) => `${figures(count)} × ${FINDING_NAMES[kind]}`).join(', ')}.{' '}
      <Link to={`/s/${session.id}/readings`} className="underline hover:text-ink">
        See and fix them in Readings
      </Link>
    </p>
  );
}
