import { listOf, describeWhere, kindOf, programName, type ChannelSharing } from '@ordle/core';
import { useState } from 'react';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { Button } from '@/ui';
import { CopyStepsDialog } from '@/panels/line/CopyStepsDialog';
import { bringBack, makePermanent } from '@/steps/foldActions';
import { usePartView } from '@/music/partViewStore';
import { run } from '@/commands';
import { useFollowsBars } from '@/music/useFacts';
import { useSelection } from '@/state/selection';
import { onlyInWords, selectedForSteps } from '@/steps/selectedNotes';
import { addStep } from '@/steps/stepActions';
import { OffTheGrid } from './OffTheGrid';
import { useOpenBench } from '@/music/useBench';
import { counted, figures } from '@/words/counts';

/** What shares the part's channel, and where they get in each other's way. */
function Sharing({ sharing }: { sharing: readonly ChannelSharing[] }) {
  const dispatch = useAppDispatch();
  if (sharing.length === 0) return null;
  return (
    <section aria-label="On the same channel" className="border-t border-rule pt-1.5">
      <p className="text-ink-2">On the same channel, whose controllers hold for all of its parts:</p>
      <ul>
        {sharing.map((each) => (
          <li key={each.partId} className="py-0.5">
            <button
              type="button"
              className="underline decoration-dotted underline-offset-2"
              onClick={() => dispatch(viewChanged({ partId: each.partId }))}
            >
              {each.name}
            </button>
            {troublesOf(each).map((words) => (
              <span key={words} className="block font-semibold">
                {words}
              </span>
            ))}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What is wrong between two parts of a channel, in sentences. */
function troublesOf({ programs, pedals, overlaps }: ChannelSharing): string[] {
  return [
    ...(programs ? [`It chooses ${programName(programs[1])}, this part ${programName(programs[0])}.`] : []),
    ...(pedals ? ['Both move the pedal.'] : []),
    ...(overlaps > 0
      ? [`${counted(overlaps, 'note sounds', 'notes sound')} while the other holds the same pitch.`]
      : []),
  ];
}

/** What to begin with: quantizing, of what is selected or of the part; of what follows no bars, its beats. */
function FirstStep() {
  const { session, part, together } = useOpenBench();
  const dispatch = useAppDispatch();
  const selection = useSelection();
  const followsBars = useFollowsBars();
  if (!part) return null;
  const only = selectedForSteps(part, selection);
  const add = () => void addStep(dispatch, { session, part, together, after: 0 }, 'quantize', only);
  if (followsBars !== false)
    return (
      // Until it is known where the part leads, nothing is offered that might change under the pointer.
      <Button look="main" className="justify-center" disabled={followsBars === null} onClick={add}>
        {only.size > 0 ? `Quantize ${onlyInWords(only)}` : 'Add quantize'}
      </Button>
    );
  return (
    <>
      <p>It follows no bars of this session, so there is no grid to quantize it to yet.</p>
      <Button look="main" className="justify-center" onClick={() => run('go-tempo')}>
        Find its beats on Tempo
      </Button>
      <Button className="justify-center" onClick={add}>
        Add quantize all the same
      </Button>
    </>
  );
}

/** What to see and do at the ends of the line, which have no settings. */
export function StopSummary() {
  const bench = useOpenBench();
  const dispatch = useAppDispatch();
  const { view } = usePartView();
  const [copying, setCopying] = useState(false);
  const { session, part, stop, mayWrite } = bench;
  if (!part || !stop) return null;
  const dropped = view?.partId === part.id ? (view.dropped?.start.length ?? 0) : 0;
  const played = stop.id === 'played';
  const steps = listOf(part.steps).map(({ step }) => step);
  return (
    <>
      <h2 className="font-serif text-[1.15rem] font-semibold">{played ? 'As played' : 'Cleaned'}</h2>
      <div className="min-h-13">
        <OffTheGrid partId={part.id} />
      </div>
      <p className="text-ink-2">
        {played
          ? part.folded.length > 0
            ? 'A take made from earlier steps. It is never changed: every step works on a copy of it.'
            : 'The performance itself. It is never changed: every step works on a copy of it.'
          : part.steps.order.length === 0
            ? part.folded.length > 0
              ? 'No step since the last were made permanent, so this is the take they became.'
              : 'No step yet, so this is the performance as it was played.'
            : part.folded.length > 0
              ? 'What is heard and exported, after all steps that are on. The marks under the notes tell where they were in the take that earlier steps became.'
              : 'What is heard and exported, after all steps that are on. The marks under the notes tell where they were as played.'}
      </p>
      {part.steps.order.length === 0 && mayWrite && <FirstStep />}
      <dl>
        <div className="flex justify-between py-px">
          <dt className="text-ink-2">notes</dt>
          <dd>{view?.partId === part.id ? figures(view.notes.length) : ''}</dd>
        </div>
        {dropped > 0 && (
          <div className="flex justify-between py-px">
            <dt className="text-ink-2">doubles left out, dashed in the roll</dt>
            <dd>{figures(dropped)}</dd>
          </div>
        )}
      </dl>
      <Sharing sharing={view?.partId === part.id ? view.sharing : []} />
      {!played && part.steps.order.length > 0 && (
        <ol className="border-t border-rule pt-1.5">
          {listOf(part.steps).map(({ id, step }) => (
            <li key={id} className={`py-0.5 ${step.on ? '' : 'text-ink-3'}`}>
              {kindOf(step.kind).title}: {step.on ? kindOf(step.kind).describe(step) : 'off'},{' '}
              {describeWhere(step.where)}
            </li>
          ))}
        </ol>
      )}
      {!played && part.steps.order.length > 0 && mayWrite && (
        <div className="flex flex-wrap gap-2">
          {session.parts.order.length > 1 && (
            <Button onClick={() => setCopying(true)}>Copy to other parts</Button>
          )}
          <Button onClick={() => void makePermanent(dispatch, session, part, part.steps.order.length)}>
            Turn the steps so far into a take
          </Button>
        </div>
      )}
      {played && part.folded.length > 0 && (
        <section aria-label="Made permanent" className="border-t border-rule pt-1.5">
          <p className="text-ink-2">
            {part.folded.length === 1
              ? 'Steps were made permanent'
              : `Steps were made permanent ${part.folded.length} times`}
            . What was played before is on record:
          </p>
          <ol>
            {part.folded.map(({ at, steps: own }) => (
              <li key={at} className="py-0.5">
                {new Date(at).toLocaleDateString('en', { day: 'numeric', month: 'short' })}:{' '}
                {listOf(own)
                  .map(({ step }) => kindOf(step.kind).title)
                  .join(', ')}
              </li>
            ))}
          </ol>
          {mayWrite && (
            <Button className="mt-1" onClick={() => void bringBack(dispatch, session, part)}>
              Restore the last steps
            </Button>
          )}
        </section>
      )}
      {copying && <CopyStepsDialog steps={steps} onClose={() => setCopying(false)} />}
    </>
  );
}
