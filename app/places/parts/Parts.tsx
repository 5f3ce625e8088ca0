import { barAt, listOf, moveBlock, secondsToTicks, sentenceOf } from '@ordle/core';
import { useCallback, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { keyOfBlock, type PartsEditor } from '@/editor';
import { useBench, useOpenBench } from '@/music/useBench';
import { BarsZoom } from '@/panels/BarsZoom';
import { TransportBar } from '@/panels/transport/TransportBar';
import { usePlayback } from '@/playback/usePlayback';
import { useImport } from '@/shell/ImportProvider';
import { transport } from '@/sound/transport';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { Button, Segmented } from '@/ui';
import { barsInWords, counted } from '@/words/counts';
import { BarsPanel } from './BarsPanel';
import { BlockPanel } from './BlockPanel';
import { MergeDialog } from './MergeDialog';
import { PartsCanvas } from './PartsCanvas';
import { PartsHeads } from './PartsHeads';
import { SeparateDialog } from './SeparateDialog';
import {
  byPart,
  changeBars,
  changeEach,
  copyBlocks,
  duplicate,
  finishDrag,
  joinSelected,
  leaveOut,
  makeIndependent,
  pasteBlocks,
  splitBlocks,
  type CopiedBlocks,
} from './blockActions';
import { addEmptyPart } from './partsActions';
import { useParts } from './useParts';
import { usePartsCommands } from './usePartsCommands';

/** What blocks are held to while they are dragged. */
export type PartsSnap = 'bars' | 'beats' | 'free';

/** Parts along the bars: blocks are split, moved, repeated and stretched; parts merged and separated. All of it is a layout, open to change. */
export function Parts() {
  const bench = useBench();
  const { pickFiles } = useImport();
  const dispatch = useAppDispatch();
  if (!bench) return null;
  if (bench.session.parts.order.length === 0)
    return (
      <main className="flex grow flex-col items-center justify-center gap-3">
        <p>This session has no parts.</p>
        <span className="flex gap-2">
          <Button look="main" onClick={pickFiles}>
            Import files
          </Button>
          <Button onClick={() => addEmptyPart(dispatch)}>New part</Button>
        </span>
      </main>
    );
  return <AllParts />;
}

/** What was copied stays for other visits to this place. */
let copied: CopiedBlocks | null = null;

function AllParts() {
  const bench = useOpenBench();
  const { session, timeline, mayWrite, view, part: active } = bench;
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const playback = usePlayback(bench);
  const editor = useRef<PartsEditor | null>(null);
  const keepEditor = useCallback((made: PartsEditor | null) => {
    editor.current = made;
  }, []);
  const state = useParts(session, timeline);
  const { blocks, ends } = state;
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [snap, setSnap] = useState<PartsSnap>('bars');
  const [scrolled, setScrolled] = useState({ top: 0, height: 60 });
  const [dialog, setDialog] = useState<'merge' | 'separate' | null>(null);

  const quarter = timeline.ticksPerQuarter;
  const step =
    snap === 'bars' ? timeline.meter.barTicks[0] : snap === 'beats' ? timeline.meter.beatTicks[0] : 0;
  const own = useMemo(() => byPart(selected, blocks), [selected, blocks]);
  const on = { dispatch, ends, chosen: own };
  const playQuarter = () => secondsToTicks(timeline.tempo, transport.second()) / quarter;
  const { loop } = view;
  const bars = loop.to > loop.from ? barsOf(loop.from, loop.to) : null;
  function barsOf(from: number, to: number) {
    return barsInWords(
      barAt(timeline.meter, from).number,
      barAt(timeline.meter, Math.max(from, to - 1)).number,
    );
  }
  const inBars = (what: 'repeat' | 'delete' | 'insert') => {
    if (!bars || !mayWrite) return;
    const parts = listOf(session.parts).filter(({ setAside }) => !setAside);
    changeBars(
      dispatch,
      parts.map(({ id }) => id),
      ends,
      what,
      [loop.from / quarter, loop.to / quarter],
      bars,
    );
  };
  const chosenParts = listOf(session.parts).filter(({ id }) => chosen.has(id));
  const merging =
    chosenParts.length >= 2 ? chosenParts : listOf(session.parts).filter(({ id }) => own.has(id));
  const separating = chosenParts.length === 1 ? chosenParts[0] : active;
  const edits = {
    // Held to what blocks are moved by: a play line a hair beside a bar line means the bar line.
    split: () => splitBlocks(on, snapTo(playQuarter(), step / quarter)),
    join: () => joinSelected(on),
    duplicate: () => setSelected(new Set(duplicate(on))),
    leaveOut: () => leaveOut(on),
    independent: () => {
      makeIndependent(dispatch, own, blocks).catch((error: unknown) => toast(sentenceOf(error)));
    },
    copy: () => void (copied = copyBlocks(own, blocks) ?? copied),
    paste() {
      if (copied)
        setSelected(new Set(pasteBlocks(dispatch, ends, copied, snapTo(playQuarter(), step / quarter))));
    },
    move: (by: number) => changeEach(on, 'Move blocks', (block) => moveBlock(block, by / quarter)),
  };
  usePartsCommands({
    bench,
    playback,
    editor,
    mayWrite,
    some: own.size > 0,
    bars: bars !== null,
    step: step || quarter / 4,
    edits,
    inBars,
    hasCopied: () => copied !== null,
    onAll: () =>
      setSelected(
        new Set([...blocks].flatMap(([part, list]) => list.map(({ id }) => keyOfBlock({ part, block: id })))),
      ),
    onNone: () => {
      setSelected(new Set());
      setChosen(new Set());
    },
  });
  const setAside = listOf(session.parts).filter((part) => part.setAside).length;

  return (
    <main className="flex min-w-0 grow flex-col">
      <div
        role="toolbar"
        aria-label="Parts"
        className="flex h-10 shrink-0 items-center gap-3 border-b border-rule-strong bg-ground px-3"
      >
        <span className="font-semibold">{counted(session.parts.order.length, 'part')}</span>
        {setAside > 0 && <span className="text-ink-2">{setAside} set aside</span>}
        <span className="grow" />
        <span className="text-ink-2">move by</span>
        <span className="w-44 shrink-0">
          <Segmented
            label="Blocks are moved by"
            value={snap}
            options={[
              { value: 'bars', label: 'bars' },
              { value: 'beats', label: 'beats' },
              { value: 'free', label: 'freely' },
            ]}
            onChange={setSnap}
          />
        </span>
        <Button disabled={!mayWrite || merging.length < 2} onClick={() => setDialog('merge')}>
          Merge
        </Button>
        <Button disabled={!mayWrite || !separating} onClick={() => setDialog('separate')}>
          Separate
        </Button>
        <Button disabled={!mayWrite} onClick={() => addEmptyPart(dispatch)}>
          New part
        </Button>
        <BarsZoom editor={editor} />
      </div>
      <div className="flex min-h-0 grow">
        <PartsHeads
          session={session}
          state={state}
          active={active?.id ?? null}
          chosen={chosen}
          scrolled={scrolled}
          mayWrite={mayWrite}
          onChoose={(id, adds) => {
            dispatch(viewChanged({ partId: id }));
            setChosen((before) => {
              if (!adds) return new Set([id]);
              const next = new Set(before);
              if (!next.delete(id)) next.add(id);
              return next;
            });
          }}
          onOpen={(id) => {
            dispatch(viewChanged({ partId: id }));
            navigate(`/s/${session.id}`);
          }}
          onScroll={(down) => editor.current?.scrollRows(down)}
        />
        <PartsCanvas
          onEditor={keepEditor}
          state={state}
          selected={selected}
          active={active?.id ?? null}
          snap={step}
          playing={playback.playing}
          onSelect={(keys, adds) =>
            setSelected((before) => {
              if (!adds) return new Set(keys);
              const next = new Set(before);
              for (const key of keys) if (!next.delete(key)) next.add(key);
              return next;
            })
          }
          onDrag={(drag) => {
            if (!mayWrite) return;
            const dragged = selected.has(keyOfBlock(drag.place))
              ? own
              : new Map([[drag.place.part, new Set([drag.place.block])]]);
            finishDrag({ ...on, chosen: dragged }, drag, quarter);
          }}
          onActive={(id) => dispatch(viewChanged({ partId: id }))}
          onOpen={(id) => {
            dispatch(viewChanged({ partId: id }));
            navigate(`/s/${session.id}`);
          }}
          onRows={setScrolled}
        />
        <aside
          aria-label="Settings"
          className="flex w-64 shrink-0 flex-col overflow-y-auto border-l border-rule bg-ground"
        >
          <BlockPanel session={session} state={state} own={own} on={on} edits={edits} mayWrite={mayWrite} />
          <BarsPanel bars={bars} mayWrite={mayWrite} onBars={inBars} />
        </aside>
      </div>
      <TransportBar playback={playback} />
      {dialog === 'merge' && (
        <MergeDialog session={session} parts={merging} state={state} onClose={() => setDialog(null)} />
      )}
      {dialog === 'separate' && separating && (
        <SeparateDialog session={session} part={separating} onClose={() => setDialog(null)} />
      )}
    </main>
  );
}

const snapTo = (quarter: number, step: number): number =>
  step > 0 ? Math.round(quarter / step) * step : quarter;
