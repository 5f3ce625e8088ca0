import { activePart, listOf, STEP_KINDS, type Part, type Step } from '@ordle/core';
import { run, type CommandId } from '@/commands';
import type { PaletteEntry } from '@/commands/Palette';
import { allCommands, canRun, keysOf } from '@/commands/runtime';
import { LANE_HEIGHT } from '@/music/laneList';
import { stopAt } from '@/music/stops';
import { selectDocument, selectMayWrite } from '@/state/sessionSlice';
import { store, type AppDispatch } from '@/state/store';
import { currentStopSet, viewChanged } from '@/state/viewSlice';
import { selectedForSteps } from '@/steps/selectedNotes';
import { addStep } from '@/steps/stepActions';
import { beginTour } from '@/ui/tourStore';
import { CATALOGUE, findableCommand } from './catalogue';

/** Looked for so often, and so many times, before a setting that was asked for is given up, in ms. */
const [LOOK_MS, MOST_LOOKS] = [50, 60];

/** Everything that can be found just now, with what choosing it does. */
export function entriesNow(dispatch: AppDispatch, navigate: (path: string) => void): PaletteEntry[] {
  const state = store.getState();
  const session = selectDocument(state);
  const mayWrite = selectMayWrite(state);
  const part = session ? (activePart(session, state.view.partId) ?? null) : null;
  const commands = allCommands()
    .filter(({ id }) => id !== 'palette' && canRun(id))
    .map((command): PaletteEntry => ({
      ...findableCommand(command, keysOf(command.id)),
      run: () => void run(command.id as CommandId),
    }));
  const toBench = () => session && navigate(`/s/${session.id}`);
  const kindOfId = (id: string) => id.split(':')[1] as Step['kind'];
  const does = (id: string): (() => void) | null => {
    if (id === 'help:tour') return session ? () => beginTour(true) : null;
    if (!session || !part) return null;
    if (id.startsWith('lane:'))
      return () => {
        showLane(dispatch, id.slice('lane:'.length));
        toBench();
      };
    if (!mayWrite) return null;
    if (id.startsWith('step:'))
      return () => {
        toBench();
        void putStep(dispatch, part, kindOfId(id));
      };
    if (id.startsWith('setting:'))
      return () => {
        toBench();
        void openSetting(dispatch, part, kindOfId(id), id.split(':')[2]);
      };
    return null;
  };
  const catalogue = CATALOGUE.flatMap((entry): PaletteEntry[] => {
    const act = does(entry.id);
    return act ? [{ ...entry, run: act }] : [];
  });
  const parts = (session ? listOf(session.parts) : []).map((each): PaletteEntry => ({
    id: `part:${each.id}`,
    group: 'Parts',
    title: each.name,
    words: ['part', 'track', 'show'],
    run: () => dispatch(viewChanged({ partId: each.id })),
  }));
  return [...commands, ...parts, ...catalogue];
}

function showLane(dispatch: AppDispatch, lane: string) {
  const { view } = store.getState();
  if (lane === 'velocity') dispatch(viewChanged({ velocities: true }));
  else if (!view.lanes.some((each) => each.lane === lane))
    dispatch(viewChanged({ lanes: [...view.lanes, { lane, height: LANE_HEIGHT, folded: false }] }));
}

/** A new step of a kind at the current stop, for what is selected where something is. */
async function putStep(dispatch: AppDispatch, part: Part, kind: Step['kind']): Promise<void> {
  const { view } = store.getState();
  const session = selectDocument(store.getState());
  if (!session) return;
  const stop = stopAt(part, view.stops[part.id]);
  const after = stop.id === 'cleaned' ? part.steps.order.length : stop.index;
  const isOnce = STEP_KINDS.find((each) => each.kind === kind)?.oncePerPart ?? false;
  const there = listOf(part.steps).find(({ step }) => step.kind === kind);
  if (isOnce && there) dispatch(currentStopSet({ partId: part.id, stop: there.id }));
  else
    await addStep(
      dispatch,
      {
        session,
        part,
        together: listOf(session.parts).filter(({ id }) => view.together.includes(id) && id !== part.id),
        after,
      },
      kind,
      selectedForSteps(part),
    );
}

/** Makes the first step of a kind the current one, adding one where there is none, and puts the keys on a setting. */
async function openSetting(dispatch: AppDispatch, part: Part, kind: Step['kind'], label: string) {
  const there = listOf(part.steps).find(({ step }) => step.kind === kind);
  if (there) dispatch(currentStopSet({ partId: part.id, stop: there.id }));
  else await putStep(dispatch, part, kind);
  let looks = 0;
  const look = setInterval(() => {
    const found = document.querySelector<HTMLElement>(
      `aside [aria-label="${label}, typed"], aside [role=slider][aria-label="${label}"], aside [role=radiogroup][aria-label="${label}"] button, aside select[aria-label="${label}"]`,
    );
    if (found || ++looks > MOST_LOOKS) clearInterval(look);
    found?.focus();
    found?.scrollIntoView({ block: 'nearest' });
  }, LOOK_MS);
}
