import { isBlackKey, pitchName } from '@ordle/core';
import { useEffect, useRef, useState, type PointerEvent } from 'react';
import { STAND_INS, arrive, letGoInputs, onArrival } from '@/recording/inputs';
import { recordSettings, setRecordSettings, useRecordSettings } from '@/recording/settings';
import { Button } from '@/ui';

const OCTAVES = 4;
const WHITE = [0, 2, 4, 5, 7, 9, 11];
/** A key struck at its near end is loud, at its far end soft. */
const [SOFTEST, LOUDEST] = [24, 122];

/** Where in a key it was struck says how loud: near the player loud. */
const velocityAt = (share: number): number =>
  Math.round(SOFTEST + Math.min(1, Math.max(0, share)) * (LOUDEST - SOFTEST));

/** The pitches that are down on any input, as they arrive. */
function usePitchesDown(): ReadonlySet<number> {
  const [down, setDown] = useState<ReadonlySet<number>>(new Set());
  useEffect(() => {
    const now = new Set<number>();
    let frame = 0;
    const show = () => {
      frame = 0;
      setDown(new Set(now));
    };
    const stop = onArrival((_, { status, data1, data2 }) => {
      if (status >> 4 !== 8 && status >> 4 !== 9) return;
      if (status >> 4 === 9 && data2 > 0) now.add(data1);
      else now.delete(data1);
      frame ||= requestAnimationFrame(show);
    });
    return () => {
      stop();
      cancelAnimationFrame(frame);
    };
  }, []);
  return down;
}

/** Keys to play on with the mouse or with fingers, several at a time; sliding over them plays on. */
export function OnScreenKeys() {
  const { octave } = useRecordSettings();
  const down = usePitchesDown();
  const lowest = 12 * (octave - 1);
  const fingers = useRef(new Map<number, number>());
  const source = STAND_INS.keys;

  const keyUnder = (event: PointerEvent): { pitch: number; share: number } | null => {
    const element = document
      .elementFromPoint(event.clientX, event.clientY)
      ?.closest<HTMLElement>('[data-pitch]');
    if (!element) return null;
    const box = element.getBoundingClientRect();
    return { pitch: Number(element.dataset.pitch), share: (event.clientY - box.top) / box.height };
  };
  const letGo = (finger: number) => {
    const pitch = fingers.current.get(finger);
    if (pitch === undefined) return;
    fingers.current.delete(finger);
    arrive(source, [0x80, pitch, 64]);
  };
  const move = (event: PointerEvent) => {
    const found = keyUnder(event);
    if (found?.pitch === fingers.current.get(event.pointerId)) return;
    letGo(event.pointerId);
    if (!found) return;
    fingers.current.set(event.pointerId, found.pitch);
    arrive(source, [0x90, found.pitch, velocityAt(found.share)], event.timeStamp);
  };
  useEffect(() => () => letGoInputs(source.id), [source.id]);

  const shift = (by: number) => {
    letGoInputs(source.id);
    fingers.current.clear();
    setRecordSettings({ octave: Math.min(7, Math.max(1, recordSettings().octave + by)) });
  };
  const whites = Array.from(
    { length: OCTAVES * 7 + 1 },
    (_, at) => lowest + 12 * Math.floor(at / 7) + WHITE[at % 7],
  );
  return (
    <div className="flex min-h-0 grow gap-2">
      <span className="flex flex-col justify-between py-1">
        <Button aria-label="An octave higher" onClick={() => shift(1)}>
          8va up
        </Button>
        <span className="text-center text-quiet text-ink-2">from {pitchName(lowest)}</span>
        <Button aria-label="An octave lower" onClick={() => shift(-1)}>
          8va down
        </Button>
      </span>
      <div
        role="group"
        aria-label="Keys on the screen; struck near you they are loud"
        className="relative flex min-h-0 grow touch-none select-none"
        onPointerDown={(event) => {
          if (event.button !== 0) return;
          event.preventDefault();
          (event.target as Element).releasePointerCapture?.(event.pointerId);
          move(event);
        }}
        onPointerMove={(event) => fingers.current.has(event.pointerId) && move(event)}
        onPointerUp={(event) => letGo(event.pointerId)}
        onPointerCancel={(event) => letGo(event.pointerId)}
        onPointerLeave={(event) => letGo(event.pointerId)}
      >
        {whites.map((pitch) => (
          <span
            key={pitch}
            data-pitch={pitch}
            data-down={down.has(pitch)}
            className="flex grow basis-0 items-end justify-center border border-l-0 border-edge bg-sheet pb-1 text-quiet text-ink-3 first:border-l data-[down=true]:bg-rule-strong data-[down=true]:text-ink"
          >
            {pitch % 12 === 0 ? pitchName(pitch) : ''}
          </span>
        ))}
        {whites.slice(0, -1).map((pitch, at) =>
          isBlackKey(pitch + 1) ? (
            <span
              key={pitch + 1}
              data-pitch={pitch + 1}
              data-down={down.has(pitch + 1)}
              className="absolute top-0 h-[60%] border border-edge bg-ink data-[down=true]:bg-ink-3"
              style={{
                left: `${((at + 0.68) / whites.length) * 100}%`,
                width: `${(0.64 / whites.length) * 100}%`,
              }}
            />
          ) : null,
        )}
      </div>
    </div>
  );
}
