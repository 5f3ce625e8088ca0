/** Everything a person can do by name: the catalogue, its keys, the palette. */
export { COMMANDS, type CommandId } from './catalogue';
export { showKey } from './keys';
export { KeyButton, KeyConflictNote, type KeyConflict } from './KeyButton';
export {
  keysOf,
  run,
  setExtraCommands,
  setKeys,
  useCommandKeys,
  useCommands,
  useHeldCommand,
} from './runtime';
export { Palette } from './Palette';
export { ShortcutSheet } from './ShortcutSheet';
