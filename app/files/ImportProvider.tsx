import { activePart, MOST_LOOKED_INTO, sentenceOf, type FilesTogether } from '@ordle/core';
import {
  createContext,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
  type ReactNode,
} from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { cancelEngine, Cancelled, engine } from '@/engine/engineClient';
import { selectDocument, selectMayWrite } from '@/state/sessionSlice';
import { store, useAppDispatch } from '@/state/store';
import { Dialog } from '@/ui';
import { ImportReport, isTroubled, type Outcome } from './ImportReport';
import { beginWork } from '@/ui/underWay';
import { fileTaker } from './fileTaker';
import { bringIn, bytesOf, isSessionFile } from './bringIn';
import { handToMany } from './manyHanded';
import { takeLaunchedFiles } from './launchedFiles';
import { useDropAnywhere } from './useDropAnywhere';
import { ReadingDialog, type Reading } from './ReadingDialog';
import { WhatAreThey, type Choice } from './WhatAreThey';

type Stage =
  | { kind: 'ask'; files: File[]; together: FilesTogether | null; open: { part: string | null } | null }
  | ({ kind: 'reading' } & Reading)
  | { kind: 'report'; outcomes: Outcome[] };

type ImportFiles = (files: Iterable<File>) => void;

const ImportContext = createContext<{ importFiles: ImportFiles; pickFiles: () => void }>({
  importFiles: () => undefined,
  pickFiles: () => undefined,
});

/** Bringing files in, from anywhere in the app. */
export const useImport = () => useContext(ImportContext);

export function ImportProvider({ children }: { children: ReactNode }) {
  const [stage, setStage] = useState<Stage | null>(null);
  const [over, setOver] = useState(false);
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const picker = useRef<HTMLInputElement>(null);
  const cancelled = useRef(false);

  const run = useCallback(
    async (files: File[], choice: Choice, isLinedUp = true) => {
      if (choice === 'many') {
        setStage(null);
        handToMany(files);
        return void navigate('/many');
      }
      cancelled.current = false;
      const isOver = beginWork('the import');
      try {
        const { outcomes, leadsTo, words } = await bringIn({
          files,
          choice,
          isLinedUp,
          dispatch,
          isCancelled: () => cancelled.current,
          onFile: (name, done) => setStage({ kind: 'reading', name, done, count: files.length }),
        });
        setStage(outcomes.some(isTroubled) ? { kind: 'report', outcomes } : null);
        if (words) toast(words);
        if (leadsTo) void navigate(leadsTo.path, { state: leadsTo.state });
      } catch (error) {
        setStage(null);
        if (error instanceof Cancelled) toast('Nothing was added.');
        else toast.error(sentenceOf(error), { duration: 10000 });
      } finally {
        isOver();
      }
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
      const session = selectMayWrite(state) ? selectDocument(state) : null;
      const music = files.filter(({ name }) => !isSessionFile(name));
      if (music.length === 0 || (!session && files.length === 1)) return void run(files, 'each');
      const part = session && (activePart(session, state.view.partId)?.name ?? null);
      const open = session && { part };
      if (files.length === 1 || music.length > MOST_LOOKED_INTO)
        return setStage({ kind: 'ask', files, together: null, open });
      setStage({ kind: 'reading', name: files[0].name, done: 0, count: files.length });
      cancelled.current = false;
      bytesOf(music)
        .then((given) => engine.filesTogether(given))
        .catch(() => null)
        .then((together) => {
          if (cancelled.current) return;
          // Of files that hold nothing there is nothing to be asked: each says for itself what is wrong with it.
          if (!session && (together?.sounding ?? 0) < 2) void run(files, 'each');
          else setStage({ kind: 'ask', files, together, open });
        })
        .catch((error: unknown) => toast(sentenceOf(error)));
    },
    [run],
  );

  useDropAnywhere(setOver, importFiles);
  useEffect(() => takeLaunchedFiles(importFiles), [importFiles]);
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
        accept=".mid,.midi,.smf,.kar,.rmi,.ordle,.musicxml,.mxl,.xml,audio/midi,audio/x-midi"
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
        title={
          stage?.kind === 'ask' && stage.files.length === 1
            ? 'Add this file to the open session?'
            : 'What are these files?'
        }
        description={stage?.kind === 'ask' ? describeFiles(stage.files) : undefined}
      >
        {stage?.kind === 'ask' && (
          <WhatAreThey
            files={stage.files}
            together={stage.together}
            open={stage.open}
            onChoose={(choice, isLinedUp) => void run(stage.files, choice, isLinedUp)}
            onClose={close}
          />
        )}
      </Dialog>
      <ReadingDialog reading={stage?.kind === 'reading' ? stage : null} onStop={stop} />
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
