import { handLineOfShares, itemOf, listOf, quartersOf } from '@ordle/core';
import { useCallback, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import type { PartsEditor } from '@/editor';
import { useBench, useOpenBench } from '@/music/useBench';
import { SectionsPanel } from '@/panels/sections/SectionsPanel';
import { useSectionCommands } from '@/panels/sections/useSectionCommands';
import { SidePanel } from '@/panels/SidePanel';
import { TransportBar } from '@/panels/transport/TransportBar';
import { usePlayback } from '@/playback/usePlayback';
import { useImport } from '@/files/ImportProvider';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { rulingGrid } from '@/music/gridInForce';
import { Button } from '@/ui';
import { BarsPanel } from './BarsPanel';
import { BlockPanel } from './BlockPanel';
import { BringParts } from './BringParts';
import { moveParts } from './groupActions';
import { MergeDialog } from './MergeDialog';
import { addEmptyPart } from '@/edits/addEmptyPart';
import { PartsBar, type PartsDialog, type PartsSnap } from './PartsBar';
import { PartsCanvas } from './PartsCanvas';
import { PartsHeads } from './PartsHeads';
import { SeparateDialog } from './SeparateDialog';
import { useFolded } from './useFolded';
import { useParts } from './useParts';
import { usePartsCommands } from './usePartsCommands';
import { usePartsEdits } from './usePartsEdits';

/**
 * Parts along the bars: blocks are split, moved, repeated and stretched; parts merged and separated. All of it is a
 * layout, open to change.
 */
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

function AllParts() {
  const bench = useOpenBench();
  const { session, timeline, mayWrite, part: active } = bench;
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const playback = usePlayback(bench);
  const editor = useRef<PartsEditor | null>(null);
  const keepEditor = useCallback((made: PartsEditor | null) => {
    editor.current = made;
  }, []);
  const [folded, setFolded] = useFolded(session.id);
  const state = useParts(session, timeline, folded);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [snap, setSnap] = useState<PartsSnap>('bars');
  const [scrolled, setScrolled] = useState({ top: 0, height: 0 });
  const [dialog, setDialog] = useState<PartsDialog | null>(null);
  const [divided, setDivided] = useState<string | null>(null);
  const grid = rulingGrid(bench.view);
  const steps: Record<PartsSnap, number> = {
    bars: timeline.meter.barTicks[0],
    beats: timeline.meter.beatTicks[0],
    grid: quartersOf(grid) * timeline.ticksPerQuarter,
    free: 0,
  };
  const step = steps[snap];
  const editing = usePartsEdits(state, step);
  const { own, bars, selected } = editing;
  const parts = listOf(session.parts);
  const chosenParts = parts.filter(({ id }) => chosen.has(id));
  const merging = chosenParts.length >= 2 ? chosenParts : parts.filter(({ id }) => own.has(id));
  const separating = chosenParts.length === 1 ? chosenParts[0] : active;
  // Whom a section's transposing and recipes are for: the selected parts, or else all that are heard.
  const meant = chosenParts.length > 0 ? chosenParts : parts.filter(({ setAside }) => !setAside);
  const dividedPart = itemOf(session.parts, divided);
  const open = (id: string) => {
    dispatch(viewChanged({ partId: id }));
    navigate(`/s/${session.id}`);
  };
  usePartsCommands({
    bench,
    playback,
    editor,
    mayWrite,
    chosen,
    editing,
    step: step || timeline.ticksPerQuarter / 4,
    onNone: () => {
      editing.select([], false);
      setChosen(new Set());
    },
  });
  useSectionCommands(state.endTick, editing.selectSection);

  return (
    <main className="flex min-w-0 grow flex-col">
      <PartsBar
        session={session}
        snap={snap}
        grid={grid}
        merging={merging}
        separating={separating}
        mayWrite={mayWrite}
        editor={editor}
        onSnap={setSnap}
        onDialog={setDialog}
      />
      <div className="flex min-h-0 grow">
        <PartsHeads
          session={session}
          state={state}
          active={active?.id ?? null}
          chosen={chosen}
          scrolled={scrolled}
          mayWrite={mayWrite}
          onChoose={(ids, adds) => {
            dispatch(viewChanged({ partId: ids[0] }));
            setChosen((before) => withIds(before, ids, adds));
          }}
          onMove={(ids, place) => moveParts(dispatch, ids, place)}
          onFold={setFolded}
          onHandLine={setDivided}
          onOpen={open}
          onScroll={(down) => editor.current?.scrollRows(down)}
        />
        <PartsCanvas
          onEditor={keepEditor}
          state={state}
          selected={selected}
          active={active?.id ?? null}
          snap={step}
          playing={playback.playing}
          onSelect={editing.select}
          onDrag={editing.drag}
          onActive={(id) => dispatch(viewChanged({ partId: id }))}
          onOpen={open}
          onRows={setScrolled}
        />
        <SidePanel name="Settings" className="w-64 overflow-y-auto">
          <BlockPanel session={session} state={state} editing={editing} mayWrite={mayWrite} />
          <BarsPanel bars={bars} mayWrite={mayWrite} onBars={editing.inBars} />
          <SectionsPanel endTick={state.endTick} parts={meant} onSelect={editing.selectSection} />
        </SidePanel>
      </div>
      <TransportBar playback={playback} />
      {dialog === 'merge' && (
        <MergeDialog session={session} parts={merging} state={state} onClose={() => setDialog(null)} />
      )}
      {dialog === 'separate' && separating && (
        <SeparateDialog session={session} part={separating} onClose={() => setDialog(null)} />
      )}
      {dividedPart && (
        <SeparateDialog
          session={session}
          part={dividedPart}
          divided={handLineOfShares(session.parts, dividedPart.id) ?? []}
          onClose={() => setDivided(null)}
        />
      )}
      {dialog === 'bring' && (
        <BringParts
          session={session}
          active={itemOf(session.parts, active?.id) ?? null}
          onClose={() => setDialog(null)}
        />
      )}
    </main>
  );
}

/** A selection with some ids: in its place, or beside it; those that were all in it are taken out again. */
function withIds(before: ReadonlySet<string>, ids: readonly string[], adds: boolean): Set<string> {
  if (!adds) return new Set(ids);
  const isThere = ids.every((id) => before.has(id));
  return new Set(isThere ? [...before].filter((id) => !ids.includes(id)) : [...before, ...ids]);
}
