import type { ExportConcern } from '@ordle/core';
import { useNavigate } from 'react-router';
import { useOpenBench } from '@/music/useBench';
import { selectionStore } from '@/state/selection';
import { useAppDispatch } from '@/state/store';
import { currentStopSet, viewChanged, windowMoved } from '@/state/viewSlice';

/** Goes to a place of a part on the Bench, at a stop, with the notes that are meant selected. */
export function useShowOnBench() {
  const { session, timeline } = useOpenBench();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  return (
    { partId, notes, tick }: Pick<ExportConcern, 'partId' | 'notes' | 'tick'>,
    stop: 'cleaned' | 'played' = 'cleaned',
  ) => {
    dispatch(viewChanged({ partId, together: [], show: 'both' }));
    dispatch(currentStopSet({ partId, stop }));
    if (notes.length > 0) selectionStore.select(partId, notes);
    const { ticksPerQuarter } = timeline;
    const window = {
      tick: Math.max(0, tick - 2 * ticksPerQuarter),
      ticksPerPixel: ticksPerQuarter / 60,
      topPitch: 84,
      rowHeight: 11,
    };
    dispatch(windowMoved({ partId, window }));
    void navigate(`/s/${session.id}`);
  };
}
