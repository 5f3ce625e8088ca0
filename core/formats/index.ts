/** Open files besides MIDI: recipes, and sessions with all they refer to. */
export * from './recipe';
export * from './builtInRecipes';
export * from './sessionFile';
export { noteOfXmlId, writeMusicXml, xmlIdOf, type MusicXmlOptions } from './musicxml/writeMusicXml';
export { writeMxl } from './musicxml/mxl';
export { stripsOf, type ScoreStrip } from './musicxml/strips';
