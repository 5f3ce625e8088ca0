import {
  copyNotes,
  deleteNotes,
  drawNote,
  greatestOf,
  joinNotes,
  leastOf,
  moveNotes,
  nearestLine,
  reachOf,
  createGrid,
  createMusicalBars,
  musicalPlaces,
  secondsToTicks,
  setValues,
  splitNotes,
  ticksToSeconds,
  trimNotes,
  type AlongAction,
  type Note,
  type NoteEdits,
  type ViewNotes,
} from '@ordle/core';
import { useCommands } from '@/commands';
import type { Preview, RollEditor } from '@/editor';
import { transport } from '@/sound/transport';
import { selectionStore, useSelection } from '@/state/selection';
import { useAppDispatch } from '@/state/store';
import { applyEdits } from './editActions';
import { applyToAll, countedInAll, notesOfAll, selectedInAll } from './across';
import { gridInForce } from '@/music/gridInForce';
import { inTurn } from './inTurn';
import { tellCollisions } from './tellCollisions';
import { useOthersShown } from '@/music/otherViews';
import { usePartView } from '@/music/partViewStore';
import type { BenchState } from '@/music/useBench';

/** Choosing and mending notes by key. Without selected notes the arrow keys move the view. */
export function useNoteCommands(bench: BenchState, editor: React.RefObject<RollEditor | null>) {
  const dispatch = useAppDispatch();
  const selection = useSelection();
  const { view } = usePartView();
  const { part, timeline, mayWrite } = bench;
  const mine = selection.partId === part?.id ? selection.ids : new Set<number>();
  const some = mine.size > 0 || selection.others.size > 0;
  const others = useOthersShown();
  /**
   * Whether arrows are for notes: by what is selected when the key is pressed, which may have been selected by the
   * key before.
   */
  const movesNotes = () => {
    const { partId, ids, others: elsewhere } = selectionStore.get();
    return mayWrite && ((partId === part?.id && ids.size > 0) || elsewhere.size > 0);
  };
  const playTick = () => secondsToTicks(timeline.tempo, transport.second());

  /** Edits the selected notes as they are when the turn comes; with a action their controllers go along. */
  const editSelected = (
    words: string,
    make: (notes: Note[], newId: () => number, together: Note[]) => NoteEdits,
    actionFor: (notes: Note[]) => AlongAction | null = () => null,
    previewOf: (notes: Note[]) => Preview | null = () => null,
  ) => {
    const shown: Promise<void> = inTurn(() => {
      const all = selectedInAll();
      const notes = notesOfAll(all);
      if (notes.length === 0) return;
      // It is seen at once; what it comes to follows.
      queueMicrotask(() => editor.current?.hold(previewOf(notes), shown));
      return applyToAll(
        dispatch,
        `${words} ${countedInAll(all)}`,
        all,
        (own, newId) => make(own, newId, notes),
        actionFor(notes),
      );
    });
  };
  const moved = (notes: Note[], ticks: number, semitones: number): Preview => ({
    kind: 'move',
    copy: false,
    ...reachOf(notes, ticks, semitones),
  });
  const tell = () => part && tellCollisions(dispatch, part.id, part.sound.drums, timeline);
  const nudge = (sign: 1 | -1, unit: 'grid' | 'tick' | 'ms') => {
    const step = Math.min(...createGrid(timeline.meter, gridInForce(bench).values).steps);
    /** Notes stop at the start of the music, and their controllers go as far as they do. */
    const ticksFor = ([{ start: first }]: Note[]) => {
      const ticks =
        unit === 'grid'
          ? step
          : unit === 'tick'
            ? 1
            : secondsToTicks(timeline.tempo, ticksToSeconds(timeline.tempo, first) + 0.001) - first;
      return Math.max(sign * ticks, -first);
    };
    editSelected(
      sign > 0 ? 'Later:' : 'Earlier:',
      (notes, _, together) => moveNotes(notes, ticksFor(together), 0),
      (notes) => ({ kind: 'move', ticks: ticksFor(notes) }),
      (notes) => moved(notes, ticksFor(notes), 0),
    );
    tell();
  };
  const transpose = (semitones: number) => {
    editSelected(
      semitones > 0 ? 'Up:' : 'Down:',
      // None leaves the keyboard, in whatever part, and all go equally far.
      (notes, _, together) => moveNotes(notes, 0, reachOf(together, 0, semitones).semitones),
      () => null,
      (notes) => moved(notes, 0, semitones),
    );
    tell();
    const first = view && some ? view.notes.id.findIndex((id) => mine.has(id)) : -1;
    if (part && view && first >= 0)
      transport.strike({
        ...part.sound,
        pitch: Math.min(127, Math.max(0, view.notes.pitch[first] + semitones)),
        velocity: view.notes.velocity[first],
      });
  };
  const lengthen = (sign: 1 | -1) => {
    const step = Math.min(...createGrid(timeline.meter, gridInForce(bench).values).steps);
    editSelected(
      sign > 0 ? 'Longer:' : 'Shorter:',
      (notes) => trimNotes(notes, 'end', sign * step),
      () => null,
      () => ({ kind: 'trim', edge: 'end', ticks: sign * step }),
    );
  };

  /** Goes to the next or previous note in time, sounding it. */
  const walk = (by: 1 | -1, extend: boolean) => {
    if (!view || !part || view.notes.length === 0) return;
    const { notes } = view;
    const at = selection.focus === null ? -1 : notes.id.indexOf(selection.focus);
    const now = playTick();
    const fresh = by > 0 ? notes.start.findIndex((start) => start >= now - 1) : notes.length;
    const row = Math.min(
      notes.length - 1,
      Math.max(0, at < 0 ? (by > 0 ? Math.max(0, fresh) : fresh - 1) : at + by),
    );
    const id = notes.id[row];
    if (extend) selectionStore.add(part.id, [id]);
    else selectionStore.select(part.id, [id], id);
    editor.current?.reveal(row);
    // From here on the arrow keys are the notes'.
    editor.current?.focus();
    transport.strike({ ...part.sound, pitch: notes.pitch[row], velocity: notes.velocity[row] });
  };

  /** Selects what is meant in every part that is shown; `test` is told whether a note was selected. */
  const selectWhere = (test: (notes: ViewNotes, row: number, isSelected: boolean) => boolean) => {
    if (!view || !part) return;
    const picked = (of: ViewNotes, before: ReadonlySet<number>) =>
      Array.from(of.id).filter((id, row) => test(of, row, before.has(id)));
    selectionStore.select(
      part.id,
      picked(view.notes, mine),
      null,
      others
        .filter(({ partId }) => partId !== part.id)
        .map(({ partId, view: { notes } }) => [
          partId,
          picked(notes, selection.others.get(partId) ?? new Set()),
        ]),
    );
    editor.current?.focus();
  };
  const { notes } = view ?? { notes: null };
  const selectionSpan = () => {
    const selected = notesOfAll(selectedInAll());
    return selected.length === 0
      ? null
      : { from: selected[0].start, to: greatestOf(selected, ({ end }) => end), notes: selected };
  };

  useCommands({
    'select-all': notes ? () => selectWhere(() => true) : undefined,
    'select-none': some ? () => selectionStore.clear() : undefined,
    'select-invert': notes ? () => selectWhere((_, __, isSelected) => !isSelected) : undefined,
    'select-same-pitch':
      some && notes
        ? () => {
            const pitches = new Set(notesOfAll(selectedInAll()).map(({ pitch }) => pitch));
            selectWhere((of, row) => pitches.has(of.pitch[row]));
          }
        : undefined,
    'select-bars':
      some && notes
        ? () => {
            const barsOf = (start: Float64Array) => {
              const barOf = createMusicalBars(timeline);
              return Array.from(musicalPlaces(start, timeline), barOf);
            };
            const selected = Float64Array.from(notesOfAll(selectedInAll()), ({ start }) => start);
            const bars = new Set(barsOf(selected));
            const known = new Map<ViewNotes, number[]>();
            selectWhere((of, row) => {
              const own = known.get(of) ?? barsOf(of.start);
              known.set(of, own);
              return bars.has(own[row]);
            });
          }
        : undefined,
    'select-left': notes
      ? () => {
          const edge = (selectionSpan()?.from ?? playTick()) + (some ? 1e-6 : 0);
          selectWhere((of, row) => of.start[row] < edge);
        }
      : undefined,
    'select-right': notes
      ? () => {
          const edge = (selectionSpan()?.from ?? playTick()) - 1e-6;
          selectWhere((of, row) => of.start[row] >= edge);
        }
      : undefined,
    'select-next': notes ? () => walk(1, false) : undefined,
    'select-previous': notes ? () => walk(-1, false) : undefined,
    'extend-next': notes ? () => walk(1, true) : undefined,
    'extend-previous': notes ? () => walk(-1, true) : undefined,
    'later-grid': () => (movesNotes() ? nudge(1, 'grid') : editor.current?.pan(80, 0)),
    'earlier-grid': () => (movesNotes() ? nudge(-1, 'grid') : editor.current?.pan(-80, 0)),
    'later-tick': some && mayWrite && (() => nudge(1, 'tick')),
    'earlier-tick': some && mayWrite && (() => nudge(-1, 'tick')),
    'later-ms': some && mayWrite && (() => nudge(1, 'ms')),
    'earlier-ms': some && mayWrite && (() => nudge(-1, 'ms')),
    up: () => (movesNotes() ? transpose(1) : editor.current?.pan(0, 3)),
    down: () => (movesNotes() ? transpose(-1) : editor.current?.pan(0, -3)),
    'octave-up': some && mayWrite && (() => transpose(12)),
    'octave-down': some && mayWrite && (() => transpose(-12)),
    louder:
      some &&
      mayWrite &&
      (() =>
        editSelected('Louder:', (selected) => setValues(selected, 'velocity', { relative: true, value: 5 }))),
    softer:
      some &&
      mayWrite &&
      (() =>
        editSelected('Softer:', (selected) =>
          setValues(selected, 'velocity', { relative: true, value: -5 }),
        )),
    longer: some && mayWrite && (() => lengthen(1)),
    shorter: some && mayWrite && (() => lengthen(-1)),
    delete: some && mayWrite && (() => editSelected('Delete', deleteNotes, () => ({ kind: 'delete' }))),
    split:
      some &&
      mayWrite &&
      (() =>
        editSelected('Split', (selected, newId) =>
          splitNotes(selected, Math.round(playTick()), newId, timeline),
        )),
    join: some && mayWrite && (() => editSelected('Join', joinNotes)),
    repeat:
      some &&
      mayWrite &&
      (() => {
        const span = selectionSpan();
        if (!span) return;
        // The copy starts on the grid line after the last end, so that a bar repeats as a bar.
        const { values } = gridInForce(bench);
        const grid = createGrid(timeline.meter, values);
        const step = Math.min(...grid.steps);
        const line = nearestLine(grid, span.from, { line: 0, step }).line;
        const length = Math.max(step, Math.ceil((span.to - line) / step - 0.25) * step);
        editSelected(
          'Repeat',
          (selected, newId) => copyNotes(selected, length, 0, newId),
          () => ({ kind: 'copy', ticks: length }),
        );
      }),
    'draw-here':
      mayWrite && part
        ? () => {
            const step = Math.min(...createGrid(timeline.meter, gridInForce(bench).values).steps);
            const start = Math.round(playTick());
            const pitch =
              notes && selection.focus !== null
                ? (notes.pitch[notes.id.indexOf(selection.focus)] ?? 60)
                : part.sound.drums
                  ? 38
                  : 60;
            applyEdits(dispatch, 'Draw a note', (newId) =>
              drawNote({ start, end: start + step, pitch, velocity: 90, channel: part.channel }, newId),
            );
            transport.strike({ ...part.sound, pitch, velocity: 90 });
          }
        : undefined,
    'zoom-selection': some
      ? () => {
          const span = selectionSpan();
          if (!span) return;
          const pitch = (note: Note) => note.pitch;
          editor.current?.zoomTo(span.from, span.to, [
            leastOf(span.notes, pitch),
            greatestOf(span.notes, pitch),
          ]);
        }
      : undefined,
    'zoom-in': () => editor.current?.zoom(1 / 1.3),
    'zoom-out': () => editor.current?.zoom(1.3),
    fit: () => editor.current?.fit(),
  });
}
