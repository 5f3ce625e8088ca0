import { commandGroup, registerCommands, type Command } from '@/commands';

/** What can be done on Record by key: none of them a letter, since letters may be keys to play on. */
const RECORD_COMMANDS = [
  ...commandGroup('record', 'Record', [
    ['record', 'Record, or stop and keep it', 'Enter'],
    ['keep-played', 'Keep what I just played', 'Shift+Enter'],
    ['panic', 'End everything that sounds', 'Mod+.'],
    ['computer-keys', 'Play with the computer’s keys, or no longer', 'F2'],
    ['bar-back', 'Play line a bar back', 'ArrowLeft'],
    ['bar-on', 'Play line a bar on', 'ArrowRight'],
    ['throw-back', 'Throw the newest pass back', 'Delete', 'Backspace'],
  ]),
] as const satisfies readonly Command[];

registerCommands(RECORD_COMMANDS);

declare module '@/commands/command' {
  interface CommandLists {
    record: typeof RECORD_COMMANDS;
  }
}
