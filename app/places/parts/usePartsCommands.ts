import { listedParts } from '@ordle/core';
import type { RefObject } from 'react';
import { useCommands, useHeldCommand } from '@/commands';
import type { PartsEditor } from '@/editor';
import type { BenchState } from '@/music/useBench';
import { setHolding } from '@/playback/holding';
import type { usePlayback } from '@/playback/usePlayback';
import { transport } from '@/sound/transport';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { groupParts, stepPart } from './groupActions';
import type { PartsEdits } from './usePartsEdits';

interface PartsCommandsOptions {
  bench: BenchState;
  playback: ReturnType<typeof usePlayback>;
  editor: RefObject<PartsEditor | null>;
  mayWrite: boolean;
  /** The parts selected in the list. */
  chosen: ReadonlySet<string>;
  editing: PartsEdits;
  /** Ticks by which the arrows move. */
  step: number;
  onNone(): void;
}

/** What can be done on Parts by key, and playing, which goes as on the Bench. */
export function usePartsCommands(options: PartsCommandsOptions) {
  const { bench, playback, editor, mayWrite, chosen, editing, step } = options;
  const { edits, inBars, hasCopied } = editing;
  const some = editing.own.size > 0;
  const bars = editing.bars !== null;
  const dispatch = useAppDispatch();
  const { part } = bench;
  const { loop, click } = bench.view;
  const parts = listedParts(bench.session.parts);
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
    'block-paste': mayWrite && hasCopied ? edits.paste : undefined,
    'block-mute': may(edits.mute),
    'block-later': may(() => edits.move(step)),
    'block-earlier': may(() => edits.move(-step)),
    'block-all': editing.selectAll,
    'block-none': options.onNone,
    'part-above': () => walk(-1),
    'part-below': () => walk(1),
    'part-up': mayWrite && part ? () => stepPart(dispatch, part.id, -1) : undefined,
    'part-down': mayWrite && part ? () => stepPart(dispatch, part.id, 1) : undefined,
    'parts-group': mayWrite && chosen.size > 0 ? () => groupParts(dispatch, [...chosen]) : undefined,
    'bars-copy': bars ? () => inBars('copy') : undefined,
    'bars-repeat': mayWrite && bars ? () => inBars('repeat') : undefined,
    'bars-delete': mayWrite && bars ? () => inBars('delete') : undefined,
    'bars-insert': mayWrite && bars ? () => inBars('insert') : undefined,
    'fit-parts': () => editor.current?.fit(),
  });
  useHeldCommand('hold-played', setHolding);
}
