import { listOf, type Part, type Session } from '@ordle/core';
import { useCallback, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { Cell, TakesEditor } from '@/editor';
import { useOpenBench, useBench } from '@/music/useBench';
import { useSectionCommands } from '@/panels/sections/useSectionCommands';
import { NoParts } from '@/panels/NoParts';
import { SidePanel } from '@/panels/SidePanel';
import { TransportBar } from '@/panels/transport/TransportBar';
import { usePlayback } from '@/playback/usePlayback';
import { useAppDispatch } from '@/state/store';
import { barsInWords } from '@/words/counts';
import { DoublesPanel } from './DoublesPanel';
import { ProposalPanel } from './ProposalPanel';
import { SeamPanel } from './SeamPanel';
import { TakeHeads } from './TakeHeads';
import { TakesBar } from './TakesBar';
import { TakesCanvas } from './TakesCanvas';
import { WorstBars } from './WorstBars';
import { barsReached, chooseBars, layerBars } from './takesActions';
import { ReadingDialog } from '@/files/ReadingDialog';
import { useBringTakes } from './useBringTakes';
import { useHeard } from './useHeard';
import { useProposal } from './useProposal';
import { useProposed } from './useProposed';
import { useTakes } from './useTakes';
import { useTakesCommands } from './useTakesCommands';

/**
 * The takes of one part as rows, its bars as columns: which take supplies each bar, several together, or as Ordle
 * proposes.
 */
export function Takes() {
  const bench = useBench();
  if (!bench) return null;
  if (!bench.part) return <NoParts>This session has no parts.</NoParts>;
  return <TakesOfPart key={bench.part.id} session={bench.session} part={bench.part} />;
}

function TakesOfPart({ session, part }: { session: Session; part: Part }) {
  const bench = useOpenBench();
  const { timeline, mayWrite } = bench;
  const dispatch = useAppDispatch();
  const editor = useRef<TakesEditor | null>(null);
  const keepEditor = useCallback((made: TakesEditor | null) => {
    editor.current = made;
  }, []);
  const [focus, setFocus] = useState<Cell>({ row: 0, bar: 0 });
  const [more, setMore] = useState(0);
  const [seam, setSeam] = useState(-1);
  const [layers, setLayers] = useState(false);
  const [scrolled, setScrolled] = useState({ top: 0, height: 120 });
  const state = useTakes(session, part, timeline);
  const { rows, assembled, chosen, lines, stretchOf } = state;
  const proposing = useProposal(part.id, rows, chosen[0]);
  const { proposal } = proposing;
  const bringing = useBringTakes(part);
  const proposed = useProposed(session, part, rows, proposal, stretchOf);
  const heard = useHeard({ bench, part, rows, proposed: proposed?.session ?? null });
  const playback = usePlayback(heard.bench);
  const bars = lines.length - 1;
  const selected = useMemo(
    () => ({ from: Math.min(focus.bar, bars - 1), to: Math.min(focus.bar + more, bars - 1) }),
    [focus.bar, more, bars],
  );

  const put = (row: number, from: number, to: number, adds: boolean) => {
    if (!mayWrite || !rows) return;
    const take = rows[row]?.take;
    if (!take) return;
    const reached = barsReached(take, [from, to], stretchOf);
    if (!reached)
      toast(
        `${take.name} has nothing in ${barsInWords(from + 1, to + 1)}: what is there stays. Delete leaves bars empty.`,
      );
    else if (proposal && !adds) proposing.put(row, ...reached);
    else if (adds || layers) layerBars(dispatch, part, take, reached, stretchOf);
    else chooseBars(dispatch, part, take, reached, stretchOf);
  };
  const focusOn = (cell: Cell) => {
    setFocus(cell);
    setMore(0);
    editor.current?.reveal(cell);
  };
  const lookAtSeam = (index: number) => {
    setSeam(index);
    const at = assembled?.seams[index];
    if (!at) return;
    const bar = Math.max(0, lines.findIndex((line) => line > at.facts.at + 0.5) - 1);
    editor.current?.reveal({ row: focus.row, bar });
  };
  useTakesCommands({
    state,
    proposing,
    playback,
    editor,
    focus,
    selected,
    seam,
    mayWrite,
    onFocus: focusOn,
    onMore: (by) => setMore((before) => Math.max(0, Math.min(bars - 1 - focus.bar, before + by))),
    onSeam: lookAtSeam,
    onPut: put,
    onClear: () => chooseBars(dispatch, part, null, [selected.from, selected.to], stretchOf),
  });

  useSectionCommands(lines.at(-1) ?? 0, ({ bars: [from, to] }) => {
    focusOn({ row: focus.row, bar: Math.min(bars - 1, from - 1) });
    setMore(Math.max(0, Math.min(bars, to - 1) - from));
  });

  return (
    <main className="flex min-w-0 grow flex-col">
      <ReadingDialog reading={bringing.reading} onStop={bringing.stop} />
      <TakesBar
        session={session}
        part={part}
        state={state}
        layers={layers}
        onLayers={setLayers}
        onPropose={proposing.open}
        isProposing={proposal !== null}
        bringing={bringing}
        editor={editor}
        heard={heard}
      />
      <div className="flex min-h-0 grow">
        <TakeHeads
          part={part}
          state={state}
          focus={focus}
          scrolled={scrolled}
          mayWrite={mayWrite}
          heard={heard}
          onFocus={(row) => focusOn({ row, bar: focus.bar })}
          onScroll={(down) => editor.current?.scrollRows(down)}
        />
        <TakesCanvas
          onEditor={keepEditor}
          part={part}
          state={state}
          proposal={proposal?.choice ?? null}
          seam={seam}
          focus={focus}
          selected={selected}
          playing={playback.playing}
          onChoose={put}
          onFocus={(cell) => {
            setFocus(cell);
            setMore(0);
          }}
          onSeam={lookAtSeam}
          onRows={setScrolled}
        />
        <SidePanel name="Settings" className="w-64 overflow-y-auto">
          {proposal && (
            <ProposalPanel
              part={part}
              before={assembled?.reading.spreadMs ?? null}
              after={proposed?.spreadMs ?? null}
              proposal={proposal}
              proposing={proposing}
              stretchOf={stretchOf}
              heard={heard}
              playback={playback}
              mayWrite={mayWrite}
            />
          )}
          <DoublesPanel part={part} state={state} mayWrite={mayWrite} layers={listOf(part.layers).length} />
          <SeamPanel
            part={part}
            state={state}
            seam={seam}
            mayWrite={mayWrite}
            onSeam={lookAtSeam}
            onPlay={(tick) => void playback.around(tick)}
          />
          <WorstBars state={state} settings={proposing.settings} onFocus={focusOn} />
        </SidePanel>
      </div>
      <TransportBar playback={playback} />
    </main>
  );
}
