import {
  barAt,
  createStep,
  insertItems,
  itemOf,
  positionAt,
  secondsToTicks,
  sentenceOf,
  ticksToSeconds,
  type Part,
  type Session,
  type Step,
  type Timeline,
} from '@ordle/core';
import { useState } from 'react';
import { toast } from 'sonner';
import { engine } from '@/engine/engineClient';
import { useAnswer } from '@/engine/useAnswer';
import { useOpenBench } from '@/music/useBench';
import { saveAs } from '@/files/saveAs';
import { edit } from '@/state/sessionSlice';
import { useAppDispatch } from '@/state/store';
import { Button, Segmented } from '@/ui';
import { csvRows } from './chartFiles';

type View = Awaited<ReturnType<typeof engine.harmony>>;
const harmonyAsked = (asked: { session: Session; partId: string | null }) => engine.harmony(asked);

/**
 * The pedal goes down again this long after a change of chord, in seconds: just after the new notes, so that the old
 * ones go (common practice).
 */
const PEDAL_AFTER = 0.1;
const encoder = new TextEncoder();

/** Chord names and keys along the bars, of a part or of all parts, with what they are good for. */
export function HarmonyPane({ session, part }: { session: Session; part: Part }) {
  const { timeline, mayWrite } = useOpenBench();
  const dispatch = useAppDispatch();
  const [whose, setWhose] = useState<'part' | 'all'>('all');
  const {
    answer: view,
    isCurrent,
    error,
  } = useAnswer(harmonyAsked, {
    session,
    partId: whose === 'part' ? part.id : null,
  });
  const bars = view ? barsOf(view, timeline) : [];
  const add = (label: string, step: Step) =>
    dispatch(
      edit(label, (draft) => {
        const line = itemOf(draft.parts, part.id)?.steps;
        if (line) insertItems(line, [{ id: crypto.randomUUID() as string, step }], line.order.length);
      }),
    );
  const key = view?.keys[0]?.key;
  return (
    <section aria-label="Chords and key" className="flex min-w-0 grow flex-col gap-2 py-3 pr-4">
      <header className="flex items-center gap-2">
        <div className="w-44">
          <Segmented
            label="Whose harmony"
            value={whose}
            options={[
              { value: 'all', label: 'all parts' },
              { value: 'part', label: 'this part' },
            ]}
            onChange={setWhose}
          />
        </div>
        <p className="min-w-0 grow truncate text-ink-2" data-testid="keys">
          {view?.keys
            .map(({ bar, key: name }, at) => (at === 0 ? name : `${name} from bar ${bar}`))
            .join(', ')}
        </p>
        <Button
          disabled={!isCurrent || bars.length === 0}
          onClick={() =>
            navigator.clipboard.writeText(asText(bars)).then(
              () => toast('The chords are copied.'),
              (reason: unknown) => toast.error(`The browser did not allow it: ${sentenceOf(reason)}`),
            )
          }
        >
          Copy
        </Button>
        <Button
          disabled={!isCurrent || bars.length === 0}
          onClick={() =>
            view && saveAs(`${session.name}, chords.csv`, encoder.encode(csvOf(view, timeline)), 'text/csv')
          }
        >
          Save CSV
        </Button>
      </header>
      {error && <p role="alert">{error}</p>}
      {view && bars.length === 0 && <p className="text-ink-2">No pitches sound here.</p>}
      <ol
        aria-label="Chords by bar"
        className="grid grid-cols-4 border-t border-l border-rule"
        data-testid="chords"
      >
        {bars.map(({ bar, chords, key: name }) => (
          <li key={bar} className="flex min-h-8 items-baseline gap-3 border-r border-b border-rule px-2 py-1">
            <span className="text-quiet text-ink-2">{bar}</span>
            <span className="min-w-0 font-semibold">{chords.map((chord) => chord.name).join('  ')}</span>
            {name && <span className="ml-auto text-quiet text-ink-2">{name}</span>}
          </li>
        ))}
      </ol>
      {view && bars.length > 0 && (
        <footer className="flex gap-2">
          <Button
            disabled={!mayWrite || !isCurrent || part.sound.drums || key === undefined}
            title="Adds a transpose step that moves by degrees of this key"
            onClick={() =>
              add(`Transpose ${part.name} in ${key ?? ''}`, createStep('transpose', { degrees: 0, key }))
            }
          >
            Transpose {part.name} in {key}
          </Button>
          <Button
            disabled={!mayWrite || !isCurrent || part.sound.drums}
            title="Adds a pedal step that presses again at each of these chords"
            onClick={() =>
              add(
                `Pedal ${part.name} by the chords`,
                createStep('pedal', { op: 'draw', spans: pressesOf(view, timeline) }),
              )
            }
          >
            Pedal {part.name} by these chords
          </Button>
        </footer>
      )}
    </section>
  );
}

/** Bars that are listed; a note years after the others makes no list of all bars between. */
const MOST_LISTED = 5000;

interface BarOfChords {
  bar: number;
  /** The chords that begin in it, or the one that goes on. */
  chords: { name: string }[];
  /** The key, where it begins with this bar. */
  key: string | null;
}

function barsOf({ chords, keys, endTick }: View, { meter }: Timeline): BarOfChords[] {
  if (chords.length === 0) return [];
  const last = Math.min(MOST_LISTED, barAt(meter, Math.max(0, endTick - 1)).number);
  const bars = Array.from({ length: last }, (_, at): BarOfChords => ({
    bar: at + 1,
    chords: [],
    key: keys.find((each) => each.bar === at + 1)?.key ?? null,
  }));
  for (const chord of chords) {
    const [from, to] = [chord.from, chord.to - 1].map((tick) => barAt(meter, tick).number);
    for (let bar = from; bar <= Math.min(to, last); bar++) bars[bar - 1].chords.push(chord);
  }
  return bars;
}

const asText = (bars: readonly BarOfChords[]) =>
  bars.map(({ bar, chords }) => `${bar}\t${chords.map(({ name }) => name).join(' ')}`).join('\n');

function csvOf({ chords, keys }: View, { meter }: Timeline): string {
  const rows = chords.map(({ from, to, name, fit }) => {
    const { bar, beat } = positionAt(meter, from);
    const key = (keys.findLast((each) => each.bar <= bar) ?? keys[0])?.key ?? '';
    return [String(bar), String(beat), String(from), String(to - from), name, key, fit.toFixed(2)];
  });
  return csvRows([['bar', 'beat', 'tick', 'lengthTicks', 'chord', 'key', 'fit'], ...rows]);
}

/** A press for each chord, from just after its start to the start of the next. */
function pressesOf({ chords }: View, { tempo }: Timeline): { start: number; end: number; depth: number }[] {
  return chords.flatMap(({ from, to }) => {
    const start = Math.round(secondsToTicks(tempo, ticksToSeconds(tempo, from) + PEDAL_AFTER));
    return start < to ? [{ start, end: Math.round(to), depth: 127 }] : [];
  });
}
