/**
 * Where a command can be done. Places have their own, so that one key may do one thing on the Bench and another
 * elsewhere; what can be done in a whole session, or everywhere, keeps its keys for itself.
 */
export type Scope = 'everywhere' | 'session' | 'bench' | 'takes' | 'tempo' | 'parts' | 'record' | 'score';

/**
 * A thing a person can do by key or from the palette. Keys are written like `Mod+Shift+Z`; Mod is Ctrl, on Apple
 * machines Cmd.
 */
export interface Command<I extends string = string> {
  id: I;
  scope: Scope;
  group: string;
  title: string;
  keys: string[];
}

/** Some commands of one scope and group, each as its id, its title and the keys it has until a person changes them. */
export const commandGroup = <const I extends string>(
  scope: Scope,
  name: string,
  list: readonly (readonly [id: I, title: string, ...keys: string[]])[],
): Command<I>[] => list.map(([id, title, ...keys]) => ({ id, scope, group: name, title, keys }));

/** Scopes that are there in every place. */
const BOTH: ReadonlySet<Scope> = new Set<Scope>(['everywhere', 'session']);

/** Whether two commands may both be there at once, so that they cannot share a key. */
export const meet = (a: Scope, b: Scope): boolean => a === b || BOTH.has(a) || BOTH.has(b);

/** The commands of this room itself: to find all others. */
export const FINDING_COMMANDS = [
  ...commandGroup('everywhere', 'Places', [
    ['palette', 'Find an action', 'Mod+K'],
    ['shortcuts', 'All shortcuts', '?'],
  ]),
] as const satisfies readonly Command[];

/** The lists of commands, by who has them. Whoever registers one declares its type here, so that ids stay typed. */
export interface CommandLists {
  finding: typeof FINDING_COMMANDS;
}

/** The id of a registered command, or of one that a person's recipe brings. */
export type CommandId = CommandLists[keyof CommandLists][number]['id'] | `recipe:${string}`;
