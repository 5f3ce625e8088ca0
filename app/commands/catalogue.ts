/**
 * Where a command can be done. Places have their own, so that one key may do one thing on the Bench and another elsewhere; what can be done in
 * a whole session, or everywhere, keeps its keys for itself.
 */
export type Scope = 'everywhere' | 'session' | 'bench';

/** A thing a person can do by key or from the palette. Keys are written like `Mod+Shift+Z`; Mod is Ctrl, on Apple machines Cmd. */
export interface Command<I extends string = string> {
  id: I;
  scope: Scope;
  group: string;
  title: string;
  keys: string[];
}

const group = <const I extends string>(
  scope: Scope,
  name: string,
  list: readonly (readonly [id: I, title: string, ...keys: string[]])[],
): Command<I>[] => list.map(([id, title, ...keys]) => ({ id, scope, group: name, title, keys }));

/** Scopes that are there in every place. */
const BOTH: ReadonlySet<Scope> = new Set<Scope>(['everywhere', 'session']);

/** Whether two commands may both be there at once, so that they cannot share a key. */
export const meet = (a: Scope, b: Scope): boolean => a === b || BOTH.has(a) || BOTH.has(b);

/** Every command, with the keys it has until a person changes them. */
export const COMMANDS = [
  ...group('bench', 'Hearing', [
    ['play', 'Play or stop', 'Space'],
    ['loop', 'Loop on or off', 'L'],
    ['click', 'Click on or off', 'C'],
    ['to-start', 'To the start', 'Home'],
    ['follow', 'Follow while playing, on or off', 'G'],
    ['hold-played', 'Hold to hear it as played', 'B'],
  ]),
  ...group('session', 'Taking back', [
    ['undo', 'Undo', 'Mod+Z'],
    ['redo', 'Redo', 'Mod+Shift+Z', 'Mod+Y'],
    ['history', 'Open the history', 'H'],
  ]),
  ...group('bench', 'Choosing notes', [
    ['select-all', 'Choose all notes', 'Mod+A'],
    ['select-none', 'Choose none', 'Escape'],
    ['select-invert', 'Turn the choice around', 'Mod+I'],
    ['select-same-pitch', 'Choose all of the same pitch', 'P'],
    ['select-bars', 'Choose all in the same bars', 'Shift+B'],
    ['select-left', 'Choose everything to the left', 'Shift+Home'],
    ['select-right', 'Choose everything to the right', 'Shift+End'],
    ['select-next', 'Next note', '.'],
    ['select-previous', 'Previous note', ','],
    ['extend-next', 'Add the next note', 'Shift+.'],
    ['extend-previous', 'Add the previous note', 'Shift+,'],
    ['select-question', 'Choose by question', 'Shift+F'],
  ]),
  ...group('bench', 'Mending notes', [
    ['later-grid', 'Later by a grid step', 'ArrowRight'],
    ['earlier-grid', 'Earlier by a grid step', 'ArrowLeft'],
    ['later-tick', 'Later by a tick', 'Shift+ArrowRight'],
    ['earlier-tick', 'Earlier by a tick', 'Shift+ArrowLeft'],
    ['later-ms', 'Later by a millisecond', 'Alt+ArrowRight'],
    ['earlier-ms', 'Earlier by a millisecond', 'Alt+ArrowLeft'],
    ['up', 'Up a semitone', 'ArrowUp'],
    ['down', 'Down a semitone', 'ArrowDown'],
    ['octave-up', 'Up an octave', 'Shift+ArrowUp'],
    ['octave-down', 'Down an octave', 'Shift+ArrowDown'],
    ['louder', 'Louder by 5', 'Mod+ArrowUp'],
    ['softer', 'Softer by 5', 'Mod+ArrowDown'],
    ['longer', 'Longer by a grid step', 'Mod+ArrowRight'],
    ['shorter', 'Shorter by a grid step', 'Mod+ArrowLeft'],
    ['delete', 'Delete the chosen notes', 'Delete', 'Backspace'],
    ['split', 'Split at the play line', 'X'],
    ['join', 'Join notes of the same pitch', 'J'],
    ['repeat', 'Repeat after itself', 'Mod+D'],
    ['draw-here', 'Draw a note at the play line', 'Insert'],
    ['delete-controllers', 'Delete only controllers: in the loop, or where notes are chosen', 'Shift+Delete'],
    ['copy', 'Copy', 'Mod+C'],
    ['cut', 'Cut', 'Mod+X'],
    ['paste', 'Paste at the play line', 'Mod+V'],
    ['paste-in-place', 'Paste in place', 'Mod+Shift+V'],
    ['type-values', 'Type exact values', 'Enter'],
    ['why', 'Why is this note here?', 'W'],
  ]),
  ...group('bench', 'Steps', [
    ['add-quantize', 'Add quantize', 'Q'],
    ['quantize-selection', 'Add quantize to the chosen notes', 'Shift+Q'],
    ['double', 'Twice as long: the chosen notes, or the part', 'Alt+Shift+ArrowRight'],
    ['halve', 'Half as long: the chosen notes, or the part', 'Alt+Shift+ArrowLeft'],
    ['split-where', 'Split the step at the play line', 'Shift+X'],
    ['recipes', 'Recipes: save and apply lists of steps', 'R'],
    ['next-stop', 'Next stop of the line', ']'],
    ['previous-stop', 'Previous stop of the line', '['],
  ]),
  ...group('bench', 'Looking', [
    ['zoom-in', 'Zoom in', '+', '='],
    ['zoom-out', 'Zoom out', '-'],
    ['fit', 'Fit the part', 'F'],
    ['zoom-selection', 'Zoom to the chosen notes', 'Z'],
    ['tool-select', 'Tool: choose and move', 'S'],
    ['tool-draw', 'Tool: draw', 'D'],
    ['tool-erase', 'Tool: erase', 'E'],
    ['snap', 'Snap to the grid, on or off', 'N'],
    ['along', 'Controllers go along with their notes, on or off', 'Shift+N'],
    ['show-both', 'Show cleaned over as played', '1'],
    ['show-cleaned', 'Show cleaned only', '2'],
    ['show-played', 'Show as played only', '3'],
    ['time', 'Bars or seconds', 'T'],
    ['middle-c', 'Middle C as C3 or C4', 'Shift+C'],
    ['lane', 'Velocity lane, show or hide', 'V'],
    ['add-lane', 'Add a lane', 'Shift+V'],
    ['note-list', 'Note list, show or hide', 'K'],
    ['all-parts', 'Set all parts together, or one alone', 'Shift+P'],
    ['next-part', 'Next part', 'PageDown'],
    ['previous-part', 'Previous part', 'PageUp'],
    ['theme', 'Light or dark'],
  ]),
  ...group('everywhere', 'Places', [
    ['palette', 'Find an action', 'Mod+K'],
    ['shortcuts', 'All shortcuts', '?'],
    ['go-shelf', 'To the shelf'],
    ['go-bench', 'To the bench'],
    ['go-export', 'To export'],
    ['bring-in', 'Bring in files'],
  ]),
] as const satisfies readonly Command[];

/** The id of a command of the catalogue, or of one that a person's recipe brings. */
export type CommandId = (typeof COMMANDS)[number]['id'] | `recipe:${string}`;
