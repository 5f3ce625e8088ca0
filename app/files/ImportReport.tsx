import type { Repair } from '@ordle/core';
import { Button } from '@/ui';
import { counted, figures } from '@/words/counts';

/** What became of one file. */
export interface Outcome {
  file: string;
  /** Why it was not opened; null when it was. */
  error: string | null;
  repairs: Repair[];
  /** What else is to be known of it, in sentences. */
  told?: string[];
  /** Why what came of it could not be stored. */
  unsaved?: string;
}

/** Files and repairs listed one by one at most. */
const MOST_FILES = 200;
const MOST_REPAIRS = 100;

/** Whether there is something to tell of the file itself. That it is not saved yet, the session tells. */
export const isTroubled = ({ error, repairs, told = [] }: Outcome): boolean =>
  error !== null || repairs.length + told.length > 0;

/**
 * What was wrong with which files: those that failed first, then those that were repaired; the clean ones are folded
 * away.
 */
export function ImportReport({ outcomes, onClose }: { outcomes: Outcome[]; onClose(): void }) {
  const failed = outcomes.filter(({ error }) => error !== null);
  const unsaved = outcomes.filter((outcome) => outcome.unsaved !== undefined && !isTroubled(outcome));
  const repaired = outcomes.filter(({ error, repairs }) => error === null && repairs.length > 0);
  const told = outcomes.filter((outcome) => outcome.error === null && (outcome.told ?? []).length > 0);
  const clean = outcomes.filter((outcome) => !isTroubled(outcome) && outcome.unsaved === undefined);
  return (
    <>
      <div className="flex flex-col gap-4 overflow-y-auto">
        <Files title="Not opened" outcomes={failed}>
          {({ error }) => <p className="font-semibold text-ink">{error}</p>}
        </Files>
        <Files title="Opened, but not saved yet" outcomes={unsaved}>
          {(outcome) => <p className="font-semibold text-ink">{outcome.unsaved}</p>}
        </Files>
        <Files title="Laid out differently than played" outcomes={told}>
          {(outcome) => outcome.told?.map((sentence) => <p key={sentence}>{sentence}</p>)}
        </Files>
        <Files title="Repaired, or not all of it read" outcomes={repaired}>
          {({ repairs }) => <Repairs repairs={repairs} />}
        </Files>
        {clean.length > 0 && (
          <details>
            <summary className="cursor-pointer text-ink-2">{figures(clean.length)} clean</summary>
            <ul className="mt-1 ml-4">
              {clean.slice(0, MOST_FILES).map(({ file }, index) => (
                <li key={index}>{file}</li>
              ))}
              {clean.length > MOST_FILES && <li>and {counted(clean.length - MOST_FILES, 'file')} more</li>}
            </ul>
          </details>
        )}
      </div>
      <Button className="self-end" onClick={onClose}>
        Close
      </Button>
    </>
  );
}

interface FilesProps {
  title: string;
  outcomes: readonly Outcome[];
  children(outcome: Outcome): React.ReactNode;
}

function Files({ title, outcomes, children }: FilesProps) {
  if (outcomes.length === 0) return null;
  return (
    <section aria-label={title}>
      <h3 className="text-ink-2">
        {title} <span className="text-quiet">({outcomes.length})</span>
      </h3>
      <ul className="mt-1 flex flex-col gap-2">
        {outcomes.slice(0, MOST_FILES).map((outcome, index) => (
          <li key={index}>
            <p className="font-semibold">{outcome.file}</p>
            {children(outcome)}
          </li>
        ))}
        {outcomes.length > MOST_FILES && <li>and {counted(outcomes.length - MOST_FILES, 'file')} more</li>}
      </ul>
    </section>
  );
}

function Repairs({ repairs }: { repairs: readonly Repair[] }) {
  return (
    <>
      <p className="text-ink-2">
        Opened with {repairs.length === 1 ? 'one repair' : `${repairs.length} repairs`}; the file on your disk
        is as it was.
      </p>
      <ul className="ml-4 list-disc text-quiet">
        {repairs.slice(0, MOST_REPAIRS).map((repair, index) => (
          <li key={index}>{repair.message}</li>
        ))}
        {repairs.length > MOST_REPAIRS && <li>and {repairs.length - MOST_REPAIRS} more</li>}
      </ul>
    </>
  );
}
