import {
  NO_HINTS,
  pulseKeeper,
  toTheClick,
  type FoundBeats,
  type OtherReading,
  type Part,
  type PulseHints,
} from '@ordle/core';
import { useOpenBench } from '@/music/useBench';
import { SidePanel } from '@/panels/SidePanel';
import { useAppDispatch } from '@/state/store';
import { Button, LabelledRow, NumberField, Segmented } from '@/ui';
import { figures, msInWords } from '@/words/counts';
import { changeHints, letGridFollow, letPlayingFollow } from './tempoActions';
import { BeatsOfScore } from './BeatsOfScore';
import { Locks } from './Locks';
import { OtherReadings } from './OtherReadings';
import { Pointed, type PointedActions } from './Pointed';
import { RecordedTogether } from './RecordedTogether';
import type { BeatActions } from './useBeatActions';
import type { TempoState } from './useFoundBeats';

/** A button as wide as the panel, whose words may take two lines: `h-auto` has to beat the height buttons have. */
const WHOLE = 'h-auto! justify-center py-1 leading-tight whitespace-normal!';

interface TempoPanelProps {
  part: Part;
  state: TempoState;
  /** The note or beat that was pointed at, in seconds, and whether it is a beat already. */
  pointed: number | null;
  isBeat: boolean;
  actions: Pick<BeatActions, 'restAnew' | 'allAnew' | OtherReading> & PointedActions & { keep(): void };
  /** Another reading of the playing that is shown and heard, and the tempo of the one that was found. */
  tried: OtherReading | null;
  bpm: number;
  onTry(other: OtherReading | null): void;
}

const SETTLINGS: { value: PulseHints['settling']; label: string; says: string }[] = [
  { value: 'beats', label: 'every beat', says: 'Tempo changes at every beat' },
  { value: 'bars', label: 'each bar', says: 'Tempo changes once a bar' },
  { value: 'smooth', label: 'smoothly', says: 'Tempo changes smoothly' },
  { value: 'steady', label: 'never', says: 'One steady tempo' },
];

const sureInWords = (confidence: number) =>
  confidence > 0.75 ? 'certain' : confidence > 0.5 ? 'fairly certain' : 'not certain: look through the beats';

/** The place that keeps the bars where they are found while their length changes. */
const firstBarOf = (found?: FoundBeats): PulseHints['places'] =>
  found && found.beats.length > 0 ? [{ at: found.beats[found.downbeats[0] ?? 0], beat: 1 }] : undefined;

/** What was found, how closely the tempo follows it, and who follows whom. */
export function TempoPanel(props: TempoPanelProps) {
  const { part, state, pointed, isBeat, actions, tried, bpm, onTry } = props;
  const { session, timeline, mayWrite } = useOpenBench();
  const dispatch = useAppDispatch();
  const { view, settled, largestErrorMs } = state;
  const said = pulseKeeper(part, session).pulse;
  const hints = said ?? NO_HINTS;
  const found = view?.found;
  const has = settled !== null && found !== undefined;
  const bpms = has
    ? Array.from(settled.beats.subarray(1), (at, beat) => 60 / (at - settled.beats[beat]))
    : [];
  const [least, most] = bpms.reduce(
    ([low, high], bpm) => [Math.min(low, bpm), Math.max(high, bpm)],
    [Infinity, 0],
  );
  const isToClick = found !== undefined && part.lockedTo === 'beats' && toTheClick(found, timeline).is;
  const change = (label: string, next: Partial<PulseHints>) =>
    changeHints(dispatch, label, part.id, (now) => ({ ...now, ...next }));
  const meter = found
    ? found.division === 'ternary'
      ? `${3 * found.beatsPerBar}/8`
      : `${found.beatsPerBar}/4`
    : '';
  return (
    <SidePanel name="Settings" className="w-64 overflow-y-auto" isWaiting={!has}>
      <section aria-label="Tempo found" className="flex flex-col gap-2 border-b border-rule p-4">
        <h2 className="font-serif text-[1.05rem] font-semibold">Tempo found</h2>
        {has ? (
          <>
            <p className="flex items-baseline gap-3">
              <span data-testid="bpm" className="text-[2rem] leading-none">
                {settled.bpm.toFixed(1)}
              </span>
              <span className="text-ink-2">bpm, {meter}</span>
            </p>
            <p className="text-ink-2">
              {hints.settling === 'steady'
                ? 'one tempo'
                : `${least.toFixed(0)} to ${most.toFixed(0)} along the piece`}
              ; {sureInWords(found.confidence)}
            </p>
          </>
        ) : (
          <p className="text-ink-2">{view ? 'Fewer than two beats were found.' : 'Listening ...'}</p>
        )}
        {found && (
          <OtherReadings
            found={found}
            bpm={bpm}
            tried={tried}
            mayWrite={mayWrite}
            actions={actions}
            onTry={onTry}
          />
        )}
        <LabelledRow label="Bar of">
          <NumberField
            label="Beats a bar"
            tip="How many beats make a bar."
            unit="beats"
            value={found?.beatsPerBar ?? 4}
            min={1}
            max={32}
            disabled={!mayWrite || !has}
            onCommit={(beatsPerBar) =>
              change(`${beatsPerBar} beats a bar`, {
                beatsPerBar,
                places: hints.places ?? firstBarOf(found),
              })
            }
          />
        </LabelledRow>
        <LabelledRow label="Divided">
          <Segmented
            label="Beats are divided"
            value={found?.division ?? 'binary'}
            options={[
              { value: 'binary', label: 'in two', title: 'Each beat in two, as in 4/4' },
              { value: 'ternary', label: 'in three', title: 'Each beat in three, as in 6/8' },
            ]}
            disabled={!mayWrite || !has}
            onChange={(division) =>
              change(`Beats divided ${division === 'ternary' ? 'in three' : 'in two'}`, { division })
            }
          />
        </LabelledRow>
      </section>
      <section aria-label="Use these beats" className="flex flex-col gap-2 border-b border-rule p-4">
        <h2 className="font-serif text-[1.05rem] font-semibold">Tempo changes</h2>
        <Segmented
          label="The tempo follows"
          value={hints.settling}
          options={SETTLINGS.map(({ value, label, says }) => ({ value, label, title: says }))}
          disabled={!mayWrite || !has}
          onChange={(settling) =>
            change(SETTLINGS.find(({ value }) => value === settling)?.says ?? '', { settling })
          }
        />
        <LabelledRow label="Rounding">
          <Segmented
            label="Tempos are rounded to"
            value={String(hints.roundTo ?? 'exact')}
            options={[
              { value: 'exact', label: 'none', title: 'Tempos as they were found' },
              { value: '0.1', label: '0.1', title: 'To tenths of a beat a minute' },
              { value: '1', label: '1 bpm', title: 'To whole beats a minute' },
            ]}
            disabled={!mayWrite || !has}
            onChange={(value) =>
              changeHints(
                dispatch,
                value === 'exact' ? 'Tempos as they are' : `Tempos of ${value} bpm`,
                part.id,
                (now) => {
                  const { roundTo, ...rest } = now;
                  return value === 'exact' || String(roundTo) === value
                    ? rest
                    : { ...rest, roundTo: Number(value) };
                },
              )
            }
          />
        </LabelledRow>
        <p className="flex justify-between text-ink-2">
          largest remaining error
          <span data-testid="error" className="text-ink">
            {has ? `${msInWords(largestErrorMs)} ms` : ''}
          </span>
        </p>
        {part.reference && <BeatsOfScore part={part} mayWrite={mayWrite} />}
        <h2 className="mt-2 font-serif text-[1.05rem] font-semibold">Use these beats</h2>
        <Button
          look={isToClick ? 'plain' : 'main'}
          className={WHOLE}
          disabled={!mayWrite || !has}
          title="The session gets this tempo and meter; the performance stays as it was in real time"
          onClick={() => settled && letGridFollow(dispatch, part, settled)}
        >
          Set the tempo map from the performance
        </Button>
        <Button
          className={WHOLE}
          disabled={!mayWrite || !has}
          title="A pulse step moves the found beats onto those of the session; it can be set from 0 to 100 %"
          onClick={() => settled && letPlayingFollow(dispatch, part, settled)}
        >
          Move the notes onto the session's beats
        </Button>
        {isToClick && (
          <p>
            They are those of the session already: it was recorded to the click, and nothing is to be done.
          </p>
        )}
        <fieldset disabled={!view} className="flex flex-col gap-2">
          {/* Until the beats are there their figures would push these away under the pointer. */}
          <RecordedTogether part={part} />
          <Locks />
        </fieldset>
        <p className="text-quiet text-ink-2">
          {part.lockedTo === 'seconds'
            ? 'This part keeps its real time, whatever the tempo.'
            : 'This part follows the tempo of the session.'}
        </p>
      </section>
      {pointed !== null && found && (
        <Pointed found={found} second={pointed} isBeat={isBeat} mayWrite={mayWrite} actions={actions} />
      )}
      <section aria-label="Beats set by hand" className="flex flex-col gap-2 p-4">
        <h2 className="font-serif text-[1.05rem] font-semibold">Beats set by hand</h2>
        <p className="text-ink-2">
          {hints.beats.length === 0
            ? 'No beats set yet. Drag a beat onto a note: those beside it go along (with Alt it goes alone). Double-click for one more, or tap along with T.'
            : `${figures(hints.beats.length)}, told by a ring. They stay where you put them.`}
        </p>
        <Button className="self-start" disabled={!mayWrite || !has} onClick={actions.keep}>
          Fix the beats shown
        </Button>
        {hints.laid && hints.beats.length > 0 && (
          <Button className="self-start" disabled={!mayWrite} onClick={actions.restAnew}>
            Find the rest again
          </Button>
        )}
        <Button className="self-start" disabled={!mayWrite || said === undefined} onClick={actions.allAnew}>
          Find all again
        </Button>
      </section>
    </SidePanel>
  );
}
