import { listOf } from '@ordle/core';
import type { RefObject } from 'react';
import { useCommands, useHeldCommand } from '@/commands';
import type { PartsEditor } from '@/editor';
import type { BenchState } from '@/music/useBench';
import { setHolding } from '@/playback/holding';
import type { usePlayback } from '@/playback/usePlayback';
import { transport } from '@/sound/transport';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';

interface PartsCommandsOptions {
  bench: BenchState;
  playback: ReturnType<typeof usePlayback>;
  editor: RefObject<PartsEditor | null>;
  mayWrite: boolean;
  /** Whether blocks are selected, and bars looped. */
  some: boolean;
  bars: boolean;
  /** Ticks by which the arrows move. */
  step: number;
  edits: {
    split(): void;
    join(): void;
    duplicate(): void;
    leaveOut(): void;
    copy(): void;
    paste(): void;
    move(by: number): void;
  };
  inBars(what: 'repeat' | 'delete' | 'insert'): void;
  hasCopied(): boolean;
  onAll(): void;
  onNone(): void;
}

/** What can be done on Parts by key, and playing, which goes as on the Bench. */
export function usePartsCommands(options: PartsCommandsOptions) {
  const { bench, playback, editor, mayWrite, some, bars, step, edits, inBars } = options;
  const dispatch = useAppDispatch();
  const { part } = bench;
  const { loop, click } = bench.view;
  const parts = listOf(bench.session.parts);
  const walk = (by: number) => {
    const at = parts.findIndex(({ id }) => id === part?.id);
    const next = parts[Math.min(parts.length - 1, Math.max(0, at + by))];
    if (next) dispatch(viewChanged({ partId: next.id }));
  };
  const may = (does: () => void) => (mayWrite && some ? does : undefined);
  useCommands({
    play: () => void playback.toggle(),
    loop: loop.to > loop.from ? () => dispatch(viewChanged({ loop: { ...loop, on: !loop.on } })) : undefined,
    click: () => dispatch(viewChanged({ click: !click })),
    'to-start': () => transport.locate(0),
    'block-split': may(edits.split),
    'block-join': may(edits.join),
    'block-duplicate': may(edits.duplicate),
    'block-leave-out': may(edits.leaveOut),
    'block-copy': some ? edits.copy : undefined,
    'block-cut': may(() => {
      edits.copy();
      edits.leaveOut();
    }),
    'block-paste': mayWrite && options.hasCopied() ? edits.paste : undefined,
    'block-later': may(() => edits.move(step)),
    'block-earlier': may(() => edits.move(-step)),
    'block-all': options.onAll,
    'block-none': options.onNone,
    'part-above': () => walk(-1),
    'part-below': () => walk(1),
    'bars-repeat': mayWrite && bars ? () => inBars('repeat') : undefined,
    'bars-delete': mayWrite && bars ? () => inBars('delete') : undefined,
    'bars-insert': mayWrite && bars ? () => inBars('insert') : undefined,
    'fit-parts': () => editor.current?.fit(),
  });
  useHeldCommand('hold-played', setHolding);
}
