import { isScore, listOf, type Part, type Reference, type Session } from '@ordle/core';
import { useRef } from 'react';
import type { PlayedScore } from '@/engine/protocol';
import { useAppDispatch } from '@/state/store';
import { Button, Menu, MoreMenu } from '@/ui';
import { counted, figures } from '@/words/counts';
import { Faults } from './Faults';
import { FollowedWhere } from './FollowedWhere';
import { cleanToScore, takeAway } from './scoreActions';
import type { useLayScore } from './useLayScore';

interface BesideScoreProps {
  session: Session;
  /** The parts in the score, of which one is worked on. */
  part: Part;
  chosen: readonly string[];
  played: PlayedScore | null;
  laying: ReturnType<typeof useLayScore>;
  mayWrite: boolean;
}

/** The written score beside what was played: laid, told of, cleaned to, taken away. */
export function BesideScore(props: BesideScoreProps) {
  const { part } = props;
  return (
    <section aria-label="Score beside it" className="flex flex-col gap-2 border-b border-rule p-4">
      {part.reference ? <Laid {...props} reference={part.reference} /> : <NotLaid {...props} />}
    </section>
  );
}

function NotLaid({ session, part, chosen, laying, mayWrite }: BesideScoreProps) {
  const picker = useRef<HTMLInputElement>(null);
  const others = listOf(session.parts).filter(({ id }) => !chosen.includes(id));
  const whom = chosen.length > 1 ? `these ${chosen.length} parts` : part.name;
  return (
    <>
      <h2 className="font-serif text-[1.05rem] font-semibold">A written score</h2>
      <p className="text-quiet text-ink-2">
        Have the score of {whom}? Drop it here (MusicXML or MIDI), and see every wrong, missing, early and
        late note on the page.
      </p>
      <input
        ref={picker}
        type="file"
        hidden
        aria-label="A written score, MusicXML or MIDI"
        accept=".musicxml,.mxl,.xml,.mid,.midi"
        onChange={({ target }) => {
          const file = target.files?.[0];
          if (file) void laying.layFile(file);
          target.value = '';
        }}
      />
      <Menu
        trigger={
          <Button
            disabled={!mayWrite || laying.isBusy}
            className="justify-center"
            title="What is written is followed note by note; nothing of the part is changed"
          >
            {laying.isBusy ? 'Following the score ...' : 'Lay a score beside it ▾'}
          </Button>
        }
        items={[
          { label: 'From a file ...', onSelect: () => picker.current?.click() },
          ...others.map(({ id, name }) => ({
            label: `${name}, as it is cleaned`,
            onSelect: () => laying.layPart(session, id),
          })),
        ]}
      />
    </>
  );
}

function Laid({ session, part, played, mayWrite, reference }: BesideScoreProps & { reference: Reference }) {
  const dispatch = useAppDispatch();
  const isCleaned = listOf(part.steps).some(({ step }) => isScore(step) && step.on);
  return (
    <>
      <div className="flex items-start justify-between gap-2 narrow:pr-10">
        <h2 className="font-serif text-[1.05rem] font-semibold">{reference.name}</h2>
        <MoreMenu
          name="the score"
          items={[
            {
              label: 'Take the score away',
              disabled: !mayWrite,
              onSelect: () => takeAway(dispatch, session, part),
            },
          ]}
        />
      </div>
      {played && <Told played={played} />}
      {played && <Legend />}
      <Button
        look={isCleaned ? 'plain' : 'main'}
        className="justify-center"
        disabled={!mayWrite}
        title="Every note goes to the place it is written at; strength, chords and pitches are set on the Bench"
        onClick={() => cleanToScore(dispatch, session, part, !isCleaned)}
      >
        {isCleaned ? 'Take that back' : 'Clean to the score'}
      </Button>
      {played && <Faults session={session} faults={played.faults} mayWrite={mayWrite} />}
      {played && <FollowedWhere {...{ session, part, reference, played, mayWrite }} />}
    </>
  );
}

/** What the marks on the page mean. */
function Legend() {
  const sign = 'mr-1 inline-block size-2.5 align-baseline';
  return (
    <ul aria-label="Marks on the page" className="flex flex-wrap gap-x-3 text-quiet text-ink-2">
      <li>
        <span aria-hidden="true" className={`${sign} bg-late`} />
        late
      </li>
      <li>
        <span aria-hidden="true" className={`${sign} rounded-full border-2 border-early`} />
        early
      </li>
      <li>
        <span aria-hidden="true" className={`${sign} rounded-full border border-accent`} />
        missing
      </li>
      <li>
        <span aria-hidden="true" className={`${sign} rounded-full border border-accent`} />
        <span aria-hidden="true" className={`${sign} -ml-1 rounded-full bg-accent`} />
        wrong
      </li>
      <li>
        <span aria-hidden="true" className={`${sign} rounded-full bg-accent`}>
          <span className="relative block h-2.5 w-px rotate-45 translate-x-1 bg-ink" />
        </span>
        extra
      </li>
    </ul>
  );
}

/** What the page shows, in figures. */
function Told({ played: { marks, extras, typicalMs, isByBars } }: { played: PlayedScore }) {
  const count = (is: string) => marks.filter((mark) => mark.is === is).length;
  const [wrong, missing] = [count('wrong'), count('missing')];
  return (
    <p data-testid="score-told">
      {figures(count('right'))} of {counted(marks.length, 'note')} right, {figures(wrong)} wrong,{' '}
      {figures(missing)} missing, {figures(extras.length)} extra. Typically {figures(Math.round(typicalMs))}{' '}
      ms from {isByBars ? 'the written place' : 'the tempo around'}.
    </p>
  );
}
