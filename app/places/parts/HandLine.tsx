import {
  barAt,
  movedLine,
  type HandLine as Line,
  type Part,
  type Session,
  type HandPicture,
} from '@ordle/core';
import { useEffect, useState } from 'react';
import { engine } from '@/engine/engineClient';
import { useOpenBench } from '@/music/useBench';
import { Button, NumberField } from '@/ui';
import { HandLinePicture } from './HandLinePicture';

/** Bars that are shown at once. */
const SHOWN = 12;

interface HandLineProps {
  session: Session;
  part: Part;
  line: Line;
  onLine(line: Line): void;
}

/** Adjusts the line between the hands: by dragging it in the picture, or by bars and semitones. */
export function HandLine({ session, part, line, onLine }: HandLineProps) {
  const { timeline, mayWrite } = useOpenBench();
  const [picture, setPicture] = useState<HandPicture | null>(null);
  const [first, setFirst] = useState(1);
  const [range, setRange] = useState<[number, number] | null>(null);
  useEffect(() => {
    let isAwaited = true;
    engine.handPicture({ session, partId: part.id, line }).then(
      (next) => isAwaited && setPicture(next),
      // What cannot be read is said by the shares above.
      () => undefined,
    );
    return () => {
      isAwaited = false;
    };
  }, [session, part.id, line]);
  const starts = picture?.notes.start;
  const last = starts && starts.length > 0 ? barAt(timeline.meter, starts[starts.length - 1]).number : 1;
  const shown: [number, number] = [first, Math.min(first + SHOWN, Math.max(last + 1, first + 1))];
  const [from, to] = range ?? [1, last];
  const move = (by: number) => onLine(movedLine(line, [from, to + 1], by));
  return (
    <div className="flex flex-col gap-2">
      <HandLinePicture
        picture={picture}
        timeline={timeline}
        bars={shown}
        disabled={!mayWrite}
        onMove={(bars, by) => onLine(movedLine(line, bars, by))}
      />
      {last > SHOWN && (
        <span className="flex items-center justify-between text-quiet text-ink-2">
          <Button look="quiet" disabled={first === 1} onClick={() => setFirst(Math.max(1, first - SHOWN))}>
            earlier
          </Button>
          bars {shown[0]} to {shown[1] - 1} of {last}
          <Button look="quiet" disabled={first + SHOWN > last} onClick={() => setFirst(first + SHOWN)}>
            later
          </Button>
        </span>
      )}
      <span className="flex items-center gap-1.5 text-ink-2">
        line in bars
        <NumberField
          label="First bar of the line"
          value={from}
          min={1}
          max={last}
          className="w-11"
          onCommit={(next) => setRange([next, Math.max(next, to)])}
        />
        to
        <NumberField
          label="Last bar of the line"
          value={to}
          min={1}
          max={last}
          className="w-11"
          onCommit={(next) => setRange([Math.min(from, next), next])}
        />
        <span className="grow" />
        <Button disabled={!mayWrite} onClick={() => move(-1)}>
          lower
        </Button>
        <Button disabled={!mayWrite} onClick={() => move(1)}>
          higher
        </Button>
        <Button disabled={!mayWrite || line.length === 0} onClick={() => onLine([])}>
          as found
        </Button>
      </span>
    </div>
  );
}
