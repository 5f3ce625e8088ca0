import type { Snap } from '@ordle/core';
import type { EditorWindow } from '@/state/viewSlice';
import type { NoteGesture } from './preview';
import type { Scene } from './scene';
import type { WhereChange } from './whereGestures';

/** What the Bench tells the editor to show. */
export type EditorContent = Omit<
  Scene,
  | 'layout'
  | 'window'
  | 'view'
  | 'ticksPerMs'
  | 'hovered'
  | 'colours'
  | 'pixelRatio'
  | 'selected'
  | 'focused'
  | 'preview'
  | 'sounding'
  | 'selectionSpan'
  | 'litStep'
  | 'lit'
  | 'othersSelected'
> & {
  velocities: boolean;
  velocitiesHeight: number;
  tool: 'select' | 'draw' | 'erase';
  /** Whether rows of drum pieces without strokes, and octaves without notes, are hidden. */
  hidesPieces: boolean;
  hidesOctaves: boolean;
  snap: Snap;
  mayEdit: boolean;
  mayWhere: boolean;
};

/** What the editor tells the Bench. */
export interface EditorEvents {
  /** The window came to rest somewhere else. */
  onWindow(window: EditorWindow): void;
  /** A place on the ruler was clicked. */
  onLocate(tick: number): void;
  /** A place on the strip over the whole part was clicked. */
  onPlayAround(tick: number): void;
  /** A stretch of the ruler was dragged over; null when the drag is only under way. */
  onLoop(from: number, to: number): void;
  /** Notes were selected, by id; with those of other parts that are shown, by part. */
  onSelect(
    ids: number[],
    how: 'replace' | 'add' | 'toggle',
    elsewhere?: readonly (readonly [string, number[]])[],
  ): void;
  /** A gesture on notes ended. What it showed stays until the promise is kept, or other notes come. */
  onGesture(gesture: NoteGesture): Promise<void>;
  /** A pitch wants to be heard. */
  onSound(pitch: number, velocity: number): void;
  /** A note of another shown part was pressed; `adds` it to what is selected. */
  onOther(partId: string, id: number, adds: boolean): void;
  /** The where of the current step was dragged; the changes of one gesture are one action. */
  onWhere(change: WhereChange, gesture: string): void;
  onAbandonWhere(gesture: string): void;
  /** The amount of some bars of the transpose current step was dragged. */
  onSection(bars: [number, number], semitones: number, gesture: string): void;
  /** The section that a marker begins is meant. */
  onNamedSection(marker: string): void;
  /** A where was dragged while no step is the current one. */
  onWhereRefused(): void;
  /** The span of a step was clicked. */
  onStand(stepId: string): void;
  /** The pointer rests on the span of a step, or on none. */
  onHoverSpan(stepId: string | null, x: number): void;
  /** The upper edge of the velocities was dragged. */
  onVelocitiesHeight(height: number): void;
  /** The pointer rests on a note (row of the view), or on none (-1). */
  onHover(row: number, x: number, y: number): void;
}

/** What the editor draws on: two canvases of the same size over each other, and the play line over both. */
export interface EditorElements {
  canvas: HTMLCanvasElement;
  overlay: HTMLCanvasElement;
  playLine: HTMLElement;
}
