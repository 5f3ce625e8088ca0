/** Everything a person can do by name: registered by the places, with its keys and the palette. */
export { commandGroup, type Command, type CommandId } from './command';
export { showKey } from './keys';
export { KeyButton, KeyConflictNote, type KeyConflict } from './KeyButton';
export {
  keysOf,
  registerCommands,
  run,
  setExtraCommands,
  setKeys,
  useCommandKeys,
  useCommands,
  useHeldCommand,
} from './runtime';
export { commandItems, inGroups } from './menuItems';
export { Palette } from './Palette';
export { ShortcutSheet } from './ShortcutSheet';
