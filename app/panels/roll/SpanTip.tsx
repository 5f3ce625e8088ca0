import { itemOf, describeWhere, kindOf } from '@ordle/core';
import { useOpenBench } from '@/music/useBench';

/** The step a span of the strip belongs to, in words. */
export function SpanTip({ stepId, x, width }: { stepId: string; x: number; width: number }) {
  const bench = useOpenBench();
  const step = (bench.part && itemOf(bench.part.steps, stepId))?.step;
  if (!step) return null;
  return (
    <p
      data-testid="span-tip"
      className="pointer-events-none absolute top-1 z-10 rounded-medium border border-edge bg-sheet px-2.5 py-1 text-quiet"
      style={{ left: Math.max(8, Math.min(x + 14, width - 260)) }}
    >
      <b>{kindOf(step.kind).title}</b> {kindOf(step.kind).describe(step)}, {describeWhere(step.where)}
    </p>
  );
}
