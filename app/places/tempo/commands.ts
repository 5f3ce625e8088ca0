import { commandGroup, registerCommands, type Command } from '@/commands';

/** What can be done on Tempo by key. Playing goes by the commands of the Bench. */
const TEMPO_COMMANDS = [
  ...commandGroup('tempo', 'Beats', [
    ['beat-next', 'To the next beat', 'ArrowRight'],
    ['beat-previous', 'To the beat before', 'ArrowLeft'],
    ['beat-later', 'The beat 5 ms later', 'Shift+ArrowRight'],
    ['beat-earlier', 'The beat 5 ms earlier', 'Shift+ArrowLeft'],
    ['beat-here', 'A beat at the play line', 'Enter'],
    ['beat-forget', 'Leave the beat to be found again', 'Delete', 'Backspace'],
    ['beat-out', 'Take the beat out: those beside it become one', 'Shift+Delete'],
    ['beats-keep', 'Keep the beats in sight as they are', 'K'],
    ['beat-tap', 'Tap a beat while it plays', 'T'],
    ['bar-here', 'A bar begins at this beat', 'B'],
    ['level-double', 'Twice as many beats', 'Shift+2'],
    ['level-half', 'Half as many beats', 'Shift+5'],
    ['next-doubt', 'To the next doubtful beat', 'U'],
    ['fit-tempo', 'Show all of it', 'F'],
  ]),
] as const satisfies readonly Command[];

registerCommands(TEMPO_COMMANDS);

declare module '@/commands/command' {
  interface CommandLists {
    tempo: typeof TEMPO_COMMANDS;
  }
}
