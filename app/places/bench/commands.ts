import { commandGroup, registerCommands, type Command } from '@/commands';

/** What can be done on the Bench. Whether it can be done just now is for the panels to say, which offer it. */
const BENCH_COMMANDS = [
  ...commandGroup('bench', 'Hearing', [
    ['play', 'Play or stop', 'Space'],
    ['loop', 'Loop on or off', 'L'],
    ['click', 'Click on or off', 'C'],
    ['to-start', 'To the start', 'Home'],
    ['follow', 'Follow while playing, on or off', 'G'],
    ['hold-played', 'Hold to hear it as played', 'B'],
  ]),
  ...commandGroup('bench', 'Choosing notes', [
    ['select-all', 'Select all notes', 'Mod+A'],
    ['select-none', 'Select none', 'Escape'],
    ['select-invert', 'Invert selection', 'Mod+I'],
    ['select-same-pitch', 'Select all of the same pitch', 'P'],
    ['select-bars', 'Select all in the same bars', 'Shift+B'],
    ['select-left', 'Select everything to the left', 'Shift+Home'],
    ['select-right', 'Select everything to the right', 'Shift+End'],
    ['select-next', 'Next note', '.'],
    ['select-previous', 'Previous note', ','],
    ['extend-next', 'Add the next note', 'Shift+.'],
    ['extend-previous', 'Add the previous note', 'Shift+,'],
    ['select-question', 'Select by question', 'Shift+F'],
  ]),
  ...commandGroup('bench', 'Mending notes', [
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
    ['delete', 'Delete the selected notes', 'Delete', 'Backspace'],
    ['split', 'Split at the play line', 'X'],
    ['join', 'Join notes of the same pitch', 'J'],
    ['repeat', 'Repeat after itself', 'Mod+D'],
    ['draw-here', 'Draw a note at the play line', 'Insert'],
    [
      'delete-controllers',
      'Delete only controllers: in the loop, or where notes are selected',
      'Shift+Delete',
    ],
    ['copy', 'Copy', 'Mod+C'],
    ['cut', 'Cut', 'Mod+X'],
    ['paste', 'Paste at the play line', 'Mod+V'],
    ['paste-in-place', 'Paste in place', 'Mod+Shift+V'],
    ['type-values', 'Type exact values', 'Enter'],
    ['why', 'Why is this note here?', 'W'],
  ]),
  ...commandGroup('bench', 'Steps', [
    ['add-quantize', 'Add quantize', 'Q'],
    ['quantize-selection', 'Add quantize to the selected notes', 'Shift+Q'],
    ['double', 'Twice as long: the selected notes, or the part', 'Alt+Shift+ArrowRight'],
    ['halve', 'Half as long: the selected notes, or the part', 'Alt+Shift+ArrowLeft'],
    ['split-where', 'Split the step at the play line', 'Shift+X'],
    ['recipes', 'Recipes: save and apply lists of steps', 'R'],
    ['next-stop', 'Next stop of the line', ']'],
    ['previous-stop', 'Previous stop of the line', '['],
  ]),
  ...commandGroup('bench', 'Looking', [
    ['zoom-in', 'Zoom in', '+', '='],
    ['zoom-out', 'Zoom out', '-'],
    ['fit', 'Fit the part', 'F'],
    ['zoom-selection', 'Zoom to the selected notes', 'Z'],
    ['tool-select', 'Tool: select and move', 'S'],
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
  ]),
] as const satisfies readonly Command[];

declare module '@/commands/command' {
  interface CommandLists {
    bench: typeof BENCH_COMMANDS;
  }
}

registerCommands(BENCH_COMMANDS);
