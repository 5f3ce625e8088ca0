import { FORMATS, OrdleError, sentenceOf } from '@ordle/core';
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { saveBlob } from '@/files/saveAs';
import { HowToClean, useHowToClean } from '@/panels/HowToClean';
import type { SessionSummary } from '@/storage/summary';
import { Button, Check, Dialog, Menu, Progress } from '@/ui';
import { attempt } from '@/ui/attempt';
import { beginWork, type Work } from '@/ui/underWay';
import { counted, sizeInWords } from '@/words/counts';
import { cleanSessions, exportSessions, mergeAsParts, mergeAsTakes, type Telling } from './sessionsAtOnce';

type Asked = 'clean' | 'export';
interface Running {
  label: string;
  done: number;
  all: number;
  name: string;
}

/** What can be done with the selected sessions, all at once: cleaned, exported, merged. */
export function WithSelected({ sessions }: { sessions: readonly SessionSummary[] }) {
  const [asked, setAsked] = useState<Asked | null>(null);
  const [running, setRunning] = useState<Running | null>(null);
  const [failed, setFailed] = useState<string[]>([]);
  const isCancelled = useRef(false);
  const navigate = useNavigate();
  const usable = sessions.filter(({ broken }) => broken === null);

  const doing = async (label: string, work: Work, act: (telling: Telling) => Promise<void>) => {
    setAsked(null);
    isCancelled.current = false;
    setRunning({ label, done: 0, all: usable.length, name: '' });
    const isOver = beginWork(work);
    try {
      await act({
        tell: (done, all, name) => setRunning({ label, done, all, name }),
        isCancelled: () => isCancelled.current,
      });
    } catch (error) {
      if (error instanceof OrdleError && error.code === 'cancelled') toast(error.message);
      else setFailed([sentenceOf(error)]);
    } finally {
      isOver();
      setRunning(null);
    }
  };
  const merge = (as: typeof mergeAsParts, place: string) =>
    doing('Merging', 'the import', async (telling) => {
      const id = await as(usable, telling);
      await navigate(`/s/${id}${place}`);
    });

  return (
    <>
      <Menu
        trigger={<Button disabled={usable.length === 0}>With {counted(usable.length, 'session')} ▾</Button>}
        items={[
          {
            label: 'Clean up',
            hint: 'What is suggested for each, a recipe, or both',
            onSelect: () => setTimeout(() => setAsked('clean'), 60),
          },
          {
            label: 'Export',
            hint: 'All in one zip',
            onSelect: () => setTimeout(() => setAsked('export'), 60),
          },
          {
            label: 'Merge as parts',
            hint: 'A new session with the parts of all',
            disabled: usable.length < 2,
            onSelect: () => void merge(mergeAsParts, '/parts'),
          },
          {
            label: 'Merge as takes',
            hint: 'A new session: performances of the same music',
            disabled: usable.length < 2,
            onSelect: () => void merge(mergeAsTakes, '/takes'),
          },
        ]}
      />
      {asked === 'clean' && (
        <CleanDialog
          count={usable.length}
          onClose={() => setAsked(null)}
          onClean={(cleaning) =>
            void doing('Cleaning', 'the clean-up', async (telling) => {
              const { changed, failed: not, takeBack } = await cleanSessions(usable, cleaning, telling);
              setFailed(not);
              toast(
                `${counted(changed.length, 'session was', 'sessions were')} cleaned up, each as one action.`,
                changed.length > 0
                  ? { duration: 12000, action: { label: 'Undo', onClick: () => attempt(takeBack) } }
                  : {},
              );
            })
          }
        />
      )}
      {asked === 'export' && (
        <ExportDialog
          count={usable.length}
          onClose={() => setAsked(null)}
          onExport={(formats) =>
            void doing('Exporting', 'the export', async (telling) => {
              const { zip, failed: not } = await exportSessions(usable, formats, telling);
              setFailed(not);
              saveBlob('Sessions.zip', zip);
              toast(`Sessions.zip was written, ${sizeInWords(zip.size)}.`);
            })
          }
        />
      )}
      <Dialog
        open={running !== null}
        title={running?.label ?? ''}
        onClose={() => void (isCancelled.current = true)}
      >
        {running && (
          <>
            <p role="status" className="truncate">
              {running.done + 1} of {running.all}: {running.name}
            </p>
            <Progress
              label={running.label}
              share={running.done / Math.max(1, running.all)}
              className="w-full"
            />
            <Button className="self-end" onClick={() => (isCancelled.current = true)}>
              Cancel
            </Button>
          </>
        )}
      </Dialog>
      <Dialog open={failed.length > 0} title="Not everything was done" onClose={() => setFailed([])}>
        <ul role="alert" className="max-h-80 overflow-y-auto">
          {failed.map((sentence) => (
            <li key={sentence}>{sentence}</li>
          ))}
        </ul>
        <Button className="self-end" onClick={() => setFailed([])}>
          Close
        </Button>
      </Dialog>
    </>
  );
}

interface CleanDialogProps {
  count: number;
  onClose(): void;
  onClean(cleaning: NonNullable<ReturnType<typeof useHowToClean>['cleaning']>): void;
}

function CleanDialog({ count, onClose, onClean }: CleanDialogProps) {
  const how = useHowToClean(null);
  const { cleaning } = how;
  return (
    <Dialog
      open
      title={`Clean up ${counted(count, 'session')}`}
      description="Each gets the steps at the end of its lines, as one action that can be undone there."
      onClose={onClose}
    >
      <HowToClean state={how} disabled={false} />
      <div className="flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button look="main" disabled={!cleaning} onClick={() => cleaning && onClean(cleaning)}>
          Clean up
        </Button>
      </div>
    </Dialog>
  );
}

interface ExportDialogProps {
  count: number;
  onClose(): void;
  onExport(formats: string[]): void;
}

function ExportDialog({ count, onClose, onExport }: ExportDialogProps) {
  const [on, setOn] = useState<ReadonlySet<string>>(new Set([FORMATS[0].id]));
  const chosen = FORMATS.filter(({ id }) => on.has(id)).map(({ id }) => id);
  return (
    <Dialog
      open
      title={`Export ${counted(count, 'session')}`}
      description="The whole of each as it is cleaned, with the usual options, in one zip. The place Export has more to choose for one session."
      onClose={onClose}
    >
      <fieldset className="flex flex-col gap-1">
        <legend className="mb-1 text-ink-2">Formats</legend>
        {FORMATS.map(({ id, title }) => (
          <Check
            key={id}
            checked={on.has(id)}
            onChange={(isOn) => setOn(new Set(isOn ? [...on, id] : [...on].filter((each) => each !== id)))}
          >
            {title}
          </Check>
        ))}
      </fieldset>
      <div className="flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button look="main" disabled={chosen.length === 0} onClick={() => onExport(chosen)}>
          Export
        </Button>
      </div>
    </Dialog>
  );
}
