import { SidePanel } from '@/panels/SidePanel';
import {
  RECORD_MODES,
  barAt,
  barNumbered,
  laneName,
  listOf,
  type Part,
  type Session,
  type Timeline,
} from '@ordle/core';
import { useOpenBench } from '@/music/useBench';
import { NoteValueOptions } from '@/panels/settings/forms/GridPicker';
import { usePhase } from '@/recording/recorder';
import {
  CLICK_WHEN,
  setRecordSettings,
  setRecordingPlace,
  useRecordSettings,
  useRecordingPlace,
} from '@/recording/settings';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { Check, NumberField, Segmented, Select, SliderField } from '@/ui';
import { MODE_WORDS } from './sentences';

const CLICK_WORDS: Record<(typeof CLICK_WHEN)[number], string> = {
  never: 'not heard',
  counting: 'heard while counting in',
  recording: 'heard while recording',
  both: 'heard in both',
};

/** Lanes a player usually moves. */
const USUAL_LANES = ['cc1', 'cc2', 'cc7', 'cc10', 'cc11', 'cc64', 'cc66', 'cc67', 'bend', 'pressure'];

interface RecordSettingsProps {
  session: Session;
  timeline: Timeline;
  part: Part;
}

/** How is recorded: what playing makes, where, the click, the speed. */
export function RecordSettings({ session, timeline, part }: RecordSettingsProps) {
  const settings = useRecordSettings();
  const isOn = usePhase() !== 'ready';
  const isOfLanes = settings.mode === 'controllers' || settings.mode === 'controller';
  return (
    <SidePanel name="Settings" className="w-64 overflow-y-auto">
      <div className="flex flex-col gap-4 px-3 py-3">
        <fieldset disabled={isOn} className="flex flex-col gap-1">
          <legend className="font-serif font-semibold">Playing makes</legend>
          {RECORD_MODES.map((mode) => (
            <label key={mode} title={MODE_WORDS[mode].title} className="flex items-center gap-2">
              <input
                type="radio"
                name="record-mode"
                value={mode}
                checked={settings.mode === mode}
                onChange={() => setRecordSettings({ mode })}
                className="h-3.5 w-3.5 accent-ink"
              />
              {MODE_WORDS[mode].label}
            </label>
          ))}
          {isOfLanes && (
            <Select
              label="Controllers that count"
              tip="The controllers that are recorded; all others stay as they are."
              initial="all that move"
              value={settings.lanes?.length === 1 ? settings.lanes[0] : ''}
              onChange={(lane) => setRecordSettings({ lanes: lane === '' ? null : [lane] })}
            >
              <option value="">all that move</option>
              {USUAL_LANES.map((lane) => (
                <option key={lane} value={lane}>
                  {laneName(lane)}
                </option>
              ))}
            </Select>
          )}
        </fieldset>
        <Where timeline={timeline} disabled={isOn} />
        <fieldset disabled={isOn} className="flex flex-col gap-1.5">
          <legend className="font-serif font-semibold">Click</legend>
          <Row label="Bars counted in">
            <NumberField
              label="Bars counted in"
              tip="Bars of clicks before recording begins."
              initial={1}
              value={settings.countIn}
              min={0}
              max={4}
              onCommit={(countIn) => setRecordSettings({ countIn })}
            />
          </Row>
          <Select
            label="When the click is heard"
            tip="When the click is heard."
            initial={CLICK_WORDS.both}
            value={settings.clickWhen}
            onChange={(value) => setRecordSettings({ clickWhen: CLICK_WHEN.find((each) => each === value) })}
          >
            {CLICK_WHEN.map((when) => (
              <option key={when} value={when}>
                {CLICK_WORDS[when]}
              </option>
            ))}
          </Select>
          <Row label="Level">
            <NumberField
              label="Level of the click"
              tip="How loud the click is."
              initial={100}
              value={Math.round(settings.clickLevel * 100)}
              min={10}
              max={200}
              step={10}
              unit="%"
              onCommit={(level) => setRecordSettings({ clickLevel: level / 100 })}
            />
          </Row>
          <Row label="Clicks a beat">
            <NumberField
              label="Clicks a beat"
              tip="How often it clicks in each beat."
              initial={1}
              value={settings.perBeat}
              min={1}
              max={4}
              onCommit={(perBeat) => setRecordSettings({ perBeat })}
            />
          </Row>
          <Check checked={settings.accent} onChange={(accent) => setRecordSettings({ accent })}>
            First beat of a bar louder
          </Check>
          <Check
            checked={settings.atFirstNote}
            onChange={(atFirstNote) => setRecordSettings({ atFirstNote })}
          >
            Begin with the first note
          </Check>
        </fieldset>
        <fieldset disabled={isOn} className="flex flex-col gap-1.5">
          <legend className="sr-only">Speed and grid</legend>
          <SliderField
            label="Speed"
            tip="How fast everything goes while you record, as a share of the tempo; what you play comes out at the tempo."
            initial={100}
            value={settings.speed}
            min={25}
            max={100}
            unit="%"
            disabled={isOn}
            onChange={(speed) => setRecordSettings({ speed })}
            onAbandon={() => undefined}
          />
          <label className="flex items-center justify-between gap-2 text-ink-2">
            Heard on the grid
            <Select
              label="Grid what is played is heard on"
              tip="What you play is seen and heard on this grid; it is stored as you played it."
              initial="as it is played"
              value={settings.grid ?? ''}
              onChange={(grid) => setRecordSettings({ grid: grid === '' ? null : grid })}
            >
              <option value="">as it is played</option>
              <NoteValueOptions />
            </Select>
          </label>
        </fieldset>
        <Armed session={session} part={part} disabled={isOn} />
      </div>
    </SidePanel>
  );
}

const Row = ({ label, children }: { label: string; children: React.ReactNode }) => (
  <div className="flex items-baseline justify-between text-ink-2">
    {label}
    {children}
  </div>
);

type WhereKind = 'on' | 'loop' | 'bars';

/** Where recording begins and ends: from the play line on, round a loop, or some bars alone. */
function Where({ timeline, disabled }: { timeline: Timeline; disabled: boolean }) {
  const { view } = useOpenBench();
  const dispatch = useAppDispatch();
  const settings = useRecordSettings();
  const { punch } = useRecordingPlace();
  const { meter } = timeline;
  const { loop } = view;
  const kind: WhereKind = punch.on ? 'bars' : loop.on && loop.to > loop.from ? 'loop' : 'on';
  const range = kind === 'loop' || (kind === 'on' && loop.to > loop.from) ? loop : punch;
  const barOf = (tick: number) => barAt(meter, tick).number;
  const [first, last] = range.to > range.from ? [barOf(range.from), barOf(range.to - 1)] : [1, 4];
  const set = (next: WhereKind, from: number, to: number) => {
    const ticks = { from: barNumbered(meter, from).start, to: barNumbered(meter, Math.max(from, to)).end };
    setRecordingPlace({ punch: { ...(next === 'bars' ? ticks : punch), on: next === 'bars' } });
    if (next === 'loop') dispatch(viewChanged({ loop: { ...ticks, on: true } }));
    else if (loop.on) dispatch(viewChanged({ loop: { ...loop, on: false } }));
  };
  return (
    <fieldset disabled={disabled} className="flex flex-col gap-1.5">
      <legend className="font-serif font-semibold">Where</legend>
      <Segmented
        label="Where is recorded"
        value={kind}
        disabled={disabled}
        options={[
          { value: 'on', label: 'From here', title: 'From the play line until you stop' },
          { value: 'loop', label: 'Loop', title: 'Round and round, a pass each time' },
          { value: 'bars', label: 'Some bars', title: 'Only these bars count, however long you play' },
        ]}
        onChange={(next) => set(next, first, last)}
      />
      {kind !== 'on' && (
        <span className="flex items-baseline gap-1.5 text-ink-2">
          bars
          <NumberField
            label="First bar"
            value={first}
            min={1}
            max={9999}
            onCommit={(bar) => set(kind, bar, Math.max(bar, last))}
          />
          to
          <NumberField
            label="Last bar"
            value={last}
            min={1}
            max={9999}
            onCommit={(bar) => set(kind, Math.min(first, bar), bar)}
          />
        </span>
      )}
      {kind === 'bars' && (
        <Row label="Played before">
          <NumberField
            label="Bars played before"
            value={settings.preRoll}
            min={0}
            max={4}
            unit={settings.preRoll === 1 ? 'bar' : 'bars'}
            onCommit={(preRoll) => setRecordSettings({ preRoll })}
          />
        </Row>
      )}
    </fieldset>
  );
}

/** Other parts that are recorded into at the same time, each by its own input. */
function Armed({ session, part, disabled }: { session: Session; part: Part; disabled: boolean }) {
  const { also } = useRecordingPlace();
  const others = listOf(session.parts).filter(({ id, setAside }) => id !== part.id && !setAside);
  if (others.length === 0) return null;
  return (
    <details>
      <summary className="cursor-pointer text-ink-2">
        {also.length === 0
          ? 'Record other parts too'
          : `And ${also.length} other ${also.length === 1 ? 'part' : 'parts'}`}
      </summary>
      <div className="flex flex-col gap-1 pt-1">
        {others.map(({ id, name, input }) => (
          <Check
            key={id}
            checked={also.includes(id)}
            disabled={disabled}
            onChange={(on) =>
              setRecordingPlace({ also: on ? [...also, id] : also.filter((each) => each !== id) })
            }
          >
            {name}
            {input?.source ? ` (${input.source})` : ''}
          </Check>
        ))}
      </div>
    </details>
  );
}
