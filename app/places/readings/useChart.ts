import type { ChartKind, Session, Where } from '@ordle/core';
import { engine } from '@/engine/engineClient';
import { useAnswer } from '@/engine/useAnswer';

interface Asked {
  session: Session;
  partId: string;
  kind: ChartKind;
  grid: string;
  where: Where;
}

const chartAsked = async (asked: Asked) => ({ asked, bins: await engine.chart(asked) });

/** A chart of a part, kept in step with the session; none while the bins at hand are those of another. */
export function useChart(asked: Asked) {
  const { answer, error } = useAnswer(chartAsked, asked);
  const isThis = answer?.asked.kind === asked.kind && answer.asked.partId === asked.partId;
  return { bins: isThis ? answer.bins : null, error };
}
