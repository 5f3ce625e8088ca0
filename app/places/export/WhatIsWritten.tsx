import { formatOf, type ExportCheck } from '@ordle/core';
import { useState } from 'react';
import type { CheckedExport, PlannedExport } from '@/engine/protocol';
import { additionInWords } from '@/panels/check/checkWords';
import { Button } from '@/ui';
import { counted } from '@/words/counts';

interface WhatIsWrittenProps {
  plan: PlannedExport | null;
  /** What there is to know of each format, by its id, once that is found. */
  known: readonly { format: string; sentences: string[] }[];
  isCurrent: boolean;
  error: string | null;
  /** What there is to know of MIDI files, where one is written. */
  check: CheckedExport | null;
  parts: number;
  nameOf(partId: string): string;
}

/** Files named before the rest are counted. */
const FEW = 8;

/** The files by their names, what is in them, and what each format leaves out. */
export function WhatIsWritten(props: WhatIsWrittenProps) {
  const { plan, known, isCurrent, error, check, parts, nameOf } = props;
  const [showsAll, setShowsAll] = useState(false);
  const files = plan?.files ?? [];
  const shown = showsAll ? files : files.slice(0, FEW);
  return (
    <section aria-label="What will be written" className="mt-5">
      <h3 className="font-semibold">What will be written</h3>
      {error !== null ? (
        <p role="alert" className="mt-1">
          {error}
        </p>
      ) : (
        <div className={isCurrent ? '' : 'opacity-60'}>
          {plan?.isZip && <p className="mt-1 break-words">{plan.name}, with:</p>}
          <ul aria-label="Files" className="mt-1">
            {shown.map(({ name, words }) => (
              <li key={name} className="break-words">
                {name} <span className="text-ink-2">· {words}</span>
              </li>
            ))}
          </ul>
          {files.length > shown.length && (
            <Button look="quiet" className="h-6 px-0!" onClick={() => setShowsAll(true)}>
              and {counted(files.length - shown.length, 'more file')}
            </Button>
          )}
          <ul className="mt-1.5 text-ink-2">
            {plan?.leftOut.map(({ format, sentences }) => (
              <li key={format}>
                {plan.leftOut.length > 1 ? `${formatOf(format).title}: ` : ''}
                {[...sentences, ...(known.find((each) => each.format === format)?.sentences ?? [])].join(' ')}
              </li>
            ))}
          </ul>
          {check && parts > 0 && <OfMidi check={check} parts={parts} nameOf={nameOf} />}
        </div>
      )}
    </section>
  );
}

/** What is as it was played, what is not, and what is added. */
function OfMidi({
  check,
  parts,
  nameOf,
}: {
  check: ExportCheck;
  parts: number;
  nameOf(partId: string): string;
}) {
  const share = (same: readonly string[], what: string) =>
    same.length === parts
      ? `${what} are as they were played.`
      : same.length === 0
        ? `${what} are as the steps made them.`
        : `${what} are as they were played in ${same.length} of ${parts} parts, in the others as the steps made them.`;
  return (
    <ul aria-label="Of the MIDI file" className="mt-1.5 text-ink-2">
      <li>{share(check.sameNotes, 'Notes')}</li>
      <li>{share(check.sameControllers, 'Controllers and programs')}</li>
      <li>Text and system messages are kept as they were.</li>
      {check.additions.length === 0 ? (
        <li>Nothing is added.</li>
      ) : (
        check.additions.map((addition) => {
          const words = additionInWords(addition, nameOf);
          return <li key={words}>{words}</li>;
        })
      )}
    </ul>
  );
}
