import {
  barAt,
  listOf,
  moveBlock,
  secondsToTicks,
  sentenceOf,
  type NamedSection,
  type TimeChange,
} from '@ordle/core';
import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import { keyOfBlock, type BlocksDrag } from '@/editor';
import { useOpenBench } from '@/music/useBench';
import { useMarkers } from '@/music/useMarkers';
import { transport } from '@/sound/transport';
import { useAppDispatch } from '@/state/store';
import { barsInWords } from '@/words/counts';
import {
  byPart,
  changeBars,
  changeEach,
  copyBars,
  copyBlocks,
  duplicate,
  finishDrag,
  joinSelected,
  leaveOut,
  makeIndependent,
  muteBlocks,
  pasteBlocks,
  splitBlocks,
  type CopiedBlocks,
} from './blockActions';
import type { PartsState } from './useParts';

/** What was copied stays for other visits to this place. */
let copied: CopiedBlocks | null = null;

const snapTo = (quarter: number, step: number): number =>
  step > 0 ? Math.round(quarter / step) * step : quarter;

/**
 * Which blocks are selected, and what can be done with them and with the looped bars of all parts. `step`: ticks that
 * blocks are held to, 0 for free.
 */
export function usePartsEdits(state: PartsState, step: number) {
  const { session, timeline, mayWrite, view } = useOpenBench();
  const dispatch = useAppDispatch();
  const markers = useMarkers();
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
  const [hasCopied, setHasCopied] = useState(copied !== null);
  const { blocks, ends } = state;
  const quarter = timeline.ticksPerQuarter;
  const own = useMemo(() => byPart(selected, blocks), [selected, blocks]);
  const on = { dispatch, ends, chosen: own };
  // Held to what blocks are moved by: a play line a hair beside a bar line means the bar line.
  const playQuarter = () =>
    snapTo(secondsToTicks(timeline.tempo, transport.second()) / quarter, step / quarter);
  const { loop } = view;
  const looped: [number, number] = [loop.from / quarter, loop.to / quarter];
  const bars =
    loop.to > loop.from
      ? barsInWords(
          barAt(timeline.meter, loop.from).number,
          barAt(timeline.meter, Math.max(loop.from, loop.to - 1)).number,
        )
      : null;
  const some = [...own].flatMap(([part, ids]) => (blocks.get(part) ?? []).filter(({ id }) => ids.has(id)));
  const edits = {
    split: () => splitBlocks(on, playQuarter()),
    join: () => joinSelected(on),
    duplicate: () => setSelected(new Set(duplicate(on))),
    leaveOut: () => leaveOut(on),
    independent: () => {
      makeIndependent(dispatch, own, blocks).catch((error: unknown) => toast(sentenceOf(error)));
    },
    copy() {
      copied = copyBlocks(own, blocks) ?? copied;
      setHasCopied(copied !== null);
    },
    paste() {
      if (copied) setSelected(new Set(pasteBlocks(dispatch, ends, copied, playQuarter())));
    },
    move: (by: number) => changeEach(on, 'Move blocks', (block) => moveBlock(block, by / quarter)),
    mute: () =>
      muteBlocks(
        on,
        some.some(({ muted }) => !muted),
      ),
  };
  return {
    selected,
    own,
    on,
    edits,
    bars,
    hasCopied,
    select(keys: readonly string[], adds: boolean) {
      setSelected((before) => {
        if (!adds) return new Set(keys);
        const next = new Set(before);
        for (const key of keys) if (!next.delete(key)) next.add(key);
        return next;
      });
    },
    selectAll: () =>
      setSelected(
        new Set([...blocks].flatMap(([part, list]) => list.map(({ id }) => keyOfBlock({ part, block: id })))),
      ),
    /** Selects the blocks that begin in a section, and loops it. */
    selectSection({ start, end }: NamedSection) {
      setSelected(
        new Set(
          [...blocks].flatMap(([part, list]) =>
            list
              .filter(({ at }) => at * quarter >= start - 1 && at * quarter < end - 1)
              .map(({ id }) => keyOfBlock({ part, block: id })),
          ),
        ),
      );
    },
    drag(drag: BlocksDrag) {
      if (!mayWrite) return;
      const dragged = selected.has(keyOfBlock(drag.place))
        ? own
        : new Map([[drag.place.part, new Set([drag.place.block])]]);
      finishDrag({ ...on, chosen: dragged }, drag, quarter);
    },
    /** What is done to the looped bars in all parts that are not set aside. */
    inBars(what: TimeChange['what'] | 'copy') {
      if (!bars) return;
      if (what === 'copy') {
        copied = copyBars(blocks, looped);
        setHasCopied(true);
        toast(`Copied ${bars} of all parts. Ctrl+V lays them at the play line.`);
        return;
      }
      if (!mayWrite) return;
      const parts = listOf(session.parts).filter(({ setAside }) => !setAside);
      changeBars(
        dispatch,
        parts.map(({ id }) => id),
        ends,
        markers,
        what,
        looped,
        bars,
      );
    },
  };
}

export type PartsEdits = ReturnType<typeof usePartsEdits>;
