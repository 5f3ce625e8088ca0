import { commandGroup, registerCommands, type Command } from '@/commands';

/** What can be done in every place, and in every place of a session. */
const SHELL_COMMANDS = [
  ...commandGroup('session', 'Undo', [
    ['undo', 'Undo', 'Mod+Z'],
    ['redo', 'Redo', 'Mod+Shift+Z', 'Mod+Y'],
    ['history', 'Open the history', 'H'],
  ]),
  ...commandGroup('session', 'Sections', [
    ['marker-new', 'New marker at the play line', 'Alt+M'],
    ['section-next', 'To the next section', 'Shift+PageDown'],
    ['section-previous', 'To the section before', 'Shift+PageUp'],
    ['section-loop', 'Loop the section at the play line', 'Shift+L'],
    ['section-select', 'Select what is in the section at the play line', 'Shift+A'],
  ]),
  ...commandGroup('everywhere', 'Places', [
    ['go-shelf', 'To the shelf'],
    ['go-bench', 'To the bench'],
    ['go-record', 'To record'],
    ['go-export', 'To export'],
    ['bring-in', 'Import files'],
    ['theme', 'Light or dark'],
  ]),
] as const satisfies readonly Command[];

declare module '@/commands/command' {
  interface CommandLists {
    shell: typeof SHELL_COMMANDS;
  }
}

registerCommands(SHELL_COMMANDS);
