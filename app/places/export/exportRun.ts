import { OrdleError, sentenceOf, type ExportChoice, type Session } from '@ordle/core';
import { toast } from 'sonner';
import { engine } from '@/engine/engineClient';
import { onProgress } from '@/engine/progress';
import { saveBlob } from '@/files/saveAs';
import { historyForFile } from '@/saving/historyForFile';
import { createSmallStore } from '@/ui/smallStore';
import { beginWork } from '@/ui/underWay';
import { counted, sizeInWords } from '@/words/counts';

/** What is being written, or was last; it goes on while another place is looked at. */
export interface ExportRun {
  sessionId: string;
  /** How much is done, 0 to 1; null when it is over. */
  share: number | null;
  done: string | null;
  error: string | null;
}

const run = createSmallStore<ExportRun | null>(null);
export const useExportRun = run.useValue;

/** Whether somebody sees the place where it is told; else it is told in a message. */
let isSeen = 0;
export function seeRun(): () => void {
  isSeen++;
  return () => void isSeen--;
}

/** Writes what was chosen, and hands it to the browser. One at a time. */
export async function startExport(session: Session, choice: ExportChoice): Promise<void> {
  if (run.get()?.share != null) return;
  const about = { sessionId: session.id, done: null, error: null };
  run.set({ ...about, share: 0 });
  const isOver = beginWork('the export');
  const stop = onProgress((share) => {
    const now = run.get();
    if (now?.share != null) run.set({ ...now, share: Math.max(now.share, share) });
  });
  try {
    const wantsHistory = choice.formats.some(
      ({ options }) => (options as { history?: boolean }).history === true,
    );
    const history = wantsHistory ? await historyForFile() : undefined;
    const written = await engine.writeExport({ session, choice, ...(history !== undefined && { history }) });
    saveBlob(written.name, written.content);
    const holds = written.files > 1 ? ` with ${counted(written.files, 'file')}` : '';
    end({
      done: `${written.name} was written${holds}, ${sizeInWords(written.bytes)}. ${written.told.join(' ')}`.trim(),
    });
  } catch (error) {
    const isStopped = error instanceof OrdleError && error.code === 'cancelled';
    end(isStopped ? { done: error.message } : { error: sentenceOf(error) });
  } finally {
    stop();
    isOver();
  }
  function end(told: Partial<ExportRun>) {
    run.set({ ...about, share: null, ...told });
    if (isSeen === 0) toast(told.done ?? told.error ?? '', { duration: 8000 });
  }
}

export const stopExport = (): void => void engine.stopExport();
