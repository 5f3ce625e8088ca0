import { MOST_LOOKED_INTO, type Belonging, type FilesTogether } from '@ordle/core';
import { useState } from 'react';
import { Button, Check } from '@/ui';
import { counted } from '@/words/counts';

/** What files that are brought in become. */
export type Choice = 'takes-here' | 'parts-here' | 'score-here' | 'takes' | 'parts' | 'each' | 'many';

interface WhatAreTheyProps {
  files: readonly File[];
  /** What they seem to be; null where that is not known, or there is only one. */
  together: FilesTogether | null;
  /** The part that is looked at, where a session is open that may be changed. */
  open: { part: string | null } | null;
  onChoose(choice: Choice, isLinedUp: boolean): void;
  onClose(): void;
}

const KINDS: Record<Choice, Belonging> = {
  'takes-here': 'takes',
  'parts-here': 'parts',
  'score-here': 'sessions',
  takes: 'takes',
  parts: 'parts',
  each: 'sessions',
  many: 'sessions',
};

/** What several files are, and where one goes while a session is open: asked once, with a proposal. */
export function WhatAreThey({ files, together, open, onChoose, onClose }: WhatAreTheyProps) {
  const [isLinedUp, setLinedUp] = useState(true);
  const isOne = files.length === 1;
  // So many are not looked into: they are a library, rather than takes or parts of one piece.
  const isMuch = files.length > MOST_LOOKED_INTO;
  const isScore = isOne && /\.(musicxml|mxl|xml)$/i.test(files[0].name);
  const asScore = (part: string) => ({
    choice: 'score-here' as const,
    label: `Lay it beside ${part} as its written score`,
    hint: 'The playing is followed along it note by note; nothing of the part is changed.',
  });
  const choices: { choice: Choice; label: string; hint: string }[] = [
    ...(open?.part && isScore ? [asScore(open.part)] : []),
    ...(open && !(together?.proposal === 'takes') ? [PARTS_HERE] : []),
    ...(open?.part
      ? [{ choice: 'takes-here' as const, label: `Add as takes of ${open.part}`, hint: TAKES_HINT }]
      : []),
    ...(open && together?.proposal === 'takes' ? [PARTS_HERE] : []),
    ...(open?.part && isOne && !isScore ? [asScore(open.part)] : []),
    ...(isOne ? [] : [TAKES, PARTS]),
    {
      choice: 'each',
      label: isOne ? 'Open as a session of its own' : 'Open each as a session of its own',
      hint: isOne ? '' : `${counted(files.length, 'session')} on the shelf.`,
    },
    ...(isOne ? [] : [MANY]),
  ];
  // What they seem to be comes first, and is the one main button.
  const proposed = together
    ? (choices.find(({ choice }) => KINDS[choice] === together.proposal)?.choice ?? 'each')
    : isMuch
      ? 'many'
      : choices[0].choice;
  const ordered = [...choices].sort(
    (one, other) => Number(other.choice === proposed) - Number(one.choice === proposed),
  );
  const mayBeTakes = choices.some(({ choice }) => KINDS[choice] === 'takes');
  return (
    <div className="flex flex-col gap-2" data-testid="what-are-they">
      {together && <p className="text-ink-2">{together.reason}</p>}
      {ordered.map(({ choice, label, hint }) => (
        <div key={choice}>
          <Button
            look={choice === proposed ? 'main' : 'plain'}
            className="w-full justify-center"
            onClick={() => onChoose(choice, isLinedUp)}
          >
            {label}
          </Button>
          {hint && <p className="mt-0.5 text-quiet text-ink-2">{hint}</p>}
        </div>
      ))}
      {mayBeTakes && (
        <Check checked={isLinedUp} onChange={setLinedUp}>
          Line takes up, and take off what each is late or early on the whole
        </Check>
      )}
      <Button className="w-full justify-center" onClick={onClose}>
        Cancel
      </Button>
    </div>
  );
}

const TAKES_HINT = 'Performances of the same music: the best of them is chosen bar by bar on Takes.';
const PARTS_HERE = {
  choice: 'parts-here' as const,
  label: 'Add as parts to the open session',
  hint: 'The session keeps its own tempo and meter; the added notes are fitted to its beats.',
};
const TAKES = { choice: 'takes' as const, label: 'One new session: takes of one part', hint: TAKES_HINT };
const MANY = {
  choice: 'many' as const,
  label: 'Clean many',
  hint: 'A recipe, or what is suggested for each, on all of them at once; no sessions are made.',
};
const PARTS = {
  choice: 'parts' as const,
  label: 'One new session: a part from each',
  hint: 'Played together: tempo and meter are those of the first file.',
};
