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
    ['go-shelf', 'To the shelf', 'Mod+Alt+1'],
    ['go-record', 'To record', 'Mod+Alt+2'],
    ['go-takes', 'To takes', 'Mod+Alt+3'],
    ['go-tempo', 'To tempo', 'Mod+Alt+4'],
    ['go-bench', 'To the bench', 'Mod+Alt+5'],
    ['go-parts', 'To parts', 'Mod+Alt+6'],
    ['go-readings', 'To readings', 'Mod+Alt+7'],
    ['go-export', 'To export', 'Mod+Alt+8'],
    ['go-score', 'To the score', 'Mod+Alt+9'],
    ['go-clean-up', 'Suggested clean-up', 'Mod+Alt+0'],
    ['bring-in', 'Import files'],
    ['go-many', 'Clean many files'],
    ['theme', 'Light or dark'],
    ['guide', 'Guide', 'F1'],
  ]),
] as const satisfies readonly Command[];

declare module '@/commands/command' {
  interface CommandLists {
    shell: typeof SHELL_COMMANDS;
  }
}

registerCommands(SHELL_COMMANDS);
