import { OrdleError, sentenceOf } from '@ordle/core';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { makeBackUp, restoreBackUp } from '@/files/backUp';
import { readBackUp } from '@/files/backUpFile';
import { pickFile } from '@/files/pickFile';
import { saveBlob } from '@/files/saveAs';
import { readPreference } from '@/storage/preferences';
import type { SessionSummary } from '@/storage/summary';
import { Button, Dialog, Progress } from '@/ui';
import { beginWork } from '@/ui/underWay';
import { counted, sizeInWords } from '@/words/counts';

/** So many sessions that were never backed up are worth a word. */
const MANY = 3;

/** Where what was restored waits to be told when the page was loaded anew. */
const RESTORED = 'ordle-restored';
const NOTHING: { restored: number | null; failed: string[] } = { restored: null, failed: [] };
let told = readRestored();

function readRestored(): typeof NOTHING {
  try {
    const kept = sessionStorage.getItem(RESTORED);
    sessionStorage.removeItem(RESTORED);
    return kept === null ? NOTHING : (JSON.parse(kept) as typeof NOTHING);
  } catch {
    return NOTHING;
  }
}

function tellRestored() {
  if (told.restored !== null) toast(`${counted(told.restored, 'session was', 'sessions were')} restored.`);
  told = NOTHING;
}

/** What is under way: how much of it is done, and how it is called. */
interface Work {
  label: string;
  done: number;
  all: number;
}

/** A back-up that was chosen: its text, and what is in it. */
interface Chosen {
  name: string;
  text: string;
  sessions: number;
  damaged: string[];
}

/** Everything on the shelf as one file, and back; says when there is much that is in no such file. */
export function BackUp({ sessions }: { sessions: readonly SessionSummary[] }) {
  const [last, setLast] = useState<number | null | undefined>(undefined);
  const [work, setWork] = useState<Work | null>(null);
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const [failed, setFailed] = useState<string[]>(() => told.failed);
  useEffect(() => tellRestored(), []);
  const isCancelled = useRef(false);
  useEffect(() => {
    if (work === null)
      void readPreference('backed-up-at').then((at) => setLast(typeof at === 'number' ? at : null));
  }, [work]);

  const doing = async (label: string, act: (work: Parameters<typeof makeBackUp>[0]) => Promise<void>) => {
    isCancelled.current = false;
    setFailed([]);
    setWork({ label, done: 0, all: 1 });
    const isOver = beginWork('the back-up');
    try {
      await act({
        onProgress: (done, all) => setWork({ label, done, all }),
        isCancelled: () => isCancelled.current,
      });
    } catch (error) {
      if (!(error instanceof OrdleError && error.code === 'cancelled'))
        toast(sentenceOf(error), { duration: 10000 });
    } finally {
      isOver();
      setWork(null);
    }
  };
  const backUp = () =>
    doing('Backing up', async (told) => {
      const made = await makeBackUp(told);
      saveBlob('Ordle back-up.ordle-backup', made.file);
      setFailed(made.failed);
      toast(`The back-up was written, ${sizeInWords(made.file.size)}.`);
    });
  const pick = async (file: File) => {
    try {
      const text = await file.text();
      const { sessions: found, damaged } = readBackUp(text);
      setChosen({ name: file.name, text, sessions: found.length, damaged });
    } catch (error) {
      toast(sentenceOf(error), { duration: 10000 });
    }
  };
  const restore = (how: 'beside' | 'in-place') => {
    if (!chosen) return;
    const { text } = chosen;
    setChosen(null);
    void doing('Restoring', async (told) => {
      const { restored, failed: not, isStored } = await restoreBackUp(text, how, told);
      if (!isStored) {
        setFailed(not);
        return;
      }
      // Recipes, keys and settings that this page remembers would be written over those that came.
      sessionStorage.setItem(RESTORED, JSON.stringify({ restored, failed: not }));
      window.location.reload();
    });
  };
  const changed = sessions.filter(({ changedAt }) => changedAt > (last ?? 0)).length;
  return (
    <section aria-label="Back-up" className="text-quiet text-ink-2">
      {failed.length > 0 && (
        <ul role="alert" className="mb-2 border border-ink bg-sheet px-4 py-2 text-work text-ink">
          {failed.map((sentence) => (
            <li key={sentence}>{sentence}</li>
          ))}
        </ul>
      )}
      <div className="flex min-h-8 flex-wrap items-center gap-x-3 gap-y-1">
        {work ? (
          <>
            <Progress label={work.label} share={work.done / Math.max(1, work.all)} />
            <span role="status">
              {work.label}: {work.done} of {work.all}
            </span>
            <Button onClick={() => (isCancelled.current = true)}>Cancel</Button>
          </>
        ) : (
          <>
            <Button
              disabled={sessions.length === 0}
              title="All sessions with their histories, recipes, grooves, keys and settings as one file"
              onClick={() => void backUp()}
            >
              Back up everything
            </Button>
            <Button onClick={() => pickFile('.ordle-backup', (file) => void pick(file))}>
              Restore a back-up
            </Button>
            {last !== undefined && changed >= MANY && (
              <span>
                {last === null
                  ? 'Nothing here was backed up yet: it is in this browser alone.'
                  : `${counted(changed, 'session')} were changed since the last back-up.`}
              </span>
            )}
          </>
        )}
      </div>
      <Dialog
        open={chosen !== null}
        title="Restore a back-up"
        description={chosen ? `${chosen.name} holds ${counted(chosen.sessions, 'session')}.` : ''}
        onClose={() => setChosen(null)}
      >
        {chosen !== null && chosen.damaged.length > 0 && (
          <ul role="alert">
            {chosen.damaged.map((sentence) => (
              <li key={sentence}>{sentence}</li>
            ))}
          </ul>
        )}
        <p className="text-ink-2">
          Beside what is here: nothing goes, and what is here already comes as a copy. In its place: the
          sessions that are here are deleted first, and can be brought back for a week; keys and settings are
          those of the back-up.
        </p>
        <div className="flex flex-wrap justify-end gap-2">
          <Button onClick={() => setChosen(null)}>Cancel</Button>
          <Button disabled={chosen?.sessions === 0} onClick={() => restore('in-place')}>
            In place of what is here
          </Button>
          <Button look="main" disabled={chosen?.sessions === 0} onClick={() => restore('beside')}>
            Beside what is here
          </Button>
        </div>
      </Dialog>
    </section>
  );
}
