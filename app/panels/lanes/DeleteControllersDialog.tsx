import { SET_UP_LANES, barAt, clearStretch, laneName, sentenceOf } from '@ordle/core';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { engine } from '@/engine/engineClient';
import type { StopQuestion } from '@/engine/protocol';
import { useSelection } from '@/state/selection';
import { useAppDispatch } from '@/state/store';
import { Button, Check, Dialog, Segmented } from '@/ui';
import { applyLaneEdits, selectedNotes } from '@/edits/editActions';
import { usePartView } from '@/music/partViewStore';
import { useOpenBench } from '@/music/useBench';
import { barsInWords, counted } from '@/words/counts';

/** Controllers that set a sound up rather than play it: left alone unless they are ticked. */
const SET_UP = new Set([...SET_UP_LANES, 'cc7', 'cc10']);
type Stretch = 'loop' | 'notes' | 'part';

/** Deletes controllers of a stretch, all or some of them, and leaves the notes alone. */
export function DeleteControllersDialog({ onClose }: { onClose(): void }) {
  const bench = useOpenBench();
  const dispatch = useAppDispatch();
  const { view } = usePartView();
  const selection = useSelection();
  const { part, timeline } = bench;
  const { loop } = bench.view;
  const there = view?.partId === part?.id ? (view?.lanesThere ?? []) : [];
  const at = { session: bench.session, partId: part?.id ?? '', stop: bench.stop?.index ?? 0 };
  const notes = selection.partId === part?.id ? selectedNotes(view, selection.ids) : [];
  const stretches: Record<Stretch, [number, number] | null> = {
    loop: loop.to > loop.from ? [loop.from, loop.to] : null,
    notes:
      notes.length > 0 ? [notes[0].start, notes.reduce((most, { end }) => Math.max(most, end), 0)] : null,
    part: [0, Math.max(1, view?.endTick ?? 1) + 1],
  };
  const offered = (['loop', 'notes', 'part'] as const).filter((each) => stretches[each] !== null);
  const [stretch, setStretch] = useState<Stretch>(offered[0]);
  const [left, setLeft] = useState<ReadonlySet<string>>(SET_UP);
  const lanes = there.map(({ lane }) => lane).filter((lane) => !left.has(lane));
  const range = stretches[stretch];
  const counts = useCounts(at, range);
  const barOf = (tick: number) => barAt(timeline.meter, tick).number;
  const words: Record<Stretch, string> = { loop: 'the loop', notes: 'selected notes', part: 'whole part' };
  return (
    <Dialog open onClose={onClose} title="Delete only controllers" description="Notes stay as they are.">
      <Segmented
        label="Where"
        value={stretch}
        options={offered.map((value) => ({ value, label: words[value] }))}
        onChange={setStretch}
      />
      {range && (
        <p className="text-quiet text-ink-2">
          Bars {barOf(range[0])} to {barOf(range[1] - 1)}.
        </p>
      )}
      <fieldset className="flex max-h-64 flex-col gap-0.5 overflow-y-auto">
        <legend className="sr-only">Lanes</legend>
        {there.map(({ lane }) => (
          <Check
            key={lane}
            checked={!left.has(lane)}
            onChange={(on) => {
              const next = new Set(left);
              if (on) next.delete(lane);
              else next.add(lane);
              setLeft(next);
            }}
          >
            {laneName(lane)}
            {counts && (
              <span className="text-quiet text-ink-2" data-testid={`count-${lane}`}>
                , {counted(counts.get(lane) ?? 0, 'point')}
              </span>
            )}
          </Check>
        ))}
        {there.length === 0 && <p className="text-ink-2">This part has no controllers.</p>}
      </fieldset>
      <div className="flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button
          look="main"
          disabled={lanes.length === 0 || !range || !bench.mayWrite}
          onClick={() => {
            if (!range || !part) return;
            const what = lanes.length === 1 ? laneName(lanes[0]) : `${lanes.length} lanes`;
            const label = `Delete ${what} in ${barsInWords(barOf(range[0]), barOf(range[1] - 1))}`;
            // Of the whole part nothing is left to hold on.
            if (stretch === 'part')
              applyLaneEdits(
                dispatch,
                label,
                lanes.map((lane) => clearStretch({ lane, channel: part.channel }, 0, 1e9)),
              );
            else
              engine.clearLanes({ ...at, from: range[0], to: range[1], lanes }).then(
                (edits) => applyLaneEdits(dispatch, label, edits),
                (error: unknown) => void toast(sentenceOf(error)),
              );
            onClose();
          }}
        >
          Delete
        </Button>
      </div>
    </Dialog>
  );
}

/** How many points each lane has in a stretch; null while they are counted. */
function useCounts(at: StopQuestion, range: [number, number] | null): ReadonlyMap<string, number> | null {
  const [found, setFound] = useState<{ key: string; counts: ReadonlyMap<string, number> } | null>(null);
  const key = range ? range.join(' ') : '';
  useEffect(() => {
    if (!range) return;
    let wanted = true;
    void engine.lanesBetween({ ...at, from: range[0], to: range[1] }).then(
      (lanes) =>
        wanted && setFound({ key, counts: new Map(lanes.map(({ lane, points }) => [lane, points])) }),
      () => undefined,
    );
    return () => {
      wanted = false;
    };
    // The dialog is over the part as it is; only the stretch changes while it is open.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return found?.key === key ? found.counts : null;
}
