import {
  USUAL_BPM,
  barAt,
  changedRamp,
  positionAt,
  tickAtPosition,
  withTempo,
  type FoundRamp,
  type TempoEntry,
  type Timeline,
} from '@ordle/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef } from 'react';
import { parsePosition } from '@/edits/typedValues';
import { Button, NumberField, Select, TextField } from '@/ui';
import { counted } from '@/words/counts';
import { moved, nameOfMove, takenOutOfMap, type ChangeTempos, type Held } from './mapMoves';

const ROW = 28;

interface TempoTableProps {
  entries: readonly TempoEntry[];
  timeline: Timeline;
  chosen: number | null;
  mayWrite: boolean;
  onChoose(tick: number): void;
  onChange: ChangeTempos;
}

export const placeOf = (tick: number, { meter }: Timeline): string => {
  const { bar, beat, tick: into } = positionAt(meter, tick);
  return `${bar}.${beat}${into === 0 ? '' : `.${String(into).padStart(3, '0')}`}`;
};

/** "4 tempos, 2 ramps". */
export function entriesInWords(entries: readonly TempoEntry[]): string {
  const ramps = entries.filter(({ ramp }) => ramp).length;
  const tempos = entries.length - ramps;
  return [
    ...(tempos > 0 ? [counted(tempos, 'tempo')] : []),
    ...(ramps > 0 ? [counted(ramps, 'ramp')] : []),
  ].join(', ');
}

/** How a ramp goes, in words. */
export const RAMP_WORDS: Record<FoundRamp['shape'], string> = {
  line: 'evenly',
  ease: 'gently',
  slowStart: 'slowly first',
  slowEnd: 'slowly last',
};

const heldOf = ({ ramp, tick, bpm }: TempoEntry, side: 'start' | 'end' = 'start'): Held =>
  ramp
    ? {
        kind: 'ramp',
        side,
        ramp,
        tick: side === 'start' ? tick : ramp.to,
        bpm: side === 'start' ? bpm : ramp.toBpm,
      }
    : { kind: 'change', tick, bpm };

/** Every tempo and every ramp with its place; all of it can be typed. */
export function TempoTable(props: TempoTableProps) {
  const { entries, timeline, chosen, mayWrite, onChoose, onChange } = props;
  const scroller = useRef<HTMLDivElement>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer keeps its own state by design
  const virtual = useVirtualizer({
    count: entries.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  const isChosen = ({ tick, ramp }: TempoEntry) => tick === chosen || (ramp !== null && ramp.to === chosen);
  useEffect(() => {
    const at = entries.findIndex(isChosen);
    if (at >= 0) virtual.scrollToIndex(at, { align: 'auto' });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only when another is chosen
  }, [chosen]);
  const last = entries[entries.length - 1];
  const nextBar = barAt(timeline.meter, last.ramp ? last.ramp.to : last.tick).end;
  const lastBpm = last.ramp ? last.ramp.toBpm : last.bpm;
  return (
    <section aria-label="Tempo changes" className="flex min-w-0 grow flex-col border-r border-rule">
      <header className="flex h-10 shrink-0 items-center gap-2 border-b border-rule px-4">
        <h2 className="grow font-serif text-[1.05rem] font-semibold">Tempo</h2>
        <Button
          disabled={!mayWrite}
          onClick={() => onChange('A tempo change', (own) => withTempo(own, nextBar, lastBpm), nextBar)}
        >
          Add a change
        </Button>
      </header>
      <div ref={scroller} className="min-h-0 grow overflow-y-auto" tabIndex={0}>
        <div
          role="table"
          aria-label="Tempo changes"
          className="relative"
          style={{ height: virtual.getTotalSize() }}
        >
          {virtual.getVirtualItems().map(({ index, start }) => {
            const entry = entries[index];
            return (
              <div
                key={entry.tick}
                role="row"
                aria-selected={isChosen(entry)}
                onPointerDown={() => onChoose(entry.tick)}
                className={`absolute inset-x-0 flex items-center gap-2 border-b border-rule px-4 ${isChosen(entry) ? 'bg-well' : ''}`}
                style={{ height: ROW, transform: `translateY(${start}px)` }}
              >
                <EntryCells
                  entry={entry}
                  isFirst={index === 0}
                  isOnly={entries.length === 1}
                  {...{ timeline, mayWrite, onChange }}
                />
              </div>
            );
          })}
        </div>
      </div>
    </section>
  );
}

interface EntryCellsProps {
  entry: TempoEntry;
  isFirst: boolean;
  isOnly: boolean;
  timeline: Timeline;
  mayWrite: boolean;
  onChange: ChangeTempos;
}

function EntryCells({ entry, isFirst, isOnly, timeline, mayWrite, onChange }: EntryCellsProps) {
  const { ramp } = entry;
  const what = ramp ? 'ramp' : 'tempo';
  const place = placeOf(entry.tick, timeline);
  const put = (held: Held, tick: number, bpm: number) =>
    onChange(nameOfMove(held, tick), (own) => moved(own, held, tick, bpm), tick);
  const placeField = (label: string, held: Held) => (
    <TextField
      label={label}
      value={placeOf(held.tick, timeline)}
      disabled={!mayWrite}
      className={ramp ? 'w-15' : 'w-18'}
      onCommit={(text) => {
        const typed = parsePosition(text, (at) => tickAtPosition(timeline.meter, at));
        if (!typed) return;
        const to = Math.round(typed.relative ? held.tick + typed.value : typed.value);
        if (to > 0) put(held, to, held.bpm);
      }}
    />
  );
  const bpmField = (label: string, held: Held, unit?: string) => (
    <NumberField
      label={label}
      unit={unit}
      value={Number(held.bpm.toFixed(3))}
      min={USUAL_BPM.least}
      max={USUAL_BPM.most}
      step={0.001}
      className={ramp ? 'w-15' : 'w-18'}
      disabled={!mayWrite}
      onCommit={(next) => put(held, held.tick, next)}
    />
  );
  const [start, end] = [heldOf(entry), heldOf(entry, 'end')];
  const where = isFirst ? 'the start' : place;
  return (
    <>
      <span role="cell" className={`flex shrink-0 items-center ${ramp ? '' : 'w-28'}`}>
        {isFirst ? (
          <span className={`px-1 text-ink-2 ${ramp ? 'w-15' : ''}`}>start</span>
        ) : (
          placeField(`Place of the ${what} at ${place}`, start)
        )}
        {ramp && (
          <>
            <span className="text-ink-2">to</span>
            {placeField(`End of the ramp at ${where}`, end)}
          </>
        )}
      </span>
      <span role="cell" className="flex min-w-0 grow items-center gap-1 overflow-hidden">
        {bpmField(
          ramp ? `Tempo the ramp at ${where} begins with` : `Tempo at ${where}`,
          start,
          ramp ? undefined : 'bpm',
        )}
        {ramp && (
          <>
            <span className="text-ink-2">to</span>
            {bpmField(`Tempo the ramp at ${where} comes to`, end, 'bpm')}
            <Select
              label={`How the ramp at ${where} goes`}
              value={ramp.shape}
              disabled={!mayWrite}
              onChange={(shape) =>
                onChange(
                  'Change a ramp',
                  (own) => changedRamp(own, ramp, { shape: shape as FoundRamp['shape'] }),
                  entry.tick,
                )
              }
            >
              {Object.entries(RAMP_WORDS).map(([shape, words]) => (
                <option key={shape} value={shape}>
                  {words}
                </option>
              ))}
            </Select>
          </>
        )}
      </span>
      <span role="cell" className="shrink-0">
        <Button
          look="quiet"
          className="h-6"
          disabled={!mayWrite || isOnly}
          aria-label={`Take out the ${what} at ${where}`}
          onClick={() =>
            onChange(
              ramp ? 'Take a ramp out' : 'Take a tempo change out',
              (own) => takenOutOfMap(own, start),
              null,
            )
          }
        >
          delete
        </Button>
      </span>
    </>
  );
}
