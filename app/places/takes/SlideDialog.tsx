import {
  bestMatch,
  secondsToTicks,
  slideTake,
  takesOfPart,
  ticksToSeconds,
  withTakes,
  type Part,
  type Timeline,
  type TakeRow,
} from '@ordle/core';
import { useState } from 'react';
import { useAppDispatch } from '@/state/store';
import { Button, Dialog, LabelledRow, NumberField, Select } from '@/ui';
import { msInWords } from '@/words/counts';
import { changeAssembly } from '@/edits/assemblyActions';

interface SlideDialogProps {
  partId: string;
  lockedTo: Part['lockedTo'];
  timeline: Timeline;
  row: TakeRow;
  others: readonly TakeRow[];
  onClose(): void;
}

/**
 * Slides a take by beats or milliseconds, or to where its strokes meet those of another take best; that is shown, and
 * can be changed after.
 */
export function SlideDialog({ partId, lockedTo, timeline, row, others, onClose }: SlideDialogProps) {
  const dispatch = useAppDispatch();
  const { take } = row;
  const [found, setFound] = useState<{ words: string; isFound: boolean } | null>(null);
  const beat = timeline.meter.beatTicks[0];
  // One unit of the slide in ms at the first tempo, and in beats: it is in ticks, or in seconds where the part is
  // locked to them.
  const msPerBeat = 1000 * ticksToSeconds(timeline.tempo, beat);
  const msPerUnit = lockedTo === 'seconds' ? 1000 : msPerBeat / beat;
  const slide = (value: number, words: string) =>
    changeAssembly(dispatch, `Slide ${take.name} ${words}`, partId, (now, session) =>
      slideTake(withTakes(now, takesOfPart(now, session)), take, value),
    );
  const match = (id: string) => {
    const other = others.find((each) => each.take.id === id);
    const best = other && bestMatch(row.notes, other.notes, timeline);
    if (!other || !best) {
      setFound({
        isFound: false,
        words: 'They have no stroke of one pitch within 8 seconds of each other.',
      });
      return;
    }
    const { seconds, share } = best;
    const ticks = secondsToTicks(timeline.tempo, Math.abs(seconds)) * Math.sign(seconds);
    slide(take.slide + (lockedTo === 'seconds' ? seconds : ticks), `to match ${other.take.name}`);
    setFound({
      isFound: true,
      words: `Moved ${msInWords(Math.abs(seconds) * 1000)} ms ${seconds < 0 ? 'earlier' : 'later'}: ${Math.round(share * 100)} % of its notes match one of ${other.take.name}.`,
    });
  };
  const ms = take.slide * msPerUnit;
  return (
    <Dialog open title={`Slide ${take.name}`} onClose={onClose}>
      <LabelledRow label="by time">
        <NumberField
          label="Slide in milliseconds"
          value={Math.round(ms * 10) / 10}
          min={-600000}
          max={600000}
          step={0.1}
          unit="ms"
          onCommit={(value) => slide(value / msPerUnit, `to ${value} ms`)}
        />
      </LabelledRow>
      <LabelledRow label="by beats">
        <NumberField
          label="Slide in beats"
          value={Math.round((ms / msPerBeat) * 1000) / 1000}
          min={-10000}
          max={10000}
          step={0.001}
          unit="beats"
          onCommit={(beats) => slide((beats * msPerBeat) / msPerUnit, `to ${beats} beats`)}
        />
      </LabelledRow>
      <LabelledRow label="to match">
        <Select label="Slide to match" value="" className="w-full" onChange={match}>
          <option value="" disabled>
            another take
          </option>
          {others
            .filter((other) => other.take.id !== take.id && other.fault === null)
            .map((other) => (
              <option key={other.take.id} value={other.take.id}>
                {other.take.name}
              </option>
            ))}
        </Select>
      </LabelledRow>
      <p role="status" className={found?.isFound === false ? 'font-semibold' : 'text-ink-2'}>
        {found?.words ?? 'Positive is later. You hear the change at once.'}
      </p>
      <span className="flex justify-end gap-2">
        <Button disabled={take.slide === 0} onClick={() => slide(0, 'back')}>
          Back to 0
        </Button>
        <Button look="main" onClick={onClose}>
          Done
        </Button>
      </span>
    </Dialog>
  );
}
