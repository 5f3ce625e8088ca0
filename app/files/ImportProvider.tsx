import { sentenceOf, type Session } from '@ordle/core';
import { createContext, useCallback, useContext, useMemo, useRef, useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { cancelEngine, Cancelled, engine } from '@/engine/engineClient';
import { selectDocument, selectMayWrite } from '@/state/sessionSlice';
import { store, useAppDispatch } from '@/state/store';
import { storage } from '@/saving/workspace';
import { rememberTable } from '@/storage/editTables';
import { Button, Dialog } from '@/ui';
import { ImportReport, isTroubled, type Outcome } from './ImportReport';
import { fileTaker } from './fileTaker';
import { createJoining } from './joining';
import { useDropAnywhere } from './useDropAnywhere';

type Stage =
  | { kind: 'ask'; files: File[] }
  | { kind: 'reading'; name: string; done: number; count: number }
  | { kind: 'report'; outcomes: Outcome[] };

type ImportFiles = (files: Iterable<File>) => void;

const ImportContext = createContext<{ importFiles: ImportFiles; pickFiles: () => void }>({
  importFiles: () => undefined,
  pickFiles: () => undefined,
});

/** Bringing files in, from anywhere in the app. */
export const useImport = () => useContext(ImportContext);

/** The name a session gets from its file. */
function sessionName(file: string): string {
  return file.replace(/\.(mid|midi|smf|kar|rmi|ordle)$/i, '').slice(0, 200) || file;
}

/** Makes a file a session of its own; `unsaved` says why where it could not be stored. */
async function open(name: string, bytes: Uint8Array): Promise<Outcome & { session: Session }> {
  const { session, repairs, tables } = await engine.importFile(sessionName(name), bytes);
  tables.forEach(rememberTable);
  const saving = await storage.add(session);
  return {
    file: name,
    error: null,
    repairs,
    session,
    unsaved: saving.state === 'failed' ? saving.message : undefined,
  };
}

export function ImportProvider({ children }: { children: ReactNode }) {
  const [stage, setStage] = useState<Stage | null>(null);
  const [over, setOver] = useState(false);
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const picker = useRef<HTMLInputElement>(null);
  const cancelled = useRef(false);

  const run = useCallback(
    async (files: File[], target: 'new' | 'join') => {
      cancelled.current = false;
      const outcomes: Outcome[] = [];
      let opened: string | null = null;
      const joining = target === 'join' ? createJoining() : null;
      for (const [done, file] of files.entries()) {
        if (cancelled.current) break;
        setStage({ kind: 'reading', name: file.name, done, count: files.length });
        try {
          const bytes = new Uint8Array(await file.arrayBuffer());
          if (joining) outcomes.push(await joining.read(file.name, bytes));
          else {
            const { session, ...outcome } = await open(file.name, bytes);
            opened = session.id;
            outcomes.push(outcome);
          }
        } catch (error) {
          if (error instanceof Cancelled) break;
          outcomes.push({ file: file.name, error: sentenceOf(error), repairs: [] });
        }
      }
      try {
        // Given up half-way nothing of it is added; else all of it is, as one action.
        if (!cancelled.current) joining?.finish(dispatch);
      } catch (error) {
        for (const outcome of outcomes) outcome.error ??= sentenceOf(error);
      }
      if (joining && cancelled.current) {
        toast('Nothing was added.');
        return;
      }
      setStage(outcomes.some(isTroubled) ? { kind: 'report', outcomes } : null);
      const good = outcomes.filter(({ error }) => error === null);
      if (good.length > 0) {
        const words =
          good.length === 1 ? `${good[0].file} was imported` : `${good.length} files were imported`;
        toast(
          good.some(({ unsaved }) => unsaved !== undefined) ? `${words}, but not saved yet.` : `${words}.`,
        );
      }
      if (opened && files.length === 1) navigate(`/s/${opened}`);
    },
    [navigate, dispatch],
  );

  const importFiles = useCallback<ImportFiles>(
    (list) => {
      const files = [...list];
      if (files.length === 0) return;
      const taker = fileTaker();
      if (taker) {
        taker(files);
        return;
      }
      const state = store.getState();
      if (selectDocument(state) && selectMayWrite(state)) setStage({ kind: 'ask', files });
      else void run(files, 'new');
    },
    [run],
  );

  useDropAnywhere(setOver, importFiles);
  const close = useCallback(() => setStage(null), []);
  // The same object at every step of an import: whoever uses it must not render again for each file.
  const actions = useMemo(() => ({ importFiles, pickFiles: () => picker.current?.click() }), [importFiles]);

  return (
    <ImportContext.Provider value={actions}>
      {children}
      <input
        ref={picker}
        type="file"
        multiple
        hidden
        aria-label="Standard MIDI Files or session files to import"
        accept=".mid,.midi,.smf,.kar,.rmi,.ordle,audio/midi,audio/x-midi"
        onChange={(event) => {
          importFiles(event.target.files ?? []);
          event.target.value = '';
        }}
      />
      {over && (
        <div className="pointer-events-none fixed inset-0 z-50 flex items-center justify-center border-4 border-ink bg-ground/85">
          <p className="font-serif text-2xl">Drop Standard MIDI Files to import them</p>
        </div>
      )}
      <Dialog
        open={stage?.kind === 'ask'}
        onClose={close}
        title="Where should they go?"
        description={stage?.kind === 'ask' ? describeFiles(stage.files) : undefined}
      >
        {stage?.kind === 'ask' && (
          <div className="flex flex-col gap-2">
            <Button look="main" className="justify-center" onClick={() => void run(stage.files, 'join')}>
              Add as parts to the open session
            </Button>
            <p className="text-quiet text-ink-2">
              The session keeps its own tempo and meter; the added notes are fitted to its beats.
            </p>
            <Button className="justify-center" onClick={() => void run(stage.files, 'new')}>
              {stage.files.length === 1
                ? 'Open as a session of its own'
                : 'Open each as a session of its own'}
            </Button>
            <Button className="justify-center" onClick={close}>
              Leave them
            </Button>
          </div>
        )}
      </Dialog>
      <Dialog open={stage?.kind === 'reading'} title="Reading" onClose={stop}>
        {stage?.kind === 'reading' && (
          <>
            <p>
              {stage.name}
              {stage.count > 1 && ` (${stage.done + 1} of ${stage.count})`}
            </p>
            <div
              className="h-1 bg-well"
              role="progressbar"
              aria-label="Files read"
              aria-valuenow={stage.done}
              aria-valuemax={stage.count}
            >
              <div className="h-1 bg-ink" style={{ width: `${((stage.done + 0.5) / stage.count) * 100}%` }} />
            </div>
            <Button className="self-end" onClick={stop}>
              Cancel
            </Button>
          </>
        )}
      </Dialog>
      <Dialog open={stage?.kind === 'report'} title="Import report" onClose={close}>
        {stage?.kind === 'report' && <ImportReport outcomes={stage.outcomes} onClose={close} />}
      </Dialog>
    </ImportContext.Provider>
  );

  function stop() {
    cancelled.current = true;
    cancelEngine();
    setStage(null);
  }
}

function describeFiles(files: File[]): string {
  return files.length === 1
    ? files[0].name
    : `${files.length} files: ${files
        .slice(0, 4)
        .map((file) => file.name)
        .join(', ')}${files.length > 4 ? ' ...' : ''}`;
}
