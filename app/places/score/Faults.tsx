import { nameOfFinding, type Session, FINDING_NAMES } from '@ordle/core';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { useState } from 'react';
import type { PlayedScore } from '@/engine/protocol';
import { useOpenBench } from '@/music/useBench';
import { useShowOnBench } from '@/panels/useShowOnBench';
import { mend } from '@/edits/mendFindings';
import { useAppDispatch } from '@/state/store';
import { Button } from '@/ui';
import { counted, figures } from '@/words/counts';
import { mendInWords } from '@/words/findings';
import { placeInWords } from '@/panels/notes/noteColumns';

interface FaultsProps {
  session: Session;
  faults: PlayedScore['faults'];
  mayWrite: boolean;
}

/** More are not listed one by one. */
const MOST_SHOWN = 100;

/** What the score says is wrong, missing and extra, each put right by a click, or all of it. */
export function Faults({ session, faults, mayWrite }: FaultsProps) {
  const dispatch = useAppDispatch();
  const { timeline } = useOpenBench();
  const show = useShowOnBench();
  const [isOpen, setOpen] = useState(false);
  const listed = faults.filter(
    (fault) => !session.parts.byId[fault.partId]?.dismissed?.includes(nameOfFinding(fault)),
  );
  if (listed.length === 0) return null;
  return (
    <div className="text-quiet">
      <div className="flex items-center justify-between gap-2">
        <button
          type="button"
          aria-expanded={isOpen}
          className="flex items-center gap-1 py-1 text-left text-work hover:underline"
          onClick={() => setOpen(!isOpen)}
        >
          {isOpen ? (
            <ChevronDown size={14} aria-hidden="true" />
          ) : (
            <ChevronRight size={14} aria-hidden="true" />
          )}
          {counted(listed.length, 'wrong, missing or extra note', 'wrong, missing or extra notes')}
        </button>
        <Button
          disabled={!mayWrite}
          title="Wrong notes get the written pitch, missing ones are put in as their neighbours are played, extra ones are deleted"
          onClick={() => mend(dispatch, listed)}
        >
          Fix all
        </Button>
      </div>
      {isOpen && (
        <ul aria-label="Wrong, missing and extra notes" className="flex flex-col">
          {listed.slice(0, MOST_SHOWN).map((fault) => (
            <li
              key={`${fault.kind} ${fault.partId} ${fault.tick} ${fault.reason}`}
              className="flex items-start justify-between gap-2 border-b border-rule py-1"
            >
              <button
                type="button"
                title="Shows it on the Bench"
                className="text-left hover:bg-well"
                onClick={() => show(fault)}
              >
                <span className="font-semibold">{FINDING_NAMES[fault.kind]}</span>{' '}
                {placeInWords(fault.tick, { timeline, time: 'bars' })}: {fault.reason}
              </button>
              <Button className="h-6 px-2" disabled={!mayWrite} onClick={() => mend(dispatch, [fault])}>
                {mendInWords(fault)}
              </Button>
            </li>
          ))}
        </ul>
      )}
      {isOpen && listed.length > MOST_SHOWN && <p>and {figures(listed.length - MOST_SHOWN)} more</p>}
    </div>
  );
}
