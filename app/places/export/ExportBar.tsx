import type { ExportChoice, Session } from '@ordle/core';
import { useCommands } from '@/commands';
import type { PlannedExport } from '@/engine/protocol';
import { Button, Progress } from '@/ui';
import { counted } from '@/words/counts';
import { startExport, stopExport, useExportRun } from './exportRun';
import { useListening } from './useListening';

interface ExportBarProps {
  session: Session;
  choice: ExportChoice;
  plan: PlannedExport | null;
  /** Whether what is shown can be written. */
  isReady: boolean;
}

/** Hears what will be written, and writes it: always in sight. */
export function ExportBar({ session, choice, plan, isReady }: ExportBarProps) {
  const told = useExportRun();
  const run = told?.sessionId === session.id ? told : null;
  const busy = told?.share != null;
  const listening = useListening(session, choice);
  useCommands({ play: () => void listening.toggle() });
  const what = plan && (plan.isZip ? `${plan.name}, ${counted(plan.files.length, 'file')}` : plan.name);
  return (
    <footer
      aria-label="Hear and write"
      className="shrink-0 border-t border-rule-strong bg-ground px-8 py-1.5 narrow:px-4"
    >
      <div className="mx-auto flex min-h-9 w-full max-w-6xl flex-wrap items-center gap-x-4 gap-y-2">
        <span className="min-w-0 grow">
          {busy ? (
            <span className="flex items-center gap-3">
              <Progress label="Writing" share={told.share ?? 0} className="w-56" />
              <span className="text-ink-2">{Math.floor(100 * (told.share ?? 0))} %</span>
              <Button onClick={stopExport}>Cancel</Button>
            </span>
          ) : run?.error ? (
            <span role="alert" className="font-semibold">
              {run.error}
            </span>
          ) : (
            <span role="status" className="block truncate">
              {listening.told ?? run?.done ?? <span className="text-ink-2">{isReady ? what : ''}</span>}
            </span>
          )}
        </span>
        <Button
          title="Plays what will be written, and nothing else"
          disabled={!isReady && !listening.isPlaying}
          onClick={() => void listening.toggle()}
        >
          {listening.isPlaying ? 'Stop' : listening.isGettingReady ? 'One moment ...' : 'Hear it'}
        </Button>
        <Button
          look={busy ? 'plain' : 'main'}
          className="h-9! w-36 justify-center narrow:grow"
          disabled={!isReady || busy}
          onClick={() => void startExport(session, choice)}
        >
          {busy ? 'Writing ...' : 'Export'}
        </Button>
      </div>
    </footer>
  );
}
