import { SidePanel } from '@/panels/SidePanel';
import { bpmOfTaps, roundedMap, sentenceOf, tempoEntries, withTempo, type Part } from '@ordle/core';
import { useEffect, useRef, useState, type ChangeEvent } from 'react';
import { toast } from 'sonner';
import { useOpenBench } from '@/music/useBench';
import { setFileTaker } from '@/files/fileTaker';
import { useAppDispatch } from '@/state/store';
import { Button, LabelledRow, Segmented } from '@/ui';
import { Locks } from '../Locks';
import { beginAtBarOne, changeMap, firstOf, takeMap, type Spans } from '@/edits/timeActions';
import { entriesInWords, placeOf } from './TempoTable';
import { HEAD, SomeBars } from './SomeBars';

interface MapPanelProps {
  /** The tick of the change that is chosen. */
  chosen: number | null;
  endTick: number;
  spans: Spans | null;
  part: Part | null;
}

/** What can be done to a stretch of the tempo map, to all of it, and to where the music begins. */
export function MapPanel({ chosen, endTick, spans, part }: MapPanelProps) {
  return (
    <SidePanel name="Settings" className="w-64 overflow-y-auto">
      <SomeBars key={`${chosen} ${spans !== null}`} chosen={chosen} endTick={endTick} />
      <Tap chosen={chosen} />
      <Beginning spans={spans} part={part} />
      <WholeMap />
    </SidePanel>
  );
}

/** Taps that are further apart than this begin anew, in seconds. */
const NEW_TAPS = 2.5;

/** A tempo tapped by hand. */
function Tap({ chosen }: { chosen: number | null }) {
  const { timeline, mayWrite } = useOpenBench();
  const dispatch = useAppDispatch();
  const [taps, setTaps] = useState<number[]>([]);
  const bpm = bpmOfTaps(taps);
  const rounded = bpm === null ? null : Math.round(bpm * 10) / 10;
  const place = chosen === null ? 'the start' : placeOf(chosen, timeline);
  const tap = () => {
    const now = performance.now() / 1000;
    const last = taps.at(-1);
    setTaps(last !== undefined && now - last < NEW_TAPS ? [...taps.slice(-15), now] : [now]);
  };
  return (
    <section aria-label="Tap a tempo" className="flex flex-col gap-2 border-b border-rule p-4">
      <h2 className={HEAD}>Tap a tempo</h2>
      <p className="flex items-center gap-2">
        <Button onPointerDown={tap} onKeyDown={(event) => event.key === ' ' && !event.repeat && tap()}>
          Tap
        </Button>
        <span className="grow text-ink-2">
          {rounded === null
            ? `${taps.length === 0 ? 'three' : 3 - Math.min(2, taps.length)} times or more`
            : `${rounded} bpm`}
        </span>
        <Button
          disabled={!mayWrite || rounded === null}
          onClick={() => {
            if (rounded !== null)
              changeMap(dispatch, `Tapped: ${rounded} bpm`, (own) => ({
                tempos: withTempo(own.tempos, chosen ?? 0, rounded),
              }));
            setTaps([]);
          }}
        >
          Set at {place}
        </Button>
      </p>
    </section>
  );
}

/** Where the music begins: its first note, or the chosen place, on a bar line. */
function Beginning({ spans, part }: { spans: Spans | null; part: Part | null }) {
  const { session, timeline, mayWrite } = useOpenBench();
  const dispatch = useAppDispatch();
  const [which, setWhich] = useState<'all' | 'part'>('all');
  const own = which === 'part' && part ? part.id : null;
  const first = spans && firstOf(spans, own === null ? session.parts.order : [own]);
  const [isMoving, setMoving] = useState(false);
  const begin = (at: number) => {
    setMoving(true);
    beginAtBarOne(dispatch, at, own)
      .catch((reason: unknown) => toast.error(sentenceOf(reason)))
      .finally(() => setMoving(false));
  };
  return (
    <section aria-label="Where it begins" className="flex flex-col gap-2 border-b border-rule p-4">
      <h2 className={HEAD}>Where it begins</h2>
      <Segmented
        label="What is moved"
        value={which}
        options={[
          { value: 'all', label: 'all parts' },
          { value: 'part', label: part?.name ?? 'one part' },
        ]}
        onChange={setWhich}
      />
      <p className="text-ink-2">
        {first === null ? 'No note in the session.' : `The first note is at ${placeOf(first, timeline)}.`}
      </p>
      <Button
        className="justify-center"
        disabled={!mayWrite || spans === null || first === null || isMoving}
        title="Leaves out whole bars of silence before it; where the playing keeps to no click, up to the bar line that was found. The takes keep it"
        onClick={() => first !== null && begin(first)}
      >
        Move the start to bar 1
      </Button>
      <p className="text-quiet text-ink-2">
        For an upbeat, select the note that begins a bar on the Bench and put it on a bar line there.
      </p>
    </section>
  );
}

/** What is done to all of the map at once, and which parts go along. */
function WholeMap() {
  const { session, timeline, mayWrite } = useOpenBench();
  const dispatch = useAppDispatch();
  const input = useRef<HTMLInputElement>(null);
  const take = (file: File | undefined) => {
    if (!file) return;
    file.arrayBuffer().then(
      (bytes) => {
        try {
          takeMap(dispatch, file.name, new Uint8Array(bytes));
        } catch (reason) {
          toast.error(`${file.name}: ${sentenceOf(reason)}`);
        }
      },
      (reason: unknown) => toast.error(`${file.name}: ${sentenceOf(reason)}`),
    );
  };
  const latest = useRef(take);
  useEffect(() => {
    latest.current = take;
  });
  useEffect(() => {
    // A file dropped here is one to take the tempo from.
    setFileTaker((files) => latest.current(files[0]));
    return () => setFileTaker(null);
  }, []);
  const choose = (event: ChangeEvent<HTMLInputElement>) => {
    take(event.target.files?.[0]);
    event.target.value = '';
  };
  return (
    <section aria-label="All of the map" className="flex flex-col gap-2 p-4">
      <h2 className={HEAD}>All of the map</h2>
      <input
        ref={input}
        type="file"
        accept=".mid,.midi,.smf,.kar"
        aria-label="File to take the tempo from"
        className="sr-only"
        tabIndex={-1}
        onChange={choose}
      />
      <Button className="justify-center" disabled={!mayWrite} onClick={() => input.current?.click()}>
        Take tempo and meter from a file
      </Button>
      <LabelledRow label="Rounding">
        <span className="flex gap-1">
          {[0, 1].map((decimals) => (
            <Button
              key={decimals}
              disabled={!mayWrite}
              onClick={() =>
                changeMap(dispatch, 'Round the tempo', (own) => ({
                  tempos: roundedMap(own.tempos, decimals, timeline.ticksPerQuarter),
                }))
              }
            >
              {decimals === 0 ? '1 bpm' : '0.1 bpm'}
            </Button>
          ))}
        </span>
      </LabelledRow>
      <p className="text-quiet text-ink-2">
        {entriesInWords(tempoEntries(session.tempos, timeline.ticksPerQuarter))}. Parts that keep their real
        time stay where they are.
      </p>
      <Locks />
    </section>
  );
}
