import { sentenceOf } from '@ordle/core';
import { useCallback, useEffect, useMemo, useRef } from 'react';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { cleanedWork } from '@/edits/cleanSession';
import { createCleaner } from '@/engine/cleaning/cleaners';
import { resultPath } from '@/engine/cleaning/resultPath';
import { engine } from '@/engine/engineClient';
import { sessionName } from '@/files/bringIn';
import { rememberRepairs } from '@/files/cameIn';
import { setFileTaker } from '@/files/fileTaker';
import { takeHanded } from '@/files/manyHanded';
import { pickFolder, pickFiles } from '@/files/pickFile';
import { saveAs, saveBlob } from '@/files/saveAs';
import { HowToClean, useHowToClean } from '@/panels/HowToClean';
import { historyOfFile } from '@/saving/historyForFile';
import { emptyHistory } from '@/history/history';
import { storage } from '@/saving/workspace';
import { rememberTable } from '@/storage/editTables';
import { readBytes, type ManyFile } from '@/storage/manyFiles';
import { Button, MessagesRoom } from '@/ui';
import { ThemeButton } from '@/ui/ThemeButton';
import { Wordmark } from '@/ui/Wordmark';
import { counted, sizeInWords } from '@/words/counts';
import { createPictures } from './filePictures';
import {
  addFiles,
  isCleaning,
  openMany,
  putAwayMany,
  startMany,
  stopMany,
  useMany,
  zipMany,
} from './manyRun';
import { ManyTable } from './ManyTable';
import { ManyProgress } from './ManyProgress';
import { filesAsCsv } from './manyList';
import { useHearFile } from './useHearFile';

/** Many files cleaned at once, without a session for each: a list with how each stands, and one zip of the results. */
export function ManyFiles() {
  const { files, cleaning, doing, fault } = useMany();
  const how = useHowToClean(cleaning);
  const navigate = useNavigate();
  const thread = useMemo(() => createCleaner(), []);
  const pictures = useMemo(() => createPictures(thread), [thread]);
  useEffect(() => () => thread.end(), [thread]);
  const { heard, hear } = useHearFile(thread);
  const take = useCallback(async (given: readonly File[]) => {
    if (isCleaning()) toast('The files are added when what is under way has ended.');
    const left = await addFiles(given);
    if (left > 0)
      toast(`${counted(left, 'file that is no music was', 'files that are no music were')} left out.`);
  }, []);

  useEffect(() => {
    document.title = 'Clean many files · Ordle';
    void openMany().then(() => {
      const handed = takeHanded();
      if (handed.length > 0) void take(handed);
    });
    setFileTaker((given) => void take(given));
    return () => {
      setFileTaker(null);
      document.title = 'Ordle';
    };
  }, [take]);

  const count = (state: ManyFile['state']) => files.filter((file) => file.state === state).length;
  const [done, failed, waiting] = [count('done'), count('failed'), count('waiting')];
  const isBusy = doing !== null;
  const isOther = JSON.stringify(how.cleaning) !== JSON.stringify(cleaning);
  const start = () => how.cleaning && void startMany(how.cleaning);

  const attemptWith = useCallback(async (act: () => Promise<void>) => {
    try {
      await act();
    } catch (error) {
      toast(sentenceOf(error), { duration: 10000 });
    }
  }, []);
  const open = useCallback(
    ({ index, path }: ManyFile) =>
      attemptWith(async () => {
        const bytes = await readBytes('given', index);
        if (!bytes) return;
        const name = sessionName(path.slice(path.lastIndexOf('/') + 1));
        const { session, repairs, tables, history } = await engine.importFile(name, bytes);
        tables.forEach(rememberTable);
        const work = { document: session, history: historyOfFile(history, session) ?? emptyHistory() };
        const cleaned = cleaning ? await cleanedWork(work, cleaning, cleaning.recipe) : work;
        await storage.add(cleaned.document, cleaned.history);
        rememberRepairs(session.id, repairs);
        await navigate(`/s/${session.id}`);
      }),
    [attemptWith, cleaning, navigate],
  );
  const save = useCallback(
    ({ index, path }: ManyFile) =>
      attemptWith(async () => {
        const bytes = await readBytes('made', index);
        if (bytes) saveAs(resultPath(path.slice(path.lastIndexOf('/') + 1), new Set()), bytes, 'audio/midi');
      }),
    [attemptWith],
  );
  const onHear = useLatest(hear);
  const zip = async () => {
    const made = await zipMany();
    if (!made) return;
    saveBlob('Cleaned files.zip', made);
    toast(`${counted(done, 'cleaned file')} in one zip, ${sizeInWords(made.size)}.`);
  };

  return (
    <div className="flex h-full flex-col">
      <header className="flex h-10 shrink-0 items-center gap-4 border-b border-rule px-3">
        <Wordmark />
        <Link to="/" className="rounded-small px-1 hover:underline">
          Shelf
        </Link>
        <MessagesRoom />
        <ThemeButton />
      </header>
      <main className="mx-auto flex min-h-0 w-full max-w-5xl grow flex-col gap-3 px-6 pt-5 pb-3 max-sm:px-3">
        <div className="flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
          <div>
            <h1 className="font-serif text-2xl font-semibold">Clean many files</h1>
            <p className="mt-1 text-ink-2">
              Drop files or a folder here. Each is cleaned by itself; what came stays as it is, and no
              sessions are made.
            </p>
          </div>
          <div className="flex flex-wrap gap-2">
            <Button disabled={isBusy} onClick={() => pickFiles((given) => void take(given))}>
              Add files
            </Button>
            <Button disabled={isBusy} onClick={() => pickFolder((given) => void take(given))}>
              Add a folder
            </Button>
          </div>
        </div>
        {fault !== null && (
          <p role="alert" className="border border-ink bg-sheet px-4 py-2">
            {fault}
          </p>
        )}
        {files.length === 0 && !isBusy ? (
          <div className="border border-dashed border-rule-strong px-8 py-12">
            <h2 className="font-serif text-lg font-semibold">No files yet</h2>
            <p className="mt-2 max-w-lg">
              Three hundred takes of a library, a whole folder of lessons: they are cleaned here in one go, as
              the command line does it, and come back as one zip with the folders they lay in.
            </p>
          </div>
        ) : (
          <>
            <HowToClean state={how} disabled={isBusy} />
            <ManyProgress doing={doing} done={done} failed={failed} count={files.length}>
              {!isBusy && (
                <>
                  {(waiting + failed > 0 || isOther) && (
                    <Button look="main" disabled={!how.cleaning} onClick={start}>
                      {startWords(files.length, waiting, failed, done > 0 && isOther)}
                    </Button>
                  )}
                  <Button disabled={done === 0} onClick={() => void zip()}>
                    Save all as one zip
                  </Button>
                  <Button
                    onClick={() =>
                      saveAs('Cleaned files.csv', new TextEncoder().encode(filesAsCsv(files)), 'text/csv')
                    }
                  >
                    Save the list as CSV
                  </Button>
                  <Button look="quiet" onClick={() => void putAwayMany()}>
                    Put all away
                  </Button>
                </>
              )}
              {isBusy && doing.kind !== 'reading' && <Button onClick={stopMany}>Stop</Button>}
            </ManyProgress>
            <ManyTable
              files={files}
              pictures={pictures}
              heard={heard}
              isBusy={doing?.kind === 'cleaning'}
              turn={turnOf(cleaning)}
              onHear={onHear}
              onOpen={open}
              onSave={save}
            />
          </>
        )}
      </main>
    </div>
  );
}

const turnOf = (cleaning: unknown): string => JSON.stringify(cleaning);

function startWords(all: number, waiting: number, failed: number, isAnew: boolean): string {
  if (isAnew) return `Clean all ${counted(all, 'file')} anew`;
  if (waiting === all) return `Clean ${counted(all, 'file')}`;
  if (waiting > 0) return `Go on with ${counted(waiting + failed, 'file')}`;
  return `Try ${counted(failed, 'file')} again`;
}

/** A function that stays the same and does what the newest one does. */
function useLatest<A extends unknown[]>(act: (...given: A) => unknown): (...given: A) => void {
  const latest = useRef(act);
  useEffect(() => void (latest.current = act));
  return useCallback((...given: A) => void latest.current(...given), []);
}
