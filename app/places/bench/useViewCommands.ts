import { isByHand, itemOf, secondsToTicks, sentenceOf } from '@ordle/core';
import { toast } from 'sonner';
import { useCommands, useHeldCommand } from '@/commands';
import { transport } from '@/sound/transport';
import { useSelection } from '@/state/selection';
import { useAppDispatch } from '@/state/store';
import { currentStopSet, panelChanged, viewChanged, type View } from '@/state/viewSlice';
import { partViewStore } from '@/music/partViewStore';
import { selectedForSteps } from '@/steps/selectedNotes';
import { addStep, stretchNotes } from '@/steps/stepActions';
import { stopsOf } from '@/music/stops';
import type { BenchState } from '@/music/useBench';
import { setHolding } from '@/playback/holding';
import type { usePlayback } from '@/playback/usePlayback';
import { splitWhere } from '@/steps/whereActions';

/** Playing, looking and stepping by key. */
export function useViewCommands(bench: BenchState, playback: ReturnType<typeof usePlayback>) {
  const dispatch = useAppDispatch();
  const selection = useSelection();
  const { part, together, stop, session, timeline, mayWrite, view } = bench;
  const { loop } = view;
  const currentStep = (part && itemOf(part.steps, stop?.id))?.step;
  const set = (change: Partial<View>) => dispatch(viewChanged(change));
  const walkStops = (by: number) => {
    if (!part || !stop) return;
    const stops = stopsOf(part);
    const at = stops.findIndex(({ id }) => id === stop.id);
    dispatch(
      currentStopSet({ partId: part.id, stop: stops[Math.min(stops.length - 1, Math.max(0, at + by))].id }),
    );
  };
  const after = stop?.id === 'cleaned' ? (part?.steps.order.length ?? 0) : (stop?.index ?? 0);
  const selectedIds = selection.partId === part?.id ? [...selection.ids] : [];
  // All notes selected is the whole part, which goes on holding when notes are added.
  const stretched = () => (selectedIds.length === partViewStore.get().view?.notes.length ? [] : selectedIds);
  useCommands({
    play: () => void playback.toggle(),
    loop: loop.to > loop.from ? () => set({ loop: { ...loop, on: !loop.on } }) : undefined,
    click: () => set({ click: !view.click }),
    'to-start': () => transport.locate(0),
    follow: () => set({ follow: !view.follow }),
    'fold-parts': () => dispatch(panelChanged('parts', { folded: !view.panels.parts.folded })),
    'fold-settings': () => dispatch(panelChanged('settings', { folded: !view.panels.settings.folded })),
    'tool-select': () => set({ tool: 'select' }),
    'tool-draw': () => set({ tool: 'draw' }),
    'tool-erase': () => set({ tool: 'erase' }),
    snap: () => set({ snap: view.snap === 'off' ? 'steps' : 'off' }),
    along: () => set({ along: !view.along }),
    'show-both': () => set({ show: 'both' }),
    'show-cleaned': () => set({ show: 'cleaned' }),
    'show-played': () => set({ show: 'played' }),
    'unused-rows': part
      ? () =>
          set(part.sound.drums ? { hidesPieces: !view.hidesPieces } : { hidesOctaves: !view.hidesOctaves })
      : undefined,
    time: () => set({ time: view.time === 'bars' ? 'seconds' : 'bars' }),
    'middle-c': () => set({ middleC: view.middleC === 4 ? 3 : 4 }),
    lane: () => set({ velocities: !view.velocities }),
    'note-list': () => set({ list: !view.list }),
    'next-stop': () => walkStops(1),
    'previous-stop': () => walkStops(-1),
    'add-quantize':
      mayWrite && part
        ? () => void addStep(dispatch, { session, part, together, after }, 'quantize', selectedForSteps(part))
        : undefined,
    double: mayWrite && part ? () => stretchNotes(dispatch, part, stop, 2, stretched()) : undefined,
    halve: mayWrite && part ? () => stretchNotes(dispatch, part, stop, 0.5, stretched()) : undefined,
    'split-where':
      mayWrite && part && currentStep && !isByHand(currentStep)
        ? () => {
            try {
              const tick = secondsToTicks(timeline.tempo, transport.second());
              const endTick = partViewStore.get().view?.endTick ?? 0;
              splitWhere(dispatch, part, stop?.id ?? '', tick, endTick, timeline);
            } catch (error) {
              toast(sentenceOf(error));
            }
          }
        : undefined,
  });
  useHeldCommand('hold-played', setHolding);
}
