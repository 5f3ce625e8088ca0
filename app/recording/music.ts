import type { TickRange } from '@ordle/core';
import { transport } from '@/sound/transport';
import { selectDocument } from '@/state/sessionSlice';
import { store } from '@/state/store';
import { recordSettings } from './settings';

/**
 * Music that ran while somebody played: where it began (seconds), the loop it ran in (ticks), at a share of its tempo.
 */
export interface MusicThatRan {
  id: number;
  session: string;
  from: number;
  loop: TickRange | null;
  speed: number;
}

let running: MusicThatRan | null = null;

/**
 * The music that is heard at a moment of the page's clock (ms): which it is, and its second, counted on through loops;
 * null where none runs.
 */
export function runningMusic(stamp: number): { ran: MusicThatRan; at: number } | null {
  const at = transport.musicAt(stamp);
  return at === null || !running ? null : { ran: running, at };
}

let isWatched = false;

/** Notes from now on when music begins and ends; once. */
export function watchMusic(): void {
  if (isWatched) return;
  isWatched = true;
  transport.subscribe(() => {
    const { playing } = transport.state();
    if (!playing) running = null;
    else running ??= begun();
  });
}

function begun(): MusicThatRan | null {
  const state = store.getState();
  const session = selectDocument(state);
  if (!session) return null;
  const { on, from, to } = state.view.loop;
  return {
    id: Date.now(),
    session: session.id,
    from: transport.second(),
    loop: on && to > from ? { from, to } : null,
    speed: transport.isSlow() ? recordSettings().speed / 100 : 1,
  };
}
