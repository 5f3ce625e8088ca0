import {
  isTranspose,
  itemOf,
  deleteNotes,
  drawNote,
  copyNotes,
  moveNotes,
  reachOf,
  setVelocities,
  ticksToSeconds,
  trimNotes,
} from '@ordle/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { createRollEditor, type NoteGesture, type RollEditor, heightAround, type WhereSpan } from '@/editor';
import { transport } from '@/sound/transport';
import { selectionStore, useSelection } from '@/state/selection';
import { abandonGesture } from '@/state/sessionSlice';
import { store, useAppDispatch, type AppDispatch } from '@/state/store';
import { currentStopSet, viewChanged, windowMoved, type View } from '@/state/viewSlice';
import { applyToAll, countedInAll, notesOfAll, selectedInAll } from '@/edits/across';
import { applyEdits, applyEditsAlong, selectedNotes } from '@/edits/editActions';
import { gridInForce, useZoomOfGrid } from '@/music/gridInForce';
import { inTurn } from '@/edits/inTurn';
import { lightStep } from '@/music/lightStore';
import { NoteTip } from './NoteTip';
import { tellCollisions } from '@/edits/tellCollisions';
import { dragBy } from '@/music/draggedStore';
import { useOthersShown } from '@/music/otherViews';
import { partViewStore, usePartView } from '@/music/partViewStore';
import { moveBars, stretchNotes } from '@/steps/stepActions';
import { SpanTip } from './SpanTip';
import { useOpenBench, type BenchState } from '@/music/useBench';
import { useMarkers, useSections } from '@/music/useMarkers';
import { useLitNotes } from '@/music/useLitNotes';
import { useKeepPlayedView, usePlayedView } from '@/music/playedView';
import { useHolding } from '@/playback/holding';
import { usePlayTick } from '@/playback/usePlayTick';
import type { usePlayback } from '@/playback/usePlayback';
import { hasWhere, changeWhere, spansOfPart } from '@/steps/whereActions';
import { interfaceOf } from '@/panels/settings/forms/StepForm';
import { WithMenu } from '@/ui';
import { counted } from '@/words/counts';
import { rollItems, selectAt } from './rollMenu';

interface RollProps {
  playback: Pick<ReturnType<typeof usePlayback>, 'playing' | 'around'>;
  /** Hands the editor out for commands that move the view. */
  onEditor(editor: RollEditor | null): void;
}

const NONE_SILENT: readonly number[] = [];

/** The canvas with its play line, its zoom buttons and the note under the pointer. */
export function Roll({ playback, onEditor }: RollProps) {
  const { playing, around } = playback;
  const holding = useHolding();
  const bench = useOpenBench();
  const editor = useRef<RollEditor | null>(null);
  /** What a menu was asked for at. */
  const asked = useRef<ReturnType<RollEditor['spotAt']> | null>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const overlay = useRef<HTMLCanvasElement>(null);
  const playLine = useRef<HTMLDivElement>(null);
  const [hover, setHover] = useState<{ row: number; x: number; y: number; width: number } | null>(null);
  const [span, setSpan] = useState<{ id: string; x: number; width: number } | null>(null);
  const dispatch = useAppDispatch();
  const selection = useSelection();
  const { view, busy, error } = usePartView();
  const { part, stop, timeline, mayWrite } = bench;
  const shown = useOthersShown();
  const others = useMemo(() => shown.filter(({ partId }) => partId !== part?.id), [shown, part?.id]);
  useKeepPlayedView(bench, holding || bench.view.show === 'played');
  const played = usePlayedView();
  const latest = useRef(bench);
  const latestAround = useRef(around);
  const sections = useSections(view?.endTick ?? 0);
  const markers = useMarkers();
  const latestSections = useRef(sections);
  useEffect(() => {
    latest.current = bench;
    latestSections.current = sections;
    latestAround.current = around;
  });

  useEffect(() => {
    if (!canvas.current || !overlay.current || !playLine.current) return;
    const partId = () => latest.current.part?.id ?? '';
    const made = createRollEditor(
      { canvas: canvas.current, overlay: overlay.current, playLine: playLine.current },
      {
        onWindow: (window) => dispatch(windowMoved({ partId: partId(), window })),
        onLocate: (tick) => transport.locate(ticksToSeconds(latest.current.timeline.tempo, tick)),
        onPlayAround: (tick) => void latestAround.current(tick),
        onLoop: (from, to) => dispatch(viewChanged({ loop: { on: true, from, to } })),
        onHover: (row, x, y) =>
          setHover(row < 0 ? null : { row, x, y, width: canvas.current?.clientWidth ?? 0 }),
        onSelect(ids, how, elsewhere = []) {
          if (how === 'replace') return selectionStore.select(partId(), ids, null, elsewhere);
          selectionStore.add(partId(), ids, how === 'toggle');
          for (const [id, own] of elsewhere) if (own.length > 0) selectionStore.addElsewhere(id, own);
        },
        onWhere(change, gesture) {
          const { part: now, stop: at } = latest.current;
          if (now && at) changeWhere(dispatch, now, at.id, change, gesture);
        },
        onSection(bars, semitones, gesture) {
          const { part: now, stop: at } = latest.current;
          if (now && at) moveBars(dispatch, now, at.id, bars, semitones, gesture);
        },
        onNamedSection(marker) {
          const section = latestSections.current.find(({ id }) => id === marker);
          if (section) dispatch(viewChanged({ loop: { on: true, from: section.start, to: section.end } }));
        },
        onAbandonWhere: (gesture) => dispatch(abandonGesture(gesture)),
        onWhereRefused: () => toast('Select a step first: dragging here says which bars it touches.'),
        onStand: (id) => dispatch(currentStopSet({ partId: partId(), stop: id })),
        onHoverSpan(id, x) {
          lightStep(id);
          setSpan(id === null ? null : { id, x, width: canvas.current?.clientWidth ?? 0 });
        },
        onGesture: (gesture) => inTurn(() => finishGesture(dispatch, latest.current, gesture)),
        onSound(pitch, velocity) {
          const sound = latest.current.part?.sound;
          if (sound) transport.strike({ program: sound.program, drums: sound.drums, pitch, velocity });
        },
        onVelocitiesHeight: (velocitiesHeight) => dispatch(viewChanged({ velocitiesHeight })),
        onOther(id, note, adds) {
          if (adds) return selectionStore.addElsewhere(id, [note], true);
          // What is selected already stays as it is: its part only comes to be looked at.
          if (!selectionStore.get().others.get(id)?.has(note)) selectionStore.select(id, [note], note);
          const before = latest.current.part?.id;
          const { shown } = latest.current.view;
          // What is in sight stays where it is, and the part that was looked at goes on being shown.
          dispatch(windowMoved({ partId: id, window: made.window() }));
          const along = before && !shown.includes(before) ? [...shown, before] : shown;
          dispatch(viewChanged({ partId: id, shown: along }));
        },
      },
    );
    editor.current = made;
    onEditor(made);
    const unfollow = made.follow(() => dragBy(made.dragged()));
    // The benchmark reads painting times from here.
    Object.assign(canvas.current, { ordleEditor: made });
    return () => {
      unfollow();
      dragBy();
      made.destroy();
      editor.current = null;
      onEditor(null);
    };
  }, [dispatch, onEditor]);

  useZoomOfGrid(part?.id);
  const current = (part && itemOf(part.steps, stop?.id))?.step;
  const showsHarmony = current !== undefined && interfaceOf(current).overlay === 'harmony';
  const spans = useMemo(
    () => (part && stop ? spansOfPart(part, stop, timeline) : []),
    [part, stop, timeline],
  );

  useEffect(() => {
    if (!part || !stop) return;
    const { loop, middleC, show, time, velocities, velocitiesHeight, tool, snap } = bench.view;
    const { hidesPieces, hidesOctaves } = bench.view;
    editor.current?.setContent({
      timeline,
      grid: gridInForce(bench),
      spans,
      loop,
      markers,
      ink: part.ink,
      drums: part.sound.drums,
      middleC,
      others,
      show,
      time,
      velocities,
      velocitiesHeight,
      tool,
      silent: bench.view.silent[part.id] ?? NONE_SILENT,
      hidesPieces,
      hidesOctaves,
      snap,
      mayEdit: mayWrite && !holding,
      mayWhere: mayWrite && current !== undefined && hasWhere(current),
      sections: current && isTranspose(current) ? current.sections : null,
      wherePitch: current?.where.pitch ?? null,
    });
  }, [bench, part, stop, current, timeline, spans, markers, others, mayWrite, holding]);

  useEffect(() => {
    const shown = (played?.partId === part?.id ? played : null) ?? (view?.partId === part?.id ? view : null);
    editor.current?.setView(shown, shown ? (store.getState().windows[shown.partId] ?? null) : null);
  }, [view, played, part?.id]);

  useEffect(() => {
    const mine = selection.partId === part?.id;
    editor.current?.setSelection(
      mine ? selection.ids : new Set(),
      mine ? selection.focus : null,
      selection.others,
    );
  }, [selection, part?.id]);
  useEffect(() => {
    if (part) selectionStore.lookAt(part.id);
  }, [part]);

  useLitNotes(bench, editor);

  usePlayTick(timeline, playing, (tick) =>
    editor.current?.setPlayTick(tick, playing && bench.view.follow, playing),
  );

  return (
    <section
      aria-label="Editor"
      className="relative min-w-0 shrink-0 grow overflow-hidden"
      style={{ minHeight: `min(50vh, ${leastHeight(bench.view, spans, showsHarmony)}px)` }}
    >
      <WithMenu
        items={() => rollItems(asked.current, latest.current, dispatch)}
        onAsk={({ x, y, byKey }) => {
          const box = canvas.current?.getBoundingClientRect();
          // By key nothing is pointed at.
          const isPointed = box !== undefined && !byKey;
          asked.current = (isPointed && editor.current?.spotAt(x - box.left, y - box.top)) || null;
          if (asked.current) selectAt(asked.current, latest.current);
        }}
      >
        <canvas
          ref={canvas}
          tabIndex={0}
          role="application"
          aria-roledescription="piano roll"
          data-testid="roll"
          data-busy={busy}
          aria-label={
            part
              ? `${part.name}: ${view?.notes.length ?? 0} notes. Full stop and comma walk the notes, arrows move the selected ones, F fits the part.`
              : 'No part'
          }
          className="absolute inset-0 h-full w-full touch-none focus-visible:outline-offset-[-2px]"
        />
      </WithMenu>
      <canvas
        ref={overlay}
        aria-hidden="true"
        className="pointer-events-none absolute inset-0 h-full w-full"
      />
      <div
        ref={playLine}
        aria-hidden="true"
        className="pointer-events-none absolute top-11 bottom-0 left-0 w-px bg-accent"
        style={{ visibility: 'hidden' }}
      />
      {view && view.notes.length === 0 && part && !busy && (
        <p className="pointer-events-none absolute inset-x-0 top-1/2 text-center text-ink-2">
          This part has no notes. Its other events are kept and exported.
        </p>
      )}
      {error && (
        <p role="alert" className="absolute inset-x-6 top-20 border border-ink bg-sheet px-4 py-2">
          {error}
        </p>
      )}
      {span && <SpanTip stepId={span.id} x={span.x} width={span.width} />}
      {hover && <NoteTip row={hover.row} x={hover.x} y={hover.y} width={hover.width} />}
    </section>
  );
}

/** Turns a finished gesture into hand edits, one entry of the history. */
function finishGesture(dispatch: AppDispatch, bench: BenchState, gesture: NoteGesture): Promise<void> | void {
  const { part } = bench;
  const { view } = partViewStore.get();
  const selection = selectionStore.get();
  if (!part || !view) return;
  const all = selectedInAll();
  const many = countedInAll(all);
  const tell = () => {
    if (gesture.kind === 'move') tellCollisions(dispatch, part.id, part.sound.drums, bench.timeline);
  };
  if (gesture.kind === 'move') {
    const { copy } = gesture;
    const { ticks, semitones } = reachOf(notesOfAll(all), gesture.ticks, gesture.semitones);
    return whenDone(
      applyToAll(
        dispatch,
        `${copy ? 'Copy' : 'Move'} ${many}`,
        all,
        (notes, newId) =>
          copy ? copyNotes(notes, ticks, semitones, newId) : moveNotes(notes, ticks, semitones),
        copy ? { kind: 'copy', ticks, semitones } : { kind: 'move', ticks },
      ),
      tell,
    );
  }
  if (gesture.kind === 'erase') {
    const erased = selectedNotes(view, new Set(gesture.ids));
    return applyEditsAlong(
      dispatch,
      `Erase ${counted(erased.length, 'note')}`,
      { kind: 'delete' },
      erased,
      () => deleteNotes(erased),
    );
  }
  if (gesture.kind === 'trim')
    return applyToAll(dispatch, `Trim ${many}`, all, (notes) =>
      trimNotes(notes, gesture.edge, gesture.ticks),
    );
  if (gesture.kind === 'draw') {
    applyEdits(dispatch, 'Draw a note', (newId) =>
      drawNote(
        { start: gesture.start, end: gesture.end, pitch: gesture.pitch, velocity: 90, channel: part.channel },
        newId,
      ),
    );
  } else if ('factor' in gesture)
    stretchNotes(dispatch, part, bench.stop, gesture.factor, [...selection.ids]);
  else
    applyEdits(dispatch, `Velocity of ${counted(gesture.velocities.size, 'note')}`, () =>
      setVelocities(gesture.velocities),
    );
}

/** Pixels that notes are to have at least, however much lies beneath them. */
const LEAST_NOTES = 240;

/** How high the canvas is at least: room for the notes, and for what lies around them on it. */
function leastHeight(view: View, spans: readonly WhereSpan[], harmony: boolean): number {
  return LEAST_NOTES + heightAround(spans, harmony) + (view.velocities ? view.velocitiesHeight : 0);
}

/** Goes on after something that may take its time. */
function whenDone(work: Promise<void> | void, next: () => void): Promise<void> | void {
  if (work) return work.then(next);
  next();
}
