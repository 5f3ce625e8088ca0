/** What a session is handed on as: the formats there are, their names, and the writing of them. */
export * from './names';
export * from './formatKind';
export { FORMATS, FORMAT_IDS, formatOf, optionsOf, type FormatChoice } from './formats';
export { checkMidi, midiOptions, type MidiOptions } from './formats/midi';
export { csvOptions, type CsvOptions } from './formats/csv';
export { musicXmlSettings, type MusicXmlSettings } from './formats/musicXml';
export { wavOptions } from './formats/wav';
export { grooveOptions, type GrooveOptions } from './formats/recipesAndGrooves';
export { packSession, sessionFileOptions, type SessionFileOptions } from './formats/sessionFile';
export { soundingOf } from './wav/soundingOf';
export type { Sounding, WavOptions } from './wav/rendering';
export * from './wav/sounding';
export { textField } from './csv';
export { zipOf, type ZippedFile } from './zip';
export * from './plan';
export { portionsOf, type Extent } from './portions';
