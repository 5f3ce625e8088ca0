/** Open files besides MIDI: recipes, and sessions with all they refer to. */
export * from './recipe';
export * from './builtInRecipes';
export * from './sessionFile';
export { fromBase64, toBase64 } from './base64';
export { writeMusicXml, type MusicXmlOptions } from './musicxml/writeMusicXml';
export { noteOfXmlId, xmlIdOf } from './musicxml/noteXml';
export { writeMxl } from './musicxml/mxl';
export { stripsOf, type ScoreStrip } from './musicxml/strips';
export { readMusic, readWritten, scoreOfWritten, type WrittenMusic } from './musicxml/scoreFile';
export { NO_TIME } from './noTime';
