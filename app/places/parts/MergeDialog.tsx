import {
  itemOf,
  lineAfter,
  listOf,
  mayShareChannel,
  mergedPart,
  numbersOf,
  programName,
  type Doubles,
  type Layer,
  type Part,
  type PartMerge,
  type Session,
} from '@ordle/core';
import { useEffect, useMemo, useState } from 'react';
import { toast } from 'sonner';
import { engine } from '@/engine/engineClient';
import type { DraftOfPart } from '@/engine/protocol';
import { useOpenBench } from '@/music/useBench';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { Button, Dialog, LabelledRow, Segmented, Select } from '@/ui';
import { ContestedLanes, withLane } from '@/panels/layers/ContestedLanes';
import { counted } from '@/words/counts';
import { addPartsOf, newId } from './partsActions';
import type { PartsState } from './useParts';

interface MergeDialogProps {
  session: Session;
  parts: readonly Part[];
  state: PartsState;
  onClose(): void;
}

const soundOf = ({ sound }: Part): string => (sound.drums ? 'drum kit' : programName(sound.program));

const NOTHING_KNOWN: DraftOfPart = { contested: [], notes: 0, dropped: 0 };

/** What the parts come to, merged like this, as if of doubles one went: which lanes they do not agree about, too. */
function useDraft(session: Session, parts: readonly Part[], merging: PartMerge) {
  const [known, setKnown] = useState(NOTHING_KNOWN);
  const counting = merging.doubles.keep === 'both' ? 'first' : merging.doubles.keep;
  const key = JSON.stringify([
    { ...merging, doubles: { ...merging.doubles, keep: counting } },
    parts.map(({ id }) => id),
  ]);
  const draft = useMemo(() => {
    const [wanted, ids] = JSON.parse(key) as [PartMerge, string[]];
    const own = ids.flatMap((id) => itemOf(session.parts, id) ?? []);
    return mergedPart(
      own,
      wanted,
      own.map(() => 0),
      'draft',
      numbersOf(session),
    );
  }, [key, session]);
  useEffect(() => {
    let isAwaited = true;
    engine.draftOfPart({ session, part: draft }).then(
      (next) => isAwaited && setKnown(next),
      // What keeps the parts from being read is told where they stand.
      () => isAwaited && setKnown(NOTHING_KNOWN),
    );
    return () => {
      isAwaited = false;
    };
  }, [session, draft]);
  return { ...known, layers: listOf(draft.layers) };
}

/** The part that a layer of the draft stands for: they go by its name and place. */
function partOfLayer(layers: readonly Layer[], parts: readonly Part[], id: string): string | null {
  const source = listOf(layers.find((layer) => layer.id === id)?.pieces ?? { order: [], byId: {} })[0]
    ?.source;
  return source && 'part' in source ? (parts.find((part) => part.id === source.part)?.id ?? null) : null;
}

/**
 * Asks how parts are merged, and whose channel, sound and controllers hold where they differ. The sources stay, set
 * aside.
 */
export function MergeDialog({ session, parts, state, onClose }: MergeDialogProps) {
  const { timeline } = useOpenBench();
  const dispatch = useAppDispatch();
  const [mode, setMode] = useState<PartMerge['mode']>('layer');
  const [keep, setKeep] = useState<Doubles['keep']>('both');
  const [lead, setLead] = useState(parts[0].id);
  const [oneChannel, setOneChannel] = useState(true);
  const [lanes, setLanes] = useState<Record<string, string>>({});
  const differ = new Set(parts.map((part) => `${part.channel} ${soundOf(part)}`)).size > 1;
  const channels = new Set(parts.map(({ channel }) => channel)).size;
  const mayShare = mayShareChannel(parts);
  const leader = parts.find(({ id }) => id === lead) ?? parts[0];
  const name = parts
    .map((part) => part.name)
    .join(' + ')
    .slice(0, 200);
  const merging: PartMerge = {
    mode,
    doubles: { keep: mode === 'layer' ? keep : 'both', withinMs: 30 },
    lead,
    oneChannel: mayShare && oneChannel && channels > 1,
    name,
    lanes,
  };
  const { contested, notes, dropped, layers } = useDraft(session, parts, merging);
  // Whose sound holds has been asked already.
  const asked = mode === 'layer' ? contested.filter(({ lane }) => !differ || lane !== 'program') : [];
  const gone = mode === 'layer' && keep !== 'both' ? dropped : 0;
  const all = notes + dropped;
  const merge = () => {
    let [end, start] = [0, -1];
    const begins = parts.map((part, index) => {
      const at = index === 0 ? 0 : lineAfter(end, start, timeline);
      const row = state.rows.get(part.id);
      if (row && row.lastStart >= 0) {
        end = Math.max(end, at + row.lastEnd);
        start = Math.max(start, at + row.lastStart);
      }
      return at;
    });
    const [id] = addPartsOf(
      dispatch,
      gone > 0 ? `Merge ${name}, ${counted(gone, 'double')} left out` : `Merge ${name}`,
      parts.map((part) => part.id),
      (_, numbers) => [mergedPart(parts, merging, begins, newId(), numbers)],
    );
    if (id) dispatch(viewChanged({ partId: id }));
    if (gone > 0)
      toast(
        `${counted(gone, 'double')} of ${counted(all, 'note')} left out. The Bench shows them as traces; on Takes they can be kept.`,
        { duration: 8000 },
      );
    onClose();
  };
  return (
    <Dialog open title={`Merge ${parts.length} parts`} onClose={onClose}>
      <div className="flex flex-col gap-3">
        <p className="text-ink-2">{parts.map((part) => part.name).join(', ')}</p>
        <Segmented
          label="How they are merged"
          value={mode}
          options={[
            { value: 'layer', label: 'together' },
            { value: 'join', label: 'end to end' },
            { value: 'bars', label: 'bar by bar' },
          ]}
          onChange={setMode}
        />
        {mode === 'layer' && (
          <LabelledRow label="Doubles">
            <Segmented
              label="Of doubles keep"
              value={keep}
              options={[
                { value: 'both', label: 'both' },
                { value: 'louder', label: 'louder' },
                { value: 'longer', label: 'longer' },
                { value: 'first', label: 'first' },
              ]}
              onChange={setKeep}
            />
          </LabelledRow>
        )}
        {mode === 'layer' && all > 0 && (
          <p data-testid="doubles" className={gone > 0 ? 'font-semibold' : 'text-ink-2'}>
            {dropped === 0
              ? `All ${counted(all, 'note')} stay; none is a double.`
              : keep === 'both'
                ? `All ${counted(all, 'note')} stay; ${counted(dropped, 'of them is a double', 'of them are doubles')}.`
                : `${counted(gone, 'of the notes is', 'of the notes are')} left out, ${counted(notes, 'stays', 'stay')}.`}{' '}
            {dropped > 0 && 'Doubles have one pitch and channel and start within 30 ms of each other.'}
          </p>
        )}
        {mode === 'bars' && (
          <p className="text-ink-2">The first part everywhere at first; choose bar by bar on Takes.</p>
        )}
        {differ && (
          <>
            <p>Their channels or instruments differ. Which part's settings are used?</p>
            <Select label="Channel and sound of" value={lead} onChange={setLead}>
              {parts.map((part) => (
                <option key={part.id} value={part.id}>
                  {`${part.name}: channel ${part.channel}, ${soundOf(part)}`}
                </option>
              ))}
            </Select>
            {channels > 1 && !mayShare && (
              <p className="text-ink-2">Each stays on its own channel: a drum kit is one only there.</p>
            )}
            {channels > 1 && mayShare && (
              <Segmented
                label="Channels"
                value={oneChannel ? 'one' : 'own'}
                options={[
                  { value: 'one', label: `all on channel ${leader.channel}` },
                  { value: 'own', label: 'each on its own' },
                ]}
                onChange={(value) => setOneChannel(value === 'one')}
              />
            )}
          </>
        )}
        {asked.length > 0 && (
          <>
            <p>They do not agree here. Which part's settings are used?</p>
            <ContestedLanes
              contested={asked}
              layers={layers}
              disabled={false}
              onChoose={(lane, layer) =>
                setLanes(withLane(lanes, lane, layer === null ? null : partOfLayer(layers, parts, layer)))
              }
            />
          </>
        )}
        <p className="text-quiet text-ink-2">
          The new part lives on the old ones: what is cleaned there is heard here. They are set aside, and can
          be brought back.
        </p>
        <span className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button look="main" onClick={merge}>
            Merge
          </Button>
        </span>
      </div>
    </Dialog>
  );
}
