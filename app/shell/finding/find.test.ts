import '@/places/commands';
import '../commands';
import { allCommands } from '@/commands/runtime';
import { found } from '@/commands/find';
import { CATALOGUE, findableCommand } from './catalogue';

const entries = [...allCommands().map((command) => findableCommand(command, [])), ...CATALOGUE];

/** Everyday words, and what somebody who types them is after: one of these is among the first six. */
const WORDS: readonly [typed: string, ...meant: string[]][] = [
  ['curve', 'step:curve'], ['smooth', 'step:curve'], ['vibrato', 'step:curve', 'lane:cc1'], ['crescendo', 'step:velocity', 'step:curve'],
  ['sustain', 'step:pedal', 'lane:cc64'], ['louder', 'louder', 'step:velocity'], ['late', 'step:nudge', 'step:quantize'],
  ['tighten', 'go-clean-up', 'step:quantize'], ['clean up', 'go-clean-up'], ['suggest', 'go-clean-up'], ['fix', 'go-clean-up'],
  ['help', 'guide'], ['quantise', 'step:quantize'], ['quantize', 'step:quantize', 'add-quantize'], ['grid', 'setting:quantize:Grid', 'step:quantize'],
  ['swing', 'setting:quantize:Swing', 'step:groove'], ['shuffle', 'step:groove', 'setting:quantize:Swing'], ['feel', 'step:groove'],
  ['groove', 'step:groove'], ['human', 'step:humanize'], ['random', 'step:humanize'], ['robotic', 'step:humanize'], ['mechanical', 'step:humanize'],
  ['early', 'step:nudge', 'earlier-ms'], ['latency', 'step:nudge'], ['delay', 'step:nudge'], ['offset', 'step:nudge'], ['transpose', 'step:transpose'],
  ['octave', 'octave-up', 'step:transpose'], ['semitones', 'setting:transpose:Semitones', 'step:transpose'], ['key', 'go-readings', 'step:transpose'],
  ['pitch', 'step:transpose'], ['higher', 'octave-up', 'step:transpose'], ['softer', 'softer', 'step:velocity'], ['quieter', 'softer', 'step:velocity'],
  ['dynamics', 'step:velocity', 'step:curve'], ['accent', 'step:velocity', 'louder'], ['compress', 'step:velocity'], ['fade', 'step:velocity', 'step:curve'],
  ['velocity', 'step:velocity', 'lane:velocity'], ['legato', 'step:length'], ['staccato', 'step:length', 'shorter'], ['duration', 'step:length'],
  ['overlap', 'step:length'], ['pedal', 'step:pedal'], ['damper', 'step:pedal', 'lane:cc64'], ['half pedal', 'step:pedal'], ['expression', 'lane:cc11', 'step:curve'],
  ['modulation', 'lane:cc1'], ['mod wheel', 'lane:cc1'], ['pitch wheel', 'lane:bend'], ['bend', 'lane:bend', 'step:curve'], ['glide', 'lane:bend'],
  ['aftertouch', 'lane:pressure'], ['breath', 'lane:cc2'], ['pan', 'lane:cc10'], ['volume', 'lane:cc7', 'step:velocity'], ['filter', 'lane:cc74', 'select-question'],
  ['patch', 'lane:program'], ['automation', 'step:curve', 'add-lane'], ['cc', 'add-lane'], ['controller', 'add-lane', 'step:curve'], ['doubles', 'step:remove'],
  ['double notes', 'step:remove'], ['ghost notes', 'step:remove'], ['junk', 'step:remove'], ['duplicates', 'step:remove'], ['half time', 'step:stretch', 'halve'],
  ['double time', 'step:stretch', 'double'], ['time stretch', 'step:stretch'], ['faster', 'step:stretch', 'halve'], ['beats to bars', 'step:pulse'], ['rubato', 'go-tempo', 'step:pulse'],
  ['bpm', 'go-tempo'], ['tempo', 'go-tempo'], ['time signature', 'go-tempo'], ['beats', 'go-tempo'], ['tap', 'go-tempo', 'beat-tap'], ['metronome', 'click'], ['click', 'click'],
  ['takes', 'go-takes'], ['best take', 'go-takes'], ['record', 'go-record'], ['capture', 'go-record'], ['piano roll', 'go-bench'], ['edit', 'go-bench'],
  ['arrange', 'go-parts', 'step:layout'], ['tracks', 'go-parts'], ['merge', 'go-parts', 'join'], ['analysis', 'go-readings'], ['wrong notes', 'go-readings'], ['chords', 'go-readings', 'setting:quantize:Chords'],
  ['report', 'go-readings'], ['save', 'go-export'], ['download', 'go-export'], ['export', 'go-export'], ['import', 'bring-in'], ['load', 'bring-in'], ['open file', 'bring-in'],
  ['home', 'go-shelf'], ['batch', 'go-many'], ['folder', 'go-many'], ['sessions', 'go-shelf'], ['undo', 'undo'], ['revert', 'undo'], ['history', 'history'], ['keys', 'shortcuts'], ['hotkeys', 'shortcuts'],
  ['dark mode', 'theme'], ['manual', 'guide'], ['tutorial', 'help:tour', 'guide'], ['play', 'play'], ['listen', 'play'], ['loop', 'loop'],
  ['compare', 'hold-played', 'show-both'], ['original', 'hold-played', 'show-both'], ['rewind', 'to-start'], ['pen', 'tool-draw', 'draw-here'], ['eraser', 'tool-erase'],
  ['delete', 'delete'], ['cut', 'cut', 'split'], ['merge notes', 'join'], ['copy', 'copy'], ['paste', 'paste'], ['duplicate', 'repeat', 'copy'], ['zoom', 'zoom-in'],
  ['fit', 'fit'], ['table', 'note-list'], ['rows of notes', 'note-list'], ['marker', 'marker-new'], ['preset', 'recipes'], ['strength', 'setting:quantize:Strength'],
  ['triplet', 'setting:quantize:Grid'], ['rolls', 'setting:quantize:Chords'], ['strum', 'setting:quantize:Chords'], ['drum rows', 'unused-rows'], ['bass to drums', 'step:align'],
]; // prettier-ignore

it(`everyday words find what is meant: ${WORDS.length} of them`, () => {
  expect(WORDS.length).toBeGreaterThanOrEqual(120);
  const lost = WORDS.flatMap(([typed, ...meant]) => {
    const first = found(entries, typed)
      .slice(0, 6)
      .map(({ id }) => id);
    return meant.some((id) => first.includes(id)) ? [] : [`${typed}: ${first.join(', ')}`];
  });
  expect(lost).toEqual([]);
});

it('every place has its name and its key there', () => {
  for (const place of ['shelf', 'record', 'takes', 'tempo', 'bench', 'parts', 'readings', 'export']) {
    const first = found(entries, place)
      .slice(0, 2)
      .map(({ id }) => id);
    expect(first).toContain(`go-${place}`);
    expect(allCommands().find(({ id }) => id === `go-${place}`)?.keys).not.toEqual([]);
  }
});
