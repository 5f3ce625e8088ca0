/** Everything a person can do by name: the catalogue, its keys, the palette. */
export { COMMANDS } from './catalogue';
export { showKey } from './keys';
export { keysOf, run, useCommandKeys, useCommands } from './runtime';
export { Palette } from './Palette';
export { ShortcutSheet } from './ShortcutSheet';
