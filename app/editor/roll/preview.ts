/** A place on the canvas, in CSS pixels. */
export interface Pointer {
  x: number;
  y: number;
}

/** What a gesture would do if it ended now; painted, and told to the Bench when it ends. Rows are of the view shown. */
export type Preview =
  /** `at` is where the pointer is, for what is told beside it. */
  | { kind: 'move'; ticks: number; semitones: number; copy: boolean; at?: Pointer }
  | { kind: 'trim'; edge: 'start' | 'end'; ticks: number; at?: Pointer }
  | { kind: 'draw'; start: number; end: number; pitch: number }
  | { kind: 'erase'; rows: ReadonlySet<number> }
  | { kind: 'velocity'; velocities: ReadonlyMap<number, number>; x: number; y: number; words: string }
  /** The selected notes stretched from `anchor`; x and y are where the pointer is. */
  | { kind: 'stretch'; anchor: number; factor: number; x: number; y: number }
  | { kind: 'marquee'; left: number; top: number; right: number; bottom: number };

/** A gesture on notes that has ended: what is to be done. Ids, ticks, semitones. */
export type NoteGesture =
  | { kind: 'move'; ticks: number; semitones: number; copy: boolean }
  | { kind: 'trim'; edge: 'start' | 'end'; ticks: number }
  | { kind: 'draw'; start: number; end: number; pitch: number }
  | { kind: 'erase'; ids: number[] }
  | { kind: 'stretch'; factor: number }
  | { kind: 'velocity'; velocities: Map<number, number> };

/** Whether a preview only lies over what is painted, or there is none: what is beneath need not be painted anew. */
export const onlyAdds = (preview: Preview | null): boolean =>
  preview === null ||
  preview.kind === 'marquee' ||
  preview.kind === 'draw' ||
  (preview.kind === 'move' && preview.copy);
