import type { ReactNode } from 'react';
import { Progress } from '@/ui';
import { counted } from '@/words/counts';
import type { Doing } from './manyRun';

interface ManyProgressProps {
  doing: Doing | null;
  done: number;
  failed: number;
  count: number;
  children: ReactNode;
}

/** How far it has come, in words and as a line of ink, with what can be done next. */
export function ManyProgress({ doing, done, failed, count, children }: ManyProgressProps) {
  const share =
    doing === null
      ? null
      : doing.kind === 'cleaning'
        ? (done + failed) / Math.max(1, count)
        : doing.kind === 'reading'
          ? null
          : doing.done / Math.max(1, doing.all);
  return (
    <div className="flex flex-col gap-1.5">
      <div className="flex min-h-8 flex-wrap items-center gap-x-3 gap-y-1">
        {children}
        <span role="status" className="ml-auto text-ink-2">
          {inWords(doing, done, failed, count)}
        </span>
      </div>
      <div className="h-1">
        {share !== null && <Progress label="How far it has come" share={share} className="w-full" />}
      </div>
    </div>
  );
}

function inWords(doing: Doing | null, done: number, failed: number, count: number): string {
  const stands = `${done} of ${counted(count, 'file')} cleaned${failed > 0 ? `, ${failed} failed` : ''}`;
  switch (doing?.kind) {
    case 'reading':
      return 'Looking for files ...';
    case 'adding':
      return `Reading: ${doing.done} of ${counted(doing.all, 'file')}`;
    case 'zipping':
      return `Writing the zip: ${doing.done} of ${counted(doing.all, 'file')}`;
    case 'cleaning':
      return doing.left === null ? stands : `${stands}, about ${Math.ceil(doing.left)} s left`;
    default:
      return stands;
  }
}
