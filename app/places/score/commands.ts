import { commandGroup, registerCommands, type Command } from '@/commands';

/** What can be done on Score by key. Playing goes by the commands of the Bench. */
const SCORE_COMMANDS = [
  ...commandGroup('score', 'Score', [
    ['written-before', 'To the written note before', 'ArrowLeft'],
    ['written-next', 'To the next written note', 'ArrowRight'],
    ['next-fault', 'To the next wrong, missing or loose note', 'U'],
    ['fault-before', 'To the wrong, missing or loose note before', 'Shift+U'],
  ]),
] as const satisfies readonly Command[];

registerCommands(SCORE_COMMANDS);

declare module '@/commands/command' {
  interface CommandLists {
    score: typeof SCORE_COMMANDS;
  }
}
