import { barAt, drumName, drumSetsIn, pitchName, ticksToSeconds, type ViewNotes } from '@ordle/core';
import { commandItems, inGroups } from '@/commands';
import type { RollEditor } from '@/editor';
import { otherViewsStore } from '@/music/otherViews';
import { partViewStore } from '@/music/partViewStore';
import type { BenchState } from '@/music/useBench';
import { transport } from '@/sound/transport';
import { selectionStore } from '@/state/selection';
import type { AppDispatch } from '@/state/store';
import { silenceToggled, viewChanged } from '@/state/viewSlice';
import type { MenuItem } from '@/ui';

type Spot = ReturnType<RollEditor['spotAt']>;

/**
 * Selects the note that is pointed at, where it is not selected already: the menu is about it, or about all of them.
 */
export function selectAt({ id, other }: Spot, bench: BenchState) {
  const { partId, ids, others } = selectionStore.get();
  const { part } = bench;
  if (part && id !== null && !(partId === part.id && ids.has(id))) selectionStore.select(part.id, [id], id);
  if (part && other && !others.get(other.partId)?.has(other.id))
    selectionStore.select(part.id, [], null, [[other.partId, [other.id]]]);
}

/** What can be done at a place of the roll; without one, with what is selected. */
export function rollItems(spot: Spot | null, bench: BenchState, dispatch: AppDispatch): (MenuItem | null)[] {
  const { partId, ids, others } = selectionStore.get();
  const isSome = (partId === bench.part?.id && ids.size > 0) || others.size > 0;
  if (spot?.where === 'keys') return keyItems(spot.pitch, bench, dispatch);
  if (spot?.where === 'bars') return barItems(spot.tick, bench, dispatch);
  if (isSome && (!spot || spot.id !== null || spot.other !== null || spot.where === 'velocities'))
    return commandItems(
      ['add-quantize', 'double', 'halve', 'recipes'],
      ['type-values', 'why', 'louder', 'softer', 'octave-up', 'octave-down'],
      ['copy', 'cut', 'repeat', 'delete', 'split', 'join'],
      ['select-same-pitch', 'select-bars', 'select-left', 'select-right', 'select-invert'],
      ['note-to-bar', 'note-to-bar-alone', 'zoom-selection'],
    );
  const drawHere: MenuItem[] =
    spot && bench.mayWrite
      ? [{ label: 'Move the play line here', onSelect: () => locate(spot.tick, bench) }]
      : [];
  return inGroups([
    drawHere,
    commandItems(
      ['draw-here', 'paste', 'paste-replace', 'paste-push', 'paste-in-place'],
      ['select-all', 'select-question', 'select-none'],
      ['add-quantize', 'recipes', 'go-clean-up'],
      ['fit', 'zoom-in', 'zoom-out', 'add-lane', 'note-list', 'marker-new'],
    ),
  ]);
}

const locate = (tick: number, { timeline }: BenchState) =>
  transport.locate(ticksToSeconds(timeline.tempo, tick));

function barItems(tick: number, bench: BenchState, dispatch: AppDispatch): (MenuItem | null)[] {
  const { number, start, end } = barAt(bench.timeline.meter, tick);
  return inGroups([
    [
      { label: 'Move the play line here', onSelect: () => locate(tick, bench) },
      {
        label: `Loop bar ${number}`,
        onSelect: () => dispatch(viewChanged({ loop: { on: true, from: start, to: end } })),
      },
      {
        label: `Select the notes that start in bar ${number}`,
        onSelect: () => selectBy((notes, row) => notes.start[row] >= start && notes.start[row] < end, bench),
      },
    ],
    commandItems(['marker-new', 'section-loop', 'section-select', 'split-where', 'loop']),
  ]);
}

/** Selects the notes of every part that is shown that pass a test. */
function selectBy(test: (notes: ViewNotes, row: number) => boolean, { part }: BenchState) {
  const { view } = partViewStore.get();
  if (!part || view?.partId !== part.id) return;
  const picked = (notes: ViewNotes) => Array.from(notes.id).filter((_, row) => test(notes, row));
  selectionStore.select(
    part.id,
    picked(view.notes),
    null,
    otherViewsStore
      .get()
      .filter(({ partId }) => partId !== part.id)
      .map(({ partId, view: own }) => [partId, picked(own.notes)]),
  );
}

/** A key of the piano, or a piece of the kit with the set it belongs to. */
function keyItems(pitch: number, bench: BenchState, dispatch: AppDispatch): (MenuItem | null)[] {
  const { part, view: seen } = bench;
  const { view } = partViewStore.get();
  if (!part || view?.partId !== part.id) return [];
  const { drums, program } = part.sound;
  const name = (drums ? drumName(pitch) : null) ?? pitchName(pitch, seen.middleC);
  const used = [...view.notes.usedPitches.keys()].filter((each) => view.notes.usedPitches[each] === 1);
  const set = drums ? drumSetsIn(used).find(({ pieces }) => pieces.includes(pitch)) : undefined;
  const silent = seen.silent[part.id] ?? [];
  const mute = (pieces: readonly number[], words: string): MenuItem => {
    const isSilent = pieces.every((each) => silent.includes(each));
    return {
      label: isSilent ? `Hear ${words} again` : `Mute ${words}`,
      hint: isSilent ? undefined : 'heard no more; exported all the same',
      onSelect: () => dispatch(silenceToggled({ partId: part.id, pitches: [...pieces], silent: !isSilent })),
    };
  };
  return inGroups([
    [
      { label: `Hear ${name}`, onSelect: () => transport.strike({ program, drums, pitch, velocity: 96 }) },
      {
        label: `Select all of ${name}`,
        onSelect: () => selectBy((notes, row) => notes.pitch[row] === pitch, bench),
      },
      mute([pitch], name),
    ],
    set
      ? [
          {
            label: `Select all ${set.name}`,
            onSelect: () => selectBy((notes, row) => set.pieces.includes(notes.pitch[row]), bench),
          },
          mute(set.pieces, `the ${set.name}`),
        ]
      : [],
    commandItems(['unused-rows', 'middle-c']),
  ]);
}
