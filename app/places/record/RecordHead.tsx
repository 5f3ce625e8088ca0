import { listOf, type Part, type Session, type Timeline } from '@ordle/core';
import { Circle, Square } from 'lucide-react';
import { keysOf, showKey } from '@/commands';
import { useMonitor } from '@/recording/monitor';
import { toggleRecording, usePhase } from '@/recording/recorder';
import { refusalOf, type RecordingPlan } from '@/recording/recordingPlan';
import { useRecordSettings } from '@/recording/settings';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { Button, Select } from '@/ui';
import { PHASE_WORDS, planInWords } from './sentences';

interface RecordHeadProps {
  session: Session;
  timeline: Timeline;
  plan: RecordingPlan;
  part: Part;
  /** The part and those that are armed with it. */
  parts: readonly Part[];
  mayWrite: boolean;
  onKeep(): void;
  onMemory(): void;
}

/** Read from two metres: the state, what playing will make, and the one button. */
export function RecordHead(props: RecordHeadProps) {
  const { session, timeline, plan, part, parts, mayWrite, onKeep, onMemory } = props;
  const dispatch = useAppDispatch();
  const phase = usePhase();
  const settings = useRecordSettings();
  const refusal = refusalOf(part, mayWrite);
  const isOn = phase !== 'ready';
  const [key] = keysOf('record');
  const [keepKey] = keysOf('keep-played');
  return (
    <section
      aria-label="Recording"
      className="flex shrink-0 items-center gap-5 border-b border-rule-strong px-5 py-3 narrow:flex-wrap narrow:gap-x-3 narrow:gap-y-1 narrow:px-3 narrow:py-1.5"
    >
      <button
        type="button"
        aria-label={isOn ? 'Stop recording' : 'Record'}
        title={`${isOn ? 'Stop' : 'Record'} (${showKey(key ?? '')})`}
        disabled={refusal !== null || phase === 'saving'}
        onClick={() => void toggleRecording()}
        className="flex h-16 w-16 shrink-0 items-center justify-center rounded-full narrow:h-12 narrow:w-12 bg-accent text-on-accent hover:brightness-110 disabled:opacity-45"
      >
        {isOn ? (
          <Square size={24} fill="currentColor" aria-hidden="true" />
        ) : (
          <Circle size={26} fill="currentColor" aria-hidden="true" />
        )}
      </button>
      <div className="min-w-48 flex-1">
        <p className="flex items-baseline gap-3">
          <span role="status" data-testid="phase" className="text-[1.35rem] font-semibold">
            {PHASE_WORDS[phase]}
          </span>
          <Lamp />
        </p>
        <p data-testid="plan" className="font-serif text-[1.45rem] leading-tight narrow:text-[1.1rem]">
          {refusal ?? planInWords(parts, timeline, plan, settings)}
        </p>
      </div>
      <div className="flex shrink-0 flex-col items-end gap-2 narrow:flex-row narrow:flex-wrap narrow:shrink">
        <label className="flex items-center gap-2 text-ink-2">
          Into
          <Select
            label="Part to record into"
            tip="The part that takes up what you play."
            value={part.id}
            disabled={isOn}
            className="max-w-48"
            onChange={(partId) => dispatch(viewChanged({ partId }))}
          >
            {listOf(session.parts).map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </Select>
        </label>
        <span className="flex gap-2">
          <Button
            onClick={onKeep}
            disabled={!mayWrite || isOn}
            title={`Keep what I just played (${showKey(keepKey ?? '')})`}
          >
            Keep what I just played
          </Button>
          <Button
            look="quiet"
            onClick={onMemory}
            title="What was played in the last twenty minutes, as a picture"
          >
            Choose ...
          </Button>
        </span>
      </div>
    </section>
  );
}

/** Says that something arrives, and what it was. */
function Lamp() {
  const { words, strength, count } = useMonitor();
  return (
    <span className="flex min-w-0 items-center gap-2 text-ink-2" data-testid="monitor">
      <span
        key={count}
        aria-hidden="true"
        className={`h-3 w-3 shrink-0 rounded-full border border-edge ${count > 0 ? 'animate-arrive bg-ink' : 'bg-sheet'}`}
        style={{ opacity: count > 0 ? 0.4 + 0.6 * strength : 1 }}
      />
      <span className="truncate">{words === '' ? 'Nothing arrives yet' : words}</span>
    </span>
  );
}
