import type { RefObject } from 'react';
import { useCommands, useHeldCommand } from '@/commands';
import type { Cell, TakesEditor } from '@/editor';
import { setHolding } from '@/playback/holding';
import type { usePlayback } from '@/playback/usePlayback';
import { transport } from '@/sound/transport';
import { useAppDispatch, useAppSelector } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { loosestBars } from './loosest';
import type { useProposal } from './useProposal';
import type { TakesState } from './useTakes';

interface TakesCommandsOptions {
  state: TakesState;
  proposing: ReturnType<typeof useProposal>;
  playback: ReturnType<typeof usePlayback>;
  editor: RefObject<TakesEditor | null>;
  focus: Cell;
  selected: { from: number; to: number };
  seam: number;
  mayWrite: boolean;
  onFocus(cell: Cell): void;
  onMore(by: number): void;
  onSeam(index: number): void;
  onPut(row: number, from: number, to: number, layers: boolean): void;
  onClear(): void;
}

/** What can be done on Takes by key, and playing, which goes as on the Bench. */
export function useTakesCommands(options: TakesCommandsOptions) {
  const { state, proposing, playback, editor, focus, selected, seam, mayWrite } = options;
  const dispatch = useAppDispatch();
  const { loop, click } = useAppSelector(({ view }) => view);
  const rows = state.rows?.length ?? 0;
  const bars = state.lines.length - 1;
  const seams = state.assembled?.seams ?? [];
  const go = (row: number, bar: number) =>
    options.onFocus({
      row: Math.min(Math.max(0, rows - 1), Math.max(0, row)),
      bar: Math.min(bars - 1, Math.max(0, bar)),
    });
  const put = (row: number, layers = false) => options.onPut(row, selected.from, selected.to, layers);
  const chooseNth = (nth: number) => (mayWrite && rows >= nth ? () => put(nth - 1) : undefined);
  useCommands({
    play: () => void playback.toggle(),
    loop: loop.to > loop.from ? () => dispatch(viewChanged({ loop: { ...loop, on: !loop.on } })) : undefined,
    click: () => dispatch(viewChanged({ click: !click })),
    'to-start': () => transport.locate(0),
    'cell-left': () => go(focus.row, focus.bar - 1),
    'cell-right': () => go(focus.row, focus.bar + 1),
    'cell-up': () => go(focus.row - 1, focus.bar),
    'cell-down': () => go(focus.row + 1, focus.bar),
    'cells-more': () => options.onMore(1),
    'cells-fewer': () => options.onMore(-1),
    'choose-take': mayWrite && rows > 0 ? () => put(focus.row) : undefined,
    'layer-take': mayWrite && rows > 0 ? () => put(focus.row, true) : undefined,
    'clear-bars': mayWrite ? () => options.onClear() : undefined,
    'choose-1': chooseNth(1),
    'choose-2': chooseNth(2),
    'choose-3': chooseNth(3),
    'choose-4': chooseNth(4),
    'choose-5': chooseNth(5),
    'choose-6': chooseNth(6),
    'choose-7': chooseNth(7),
    'choose-8': chooseNth(8),
    'choose-9': chooseNth(9),
    'next-loose'() {
      const list = loosestBars(state);
      if (list.length === 0) return;
      const at = list.findIndex(({ bar }) => bar === focus.bar);
      const { bar } = list[(at + 1) % list.length];
      go(state.chosen[0]?.[bar] ?? focus.row, bar);
    },
    'next-seam': seams.length > 0 ? () => options.onSeam((seam + 1) % seams.length) : undefined,
    'play-seam': seams[seam] ? () => void playback.around(seams[seam].facts.at) : undefined,
    propose: rows > 1 ? () => proposing.open() : undefined,
    'fit-takes': () => editor.current?.fit(),
  });
  useHeldCommand('hold-played', setHolding);
}
