import { OrdleError, sentenceOf, type Repair } from '@ordle/core';
import { createContext, useCallback, useContext, useEffect, useRef, useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { cancelEngine, Cancelled, engine } from '@/engine/engineClient';
import { edit, selectDocument, selectMayWrite } from '@/state/sessionSlice';
import { store, useAppDispatch, type AppDispatch } from '@/state/store';
import { addSession } from '@/state/workspace';
import { Button, Dialog } from '@/ui';

/** What became of one file. */
interface Outcome {
  file: string;
  error: string | null;
  repairs: Repair[];
}

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
  return file.replace(/\.(mid|midi|smf|kar|rmi)$/i, '').slice(0, 200) || file;
}

/** Adds a file's parts to the open session, as one action that can be undone. */
async function join(
  name: string,
  bytes: Uint8Array,
  dispatch: AppDispatch,
  isCancelled: () => boolean,
): Promise<Outcome> {
  const document = selectDocument(store.getState());
  if (!document) throw new OrdleError('no-session', 'No session is open to add the file to.');
  const { references, parts, repairs } = await engine.joinFile(document, bytes);
  if (isCancelled()) throw new Cancelled();
  dispatch(
    edit(`Add ${name}`, (draft) => {
      draft.takes.push(...references);
      draft.nextNoteId = references.reduce(
        (next, { firstNoteId, noteCount }) => Math.max(next, firstNoteId + noteCount),
        draft.nextNoteId,
      );
      draft.parts.push(...parts);
    }),
  );
  return { file: name, error: null, repairs };
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
      for (const [done, file] of files.entries()) {
        if (cancelled.current) break;
        setStage({ kind: 'reading', name: file.name, done, count: files.length });
        try {
          const bytes = new Uint8Array(await file.arrayBuffer());
          if (target === 'join')
            outcomes.push(await join(file.name, bytes, dispatch, () => cancelled.current));
          else {
            const { session, repairs } = await engine.importFile(sessionName(file.name), bytes);
            if (cancelled.current) break;
            await addSession(session);
            opened = session.id;
            outcomes.push({ file: file.name, error: null, repairs });
          }
        } catch (error) {
          if (error instanceof Cancelled) break;
          outcomes.push({ file: file.name, error: sentenceOf(error), repairs: [] });
        }
      }
      const troubled = outcomes.some(({ error, repairs }) => error !== null || repairs.length > 0);
      setStage(troubled ? { kind: 'report', outcomes } : null);
      const good = outcomes.filter(({ error }) => error === null).length;
      if (good > 0)
        toast(
          good === 1
            ? `${outcomes.find(({ error }) => error === null)?.file} is in.`
            : `${good} files are in.`,
        );
      if (opened && files.length === 1) navigate(`/s/${opened}`);
    },
    [navigate, dispatch],
  );

  const importFiles = useCallback<ImportFiles>(
    (list) => {
      const files = [...list];
      if (files.length === 0) return;
      const state = store.getState();
      if (selectDocument(state) && selectMayWrite(state)) setStage({ kind: 'ask', files });
      else void run(files, 'new');
    },
    [run],
  );

  useDropAnywhere(setOver, importFiles);
  const close = useCallback(() => setStage(null), []);

  return (
    <ImportContext.Provider value={{ importFiles, pickFiles: () => picker.current?.click() }}>
      {children}
      <input
        ref={picker}
        type="file"
        multiple
        hidden
        aria-label="Standard MIDI Files to bring in"
        accept=".mid,.midi,.smf,.kar,.rmi,audio/midi,audio/x-midi"
        onChange={(event) => {
          importFiles(event.target.files ?? []);
          event.target.value = '';
        }}
      />
      {over && (
        <div className="pointer-events-none fixed inset-0 z-50 flex items-center justify-center border-4 border-accent bg-ground/85">
          <p className="font-serif text-2xl">Drop Standard MIDI Files to bring them in</p>
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
            <Button look="quiet" className="justify-center" onClick={close}>
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
      <Dialog open={stage?.kind === 'report'} title="What was found in the files" onClose={close}>
        {stage?.kind === 'report' && <Report outcomes={stage.outcomes} onClose={close} />}
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

function Report({ outcomes, onClose }: { outcomes: Outcome[]; onClose(): void }) {
  return (
    <>
      <ul className="flex flex-col gap-3 overflow-y-auto">
        {outcomes.map(({ file, error, repairs }) => (
          <li key={file}>
            <p className="font-semibold">{file}</p>
            {error !== null && <p className="text-accent">Not opened. {error}</p>}
            {error === null && repairs.length === 0 && (
              <p className="text-ink-2">Opened; nothing was wrong with it.</p>
            )}
            {repairs.length > 0 && (
              <>
                <p className="text-ink-2">
                  Opened with {repairs.length === 1 ? 'one repair' : `${repairs.length} repairs`}; the file on
                  your disk is as it was.
                </p>
                <ul className="mt-1 list-disc pl-5">
                  {repairs.slice(0, 100).map((repair, index) => (
                    <li key={index}>{repair.message}</li>
                  ))}
                  {repairs.length > 100 && <li>and {repairs.length - 100} more</li>}
                </ul>
              </>
            )}
          </li>
        ))}
      </ul>
      <Button className="self-end" onClick={onClose}>
        Close
      </Button>
    </>
  );
}

/** Files may be dropped on any place of the window. */
function useDropAnywhere(setOver: (over: boolean) => void, importFiles: ImportFiles) {
  useEffect(() => {
    let depth = 0;
    const hasFiles = (event: DragEvent) => event.dataTransfer?.types.includes('Files') ?? false;
    const onEnter = (event: DragEvent) => {
      if (!hasFiles(event)) return;
      depth++;
      setOver(true);
    };
    const onLeave = (event: DragEvent) => {
      if (hasFiles(event) && --depth <= 0) setOver(false);
    };
    const onOver = (event: DragEvent) => {
      if (hasFiles(event)) event.preventDefault();
    };
    const onDrop = (event: DragEvent) => {
      if (!hasFiles(event)) return;
      event.preventDefault();
      depth = 0;
      setOver(false);
      importFiles(event.dataTransfer?.files ?? []);
    };
    window.addEventListener('dragenter', onEnter);
    window.addEventListener('dragleave', onLeave);
    window.addEventListener('dragover', onOver);
    window.addEventListener('drop', onDrop);
    return () => {
      window.removeEventListener('dragenter', onEnter);
      window.removeEventListener('dragleave', onLeave);
      window.removeEventListener('dragover', onOver);
      window.removeEventListener('drop', onDrop);
    };
  }, [setOver, importFiles]);
}
