import { isNoteOn, measureLatency, type MeasuredLatency } from '@ordle/core';
import { useEffect, useRef, useState } from 'react';
import { STAND_INS, arrive, onArrival, useInputs } from '@/recording/inputs';
import { setScoreHeld } from '@/playback/heldScore';
import { setRecordSettings, useRecordSettings } from '@/recording/settings';
import { transport } from '@/sound/transport';
import { Button, Dialog, NumberField } from '@/ui';
import { msInWords } from '@/words/counts';

const CLICKS = 16;
const APART = 0.6;
const FIRST = 1.2;

/** How late each input is: measured by tapping along to sixteen clicks, or typed. */
export function LatencyDialog({ onClose }: { onClose(): void }) {
  const inputs = useInputs().filter(({ kind }) => kind !== 'practice-player' && kind !== 'controls');
  const { latency, speed } = useRecordSettings();
  const [running, setRunning] = useState(false);
  const [taps, setTaps] = useState(0);
  const [found, setFound] = useState<{ id: string; name: string; measured: MeasuredLatency | null } | null>(
    null,
  );
  /** Where the play line was. */
  const before = useRef(0);
  const heard = useRef<{ id: string; name: string; stamp: number }[]>([]);

  const finish = () => {
    const clicks = Array.from({ length: CLICKS }, (_, click) => transport.pageAt(FIRST + click * APART));
    transport.stop();
    transport.locate(before.current);
    setScoreHeld(false);
    setRunning(false);
    const [first] = heard.current;
    if (!first) return setFound(null);
    const stamps = heard.current.filter(({ id }) => id === first.id).map(({ stamp }) => stamp);
    setFound({ ...first, measured: measureLatency(clicks, stamps) });
  };
  const end = useRef(finish);
  useEffect(() => {
    end.current = finish;
  });
  useEffect(() => {
    if (!running) return;
    const stop = onArrival(({ id, name }, message) => {
      if (!isNoteOn(message)) return;
      heard.current.push({ id, name, stamp: message.stamp });
      setTaps(heard.current.length);
    });
    const watch = setInterval(() => {
      const second = transport.musicAt(performance.now());
      if (second !== null && second > FIRST + CLICKS * APART) end.current();
    }, 100);
    return () => {
      stop();
      clearInterval(watch);
    };
  }, [running]);

  const start = async () => {
    heard.current = [];
    before.current = transport.second();
    setTaps(0);
    setFound(null);
    transport.setRate(1);
    // Nothing but the clicks is to be heard.
    setScoreHeld(true);
    const clickTimes = Float64Array.from({ length: CLICKS }, (_, click) => FIRST + click * APART);
    await transport.play(async () => ({
      score: {
        parts: [],
        end: FIRST + (CLICKS + 4) * APART,
        clickTimes,
        clickAccents: new Uint8Array(CLICKS),
      },
      second: 0,
      loop: null,
      click: 1,
    }));
    setRunning(true);
  };

  return (
    <Dialog
      open
      title="Latency of what is played on"
      description="What you play arrives a little late. Tap any key along with sixteen clicks, and it is measured; from then on it is taken off everything that input records. Where you hear late because of your loudspeakers, that is in it."
      onClose={() => {
        transport.stop();
        setScoreHeld(false);
        transport.setRate(speed / 100);
        onClose();
      }}
    >
      <div className="flex items-center gap-4">
        <Button look="main" disabled={running} onClick={() => void start()}>
          {running ? `Tap along: ${taps} of ${CLICKS}` : 'Measure by tapping'}
        </Button>
        {running && (
          <Button look="quiet" onClick={finish}>
            That is enough
          </Button>
        )}
      </div>
      {running && (
        <button
          type="button"
          onPointerDown={({ timeStamp }) => arrive(STAND_INS.keys, [0x90, 60, 90], timeStamp)}
          onPointerUp={() => arrive(STAND_INS.keys, [0x80, 60, 64])}
          className="h-20 touch-none rounded-medium border border-edge bg-ground select-none active:bg-well"
        >
          Tap here with the mouse or a finger, press Z to / on the computer’s keys, or play your instrument
        </button>
      )}
      {found && (
        <p role="status">
          {found.measured ? (
            <>
              {found.name}: {msInWords(Math.abs(found.measured.median))} ms{' '}
              {found.measured.median < 0 ? 'early' : 'late'}, uneven by {msInWords(found.measured.spread)} ms
              over {found.measured.taps} taps.{' '}
              <Button
                onClick={() => {
                  const own = Math.round(found.measured?.median ?? 0);
                  setRecordSettings({ latency: { ...latency, [found.id]: own } });
                  setFound(null);
                }}
              >
                Take it off from now on
              </Button>
            </>
          ) : (
            `${found.name}: too few taps to tell. Tap along with at least eight of the clicks.`
          )}
        </p>
      )}
      <ul className="flex flex-col gap-1">
        {inputs.map(({ id, name }) => (
          <li key={id} className="flex items-baseline justify-between">
            {name}
            <NumberField
              label={`Latency of ${name}`}
              value={latency[id] ?? 0}
              min={-1000}
              max={1000}
              unit="ms"
              onCommit={(ms) => setRecordSettings({ latency: { ...latency, [id]: ms } })}
            />
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
