import { commandGroup, registerCommands, type Command } from '@/commands';

/** What can be done on Takes by key. Playing goes by the commands of the Bench. */
const TAKES_COMMANDS = [
  ...commandGroup('takes', 'Takes', [
    ['cell-left', 'To the bar before', 'ArrowLeft'],
    ['cell-right', 'To the next bar', 'ArrowRight'],
    ['cell-up', 'To the take above', 'ArrowUp'],
    ['cell-down', 'To the take below', 'ArrowDown'],
    ['cells-fewer', 'One bar fewer', 'Shift+ArrowLeft'],
    ['cells-more', 'One bar more', 'Shift+ArrowRight'],
    ['choose-take', 'Choose this take for these bars', 'Enter'],
    ['layer-take', 'Add this take to what sounds there, or take it away', 'Shift+Enter'],
    ['clear-bars', 'Leave these bars empty', 'Delete', 'Backspace'],
    ['choose-1', 'Choose take 1', '1'],
    ['choose-2', 'Choose take 2', '2'],
    ['choose-3', 'Choose take 3', '3'],
    ['choose-4', 'Choose take 4', '4'],
    ['choose-5', 'Choose take 5', '5'],
    ['choose-6', 'Choose take 6', '6'],
    ['choose-7', 'Choose take 7', '7'],
    ['choose-8', 'Choose take 8', '8'],
    ['choose-9', 'Choose take 9', '9'],
    ['next-loose', 'To the next most uneven bar', 'U'],
    ['next-seam', 'To the next seam', 'N'],
    ['play-seam', 'Play around the seam', 'Shift+N'],
    ['propose', 'Suggest a take for each bar', 'P'],
    ['fit-takes', 'Show all bars', 'F'],
  ]),
] as const satisfies readonly Command[];

registerCommands(TAKES_COMMANDS);

declare module '@/commands/command' {
  interface CommandLists {
    takes: typeof TAKES_COMMANDS;
  }
}
