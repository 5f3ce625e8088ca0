import { endOfChord, type PartView } from '@ordle/core';
import { createSurface } from '@/surface';
import type { EditorWindow } from '@/state/viewSlice';
import { readColours, type Colours } from '../colours';
import type { EditorContent, EditorElements, EditorEvents } from './editorTypes';
import { xOf, yOf } from './geometry';
import { createNoteStates } from './noteStates';
import { soundingRows } from './paintSounding';
import { idsInOthers, leastStartInOthers, otherNoteAt, selectedInOthers } from './otherParts';
import { rowUnder, rowsInBox } from './pitchIndex';
import { placeOnRoll } from './placeOnRoll';
import { onlyAdds, type Preview } from './preview';
import { rollRegions, type RollTarget } from './rollRegions';
import type { Scene } from './scene';
import { watchColours } from '../watchColours';
import { FIRST_LAYOUT, isLaidOutOtherwise, layoutFor, rowsInUse } from './rollLayout';
import { createRollWindow } from './rollWindow';

/** The roll: shows a part on a surface, and turns gestures into edits and movements of the window. */
export function createRollEditor({ canvas, overlay, playLine }: EditorElements, events: EditorEvents) {
  let content: EditorContent | null = null;
  let view: PartView | null = null;
  let colours: Colours = readColours();
  let hovered = -1;
  let preview: Preview | null = null;
  /** The preview that was last taken away, of which a gesture may say that it is being done. */
  let ended: Preview | null = null;
  /** Whether the preview is of something that is being worked out, no more of a gesture. */
  let isHeld = false;
  const states = createNoteStates();
  /** What is selected in other parts, by part. */
  let elsewhere: ReadonlyMap<string, ReadonlySet<number>> = new Map();
  let hoveredSpan: string | null = null;
  let playTick = 0;
  let sounding: readonly number[] = [];
  /** What goes by the window and the gesture under way, such as the lanes beneath. */
  const followers = new Set<() => void>();
  const paintedListeners = new Set<() => void>();
  let layout = FIRST_LAYOUT;

  function endTick(): number {
    const bar = content ? content.timeline.meter.barTicks[0] : 1920;
    return Math.max(bar, view?.endTick ?? 0);
  }

  const shown = createRollWindow({
    layout: () => layout,
    endTick,
    onMoved: invalidate,
    onRest: (window) => events.onWindow(window),
  });

  function scene(): Scene | null {
    if (!content) return null;
    return {
      ...content,
      ticksPerMs: 1 / (1000 * content.timeline.tempo.secondsPerTick[0]),
      layout,
      window: shown.now(),
      view,
      hovered,
      ...states.now(),
      othersSelected: selectedInOthers(others(), elsewhere),
      preview,
      sounding,
      colours,
      pixelRatio: globalThis.devicePixelRatio || 1,
    };
  }

  const others = () => content?.others ?? [];

  function invalidate() {
    surface.invalidate();
    for (const follower of followers) follower();
  }

  function layOut(width: number, height: number) {
    layout = layoutFor(content, view, { width, height }, layout);
    shown.hold();
    // The room may be known only after the notes are: the first look is for the room there is.
    if (view && content) shown.look(view, content.timeline.meter);
  }

  function placePlayLine() {
    const x = xOf(playTick, shown.now(), layout);
    playLine.style.visibility = x < layout.gutter || x > layout.width ? 'hidden' : 'visible';
    playLine.style.transform = `translateX(${x}px)`;
  }

  function showPreview(next: Preview | null) {
    const stale = !onlyAdds(preview) || !onlyAdds(next);
    ended = preview;
    preview = next;
    isHeld = false;
    if (stale) invalidate();
    else surface.invalidateAbove();
  }

  /** Shows what is being done to the notes until it is worked out, so that they do not jump back meanwhile. */
  function hold(shown: Preview | null, until: Promise<void>) {
    if (!shown) return;
    showPreview(shown);
    isHeld = true;
    const release = () => {
      if (isHeld && preview === shown) showPreview(null);
    };
    until.then(release, release);
  }

  const target: RollTarget = {
    spans: () => content?.spans ?? [],
    wherePitch: () => content?.wherePitch ?? null,
    mayWhere: () => content?.mayWhere ?? false,
    where: (change, gesture) => events.onWhere(change, gesture),
    sections: () => (content?.mayWhere ? content.sections : null),
    section: (bars, semitones, gesture) => events.onSection(bars, semitones, gesture),
    markers: () => content?.markers ?? [],
    namedSection: (marker) => events.onNamedSection(marker),
    selectionSpan: () => states.now().selectionSpan,
    abandonWhere: (gesture) => events.onAbandonWhere(gesture),
    whereRefused: () => events.onWhereRefused(),
    standAt: (stepId) => events.onStand(stepId),
    hoverSpan(stepId, x) {
      if (stepId === hoveredSpan) return;
      hoveredSpan = stepId;
      events.onHoverSpan(stepId, x);
    },
    notes: () => view?.notes ?? null,
    isSelected: (row) => states.now().selected[row] === 1,
    grid: () => content?.grid ?? { values: ['1/16'], swing: 50 },
    snap: () => content?.snap ?? 'steps',
    tool: () => content?.tool ?? 'select',
    mayEdit: () => (content?.mayEdit ?? false) && content?.show !== 'played',
    preview: showPreview,
    select(rows, how) {
      const ids = rows.map((row) => view?.notes.id[row] ?? -1);
      events.onSelect(ids, how);
    },
    done: (gesture) => hold(ended, events.onGesture(gesture)),
    sound: (pitch, velocity) => events.onSound(pitch, velocity),
    pressOther(tick, pitch, adds) {
      const other = otherNoteAt(others(), tick, pitch, 2 * shown.now().ticksPerPixel);
      if (other) events.onOther(other.partId, other.id, adds);
      return other !== null;
    },
    selectBox({ from, to, low, high }, how) {
      const inBox = ({ notes }: PartView) =>
        rowsInBox(notes, from, to, low, high).map((row) => notes.id[row]);
      events.onSelect(view ? inBox(view) : [], how, idsInOthers(others(), inBox));
    },
    leastStart() {
      const { selected, selectionSpan } = states.now();
      const first = selected.indexOf(1);
      const least = Math.min(
        selectionSpan?.from ?? Infinity,
        view && first >= 0 ? view.notes.start[first] : Infinity,
        leastStartInOthers(others(), selectedInOthers(others(), elsewhere)),
      );
      return least === Infinity ? 0 : least;
    },
    key(pitch, select, add) {
      if (pitch < 0 || pitch > 127) return;
      events.onSound(pitch, 96);
      if (!select || !view) return;
      const ofPitch = ({ notes }: PartView) => [...notes.id].filter((_, row) => notes.pitch[row] === pitch);
      events.onSelect(ofPitch(view), add ? 'add' : 'replace', idsInOthers(others(), ofPitch));
    },
    layout: () => layout,
    window: shown.now,
    endTick,
    moveTo: shown.moveTo,
    velocitiesHeight: (height) => events.onVelocitiesHeight(height),
    locate: (tick) => events.onLocate(Math.max(0, tick)),
    playAround: (tick) => events.onPlayAround(tick),
    loop: (from, to) => events.onLoop(from, to),
    meter: () => content?.timeline.meter ?? null,
    chordEnd: (start) => (content ? endOfChord(start, content.timeline.tempo) : start),
    hover(place) {
      const row = view && place ? rowUnder(view.notes, place.x, place.y, shown.now(), layout) : -1;
      if (row === hovered) return;
      hovered = row;
      events.onHover(row, place?.x ?? -1, place?.y ?? -1);
      surface.invalidateAbove();
    },
  };

  const surface = createSurface<Scene>({
    canvas,
    overlay,
    regions: rollRegions(target),
    scene,
    onSize: layOut,
    navigation: shown.navigation,
    onPainted() {
      placePlayLine();
      for (const listener of paintedListeners) listener();
    },
  });
  const stopColours = watchColours((next) => {
    colours = next;
    invalidate();
  });

  return {
    setContent(next: EditorContent) {
      const isOtherwise = isLaidOutOtherwise(content, next, layout);
      content = next;
      if (isOtherwise) layOut(layout.width, layout.height);
      invalidate();
    },
    /** Shows a part's stop; a part seen for the first time gets a first look unless a window is remembered. */
    setView(next: PartView | null, remembered: EditorWindow | null) {
      const otherPart = next?.partId !== view?.partId;
      const otherNotes = next?.notes !== view?.notes;
      view = next;
      if (otherNotes) sounding = [];
      if (otherPart || (otherNotes && isHeld)) preview = null;
      states.read(view?.notes ?? null);
      layout = { ...layout, rows: rowsInUse(content, view, layout.rows) };
      if (hovered >= (view?.notes.length ?? 0)) hovered = -1;
      if (otherPart && next) shown.begin(remembered);
      if (view && content) shown.look(view, content.timeline.meter);
      invalidate();
    },
    /**
     * Puts the play line at a place, or hides it where it is out of sight. With `follow` the window turns like a
     * page; while music plays what sounds there is lit.
     */
    setPlayTick(tick: number, follow: boolean, playing: boolean) {
      if (follow) shown.follow(tick);
      playTick = tick;
      placePlayLine();
      const rows = playing && view ? soundingRows(view.notes, tick) : [];
      if (rows.length === sounding.length && rows.every((row, at) => row === sounding[at])) return;
      sounding = rows;
      surface.invalidateAbove();
    },
    setSelection(
      ids: ReadonlySet<number>,
      standsOn: number | null,
      others: ReadonlyMap<string, ReadonlySet<number>>,
    ) {
      elsewhere = others;
      states.select(ids, standsOn, view?.notes ?? null);
      invalidate();
    },
    /** Lights the notes a step touches, by id; null puts the light out. */
    setLit(stepId: string | null, ids: ReadonlySet<number>) {
      states.light(stepId, ids, view?.notes ?? null);
      invalidate();
    },
    /** What lies at a place of the canvas, in CSS pixels from its corner. */
    spotAt: (x: number, y: number) => placeOnRoll({ x, y }, view, others(), shown.now(), layout),
    /** Puts the keyboard on the roll. */
    focus: () => canvas.focus({ preventScroll: true }),
    /** Brings a tick into sight, where it is not. */
    bringIntoSight(tick: number) {
      const window = shown.now();
      const right = window.tick + (layout.width - layout.gutter) * window.ticksPerPixel;
      if (tick < window.tick || tick > right)
        shown.moveTo({ ...window, tick: tick - 0.3 * (right - window.tick) });
    },
    /** Brings a note into sight. */
    reveal(row: number) {
      if (view && row >= 0) shown.reveal(view.notes, row);
    },
    zoomTo: shown.zoomTo,
    /** All of the part, and the pitches of those shown behind it. */
    fit() {
      if (view) shown.fit([view, ...others().map((other) => other.view)].map(({ notes }) => notes));
    },
    zoom: shown.zoom,
    pan: shown.pan,
    window: shown.now,
    layout: () => layout,
    /** How other surfaces over the same time move the window. */
    navigation: shown.navigation,
    /** Calls back whenever the window, the layout or what a gesture shows changed. Returns the way to stop. */
    follow(follower: () => void) {
      followers.add(follower);
      return () => void followers.delete(follower);
    },
    paintTimes: surface.paintTimes,
    /** Calls back after each painting, for the benchmark. */
    onPainted: (listener: () => void) => void paintedListeners.add(listener),
    selectionSpan: () => states.now().selectionSpan,
    hold,
    /** The first note as it is painted and, at an align step, the stroke it is pulled toward. */
    firstNote() {
      if (!view || view.notes.length === 0) return null;
      const moved =
        preview?.kind === 'move' && !preview.copy && states.now().selected[0] === 1 ? preview : null;
      return {
        start: view.notes.start[0] + (moved?.ticks ?? 0),
        pitch: view.notes.pitch[0] + (moved?.semitones ?? 0),
        pulledTo: view.pulledTo?.[0] ?? NaN,
      };
    },
    /** By how many ticks the selected notes are being dragged; 0 while they are not. */
    carried: (): number => (preview?.kind === 'move' ? preview.ticks : 0),
    /** How far they are, in ticks and semitones. */
    dragged: () =>
      preview?.kind === 'move'
        ? { ticks: preview.ticks, semitones: preview.semitones }
        : { ticks: 0, semitones: 0 },
    /** How many notes are lit; null while none are. */
    litRows: () => states.now().lit?.reduce((sum, row) => sum + row, 0) ?? null,
    /** Where a note stands on the canvas. */
    placeOfRow: (row: number) => ({
      x: xOf(view?.notes.start[row] ?? 0, shown.now(), layout),
      y: yOf(view?.notes.pitch[row] ?? 60, shown.now(), layout),
    }),
    destroy() {
      shown.destroy();
      surface.destroy();
      stopColours();
    },
  };
}

export type RollEditor = ReturnType<typeof createRollEditor>;
