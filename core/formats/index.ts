/** Open files besides MIDI: recipes. */
export * from './recipe';
export * from './builtInRecipes';
