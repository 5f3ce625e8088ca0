import { commandGroup, registerCommands, type Command } from '@/commands';

/** What can be done on Parts by key. Playing goes by the commands of the Bench. */
const PARTS_COMMANDS = [
  ...commandGroup('parts', 'Blocks', [
    ['block-split', 'Split blocks at the play line', 'X'],
    ['block-join', 'Join blocks that go on from each other', 'J'],
    ['block-duplicate', 'Duplicate blocks after themselves', 'Mod+D'],
    ['block-leave-out', 'Leave blocks out', 'Delete', 'Backspace'],
    ['block-copy', 'Copy blocks', 'Mod+C'],
    ['block-cut', 'Cut blocks', 'Mod+X'],
    ['block-paste', 'Lay copied blocks at the play line', 'Mod+V'],
    ['block-mute', 'Mute blocks, or no longer', 'M'],
    ['block-later', 'Blocks later by a step', 'ArrowRight'],
    ['block-earlier', 'Blocks earlier by a step', 'ArrowLeft'],
    ['block-all', 'Select all blocks', 'Mod+A'],
    ['block-none', 'Select no block', 'Escape'],
    ['part-above', 'To the part above', 'ArrowUp'],
    ['part-below', 'To the part below', 'ArrowDown'],
    ['part-up', 'Move the part up the list', 'Alt+ArrowUp'],
    ['part-down', 'Move the part down the list', 'Alt+ArrowDown'],
    ['parts-group', 'Group the selected parts', 'Mod+G'],
    ['bars-copy', 'Copy the looped bars of all parts', 'Shift+C'],
    ['bars-repeat', 'Repeat the looped bars in all parts', 'Shift+D'],
    ['bars-delete', 'Delete the looped bars in all parts', 'Shift+Delete'],
    ['bars-insert', 'Insert as much time before the looped bars', 'Shift+Insert'],
    ['fit-parts', 'Show all of it', 'F'],
  ]),
] as const satisfies readonly Command[];

registerCommands(PARTS_COMMANDS);

declare module '@/commands/command' {
  interface CommandLists {
    parts: typeof PARTS_COMMANDS;
  }
}
