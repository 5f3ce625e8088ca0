import { commandGroup, registerCommands, type Command } from '@/commands';

/** What can be done on Tempo by key. Playing goes by the commands of the Bench. */
const TEMPO_COMMANDS = [
  ...commandGroup('tempo', 'Beats', [
    ['beat-next', 'To the next beat', 'ArrowRight'],
    ['beat-previous', 'To the beat before', 'ArrowLeft'],
    ['beat-later', 'The beat alone 5 ms later', 'Shift+ArrowRight'],
    ['beat-earlier', 'The beat alone 5 ms earlier', 'Shift+ArrowLeft'],
    ['beat-here', 'A beat at the play line', 'Enter'],
    ['beat-forget', 'Leave the beat to its neighbours', 'Delete', 'Backspace'],
    ['beat-out', 'Delete the beat: those beside it become one', 'Shift+Delete'],
    ['beats-keep', 'Fix the beats shown', 'K'],
    ['beat-tap', 'Tap a beat while it plays', 'T'],
    ['bar-here', 'A bar begins at this beat', 'B'],
    ['level-double', 'Twice as many beats', 'Shift+2'],
    ['level-half', 'Half as many beats, then the other half', 'Shift+5'],
    ['level-half-more', 'Half as many beats once more'],
    ['beats-shift', 'Move the beats by half a beat, or back', 'Shift+S'],
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
