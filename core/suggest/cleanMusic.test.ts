import { readFileSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { cleanFile } from '../evaluate';
import { readMusic } from '../formats';
import { readMidi, writeMidi } from '../midi';
import { createStep } from '../steps';
import { cleanMusic, cleanedName, idleSteps } from './cleanMusic';
import { suggestFile } from './suggestFile';

const DEMO = path.resolve(__dirname, '../../app/public/demo');
const files = readdirSync(DEMO)
  .filter((name) => name.endsWith('.mid'))
  .map((name): [string, Uint8Array] => [name, new Uint8Array(readFileSync(path.join(DEMO, name)))]);
const steps = [createStep('quantize', { grid: '1/16' }), createStep('transpose', { semitones: 2 })];

describe.each(files)('%s', (_name, bytes) => {
  it('is cleaned by steps as a file of its own would be', () => {
    const { bytes: made, notes, suggested } = cleanMusic(bytes, { suggested: false, steps });
    expect(made).toEqual(writeMidi(cleanFile(readMidi(bytes).file, steps).file));
    expect(notes).toBeGreaterThan(0);
    expect(suggested).toBeNull();
  });

  it('is cleaned by its own suggestion, and by steps that come after it', () => {
    const own = cleanMusic(bytes, { suggested: true, steps: [] });
    const suggestion = suggestFile(readMusic(bytes).file);
    expect(own.bytes).toEqual(writeMidi(suggestion.applied()));
    expect(own.suggested?.parts).toBe(suggestion.parts.length);
    const both = cleanMusic(bytes, { suggested: true, steps });
    // What was recorded to the click has a recipe of the same: its steps, then the others.
    if (suggestion.recorded === 'to the click' && suggestion.parts.length === 1)
      expect(both.bytes).toEqual(
        cleanMusic(bytes, { suggested: false, steps: [...suggestion.recipe('').steps, ...steps] }).bytes,
      );
    expect(both.bytes).not.toEqual(own.bytes);
  });

  it('is written as it was read where nothing is to be done', () => {
    const { bytes: made, changed } = cleanMusic(bytes, { suggested: false, steps: [] });
    expect(changed).toBe(0);
    expect(cleanMusic(made, { suggested: false, steps: [] }).bytes).toEqual(made);
  });
});

test('names of what is cleaned end as MIDI files do', () => {
  expect(['a.mid', 'b.KAR', 'c.ordle', 'd.musicxml', 'e.MXL', 'f'].map(cleanedName)).toEqual([
    'a.mid',
    'b.KAR',
    'c.mid',
    'd.mid',
    'e.mid',
    'f',
  ]);
});

test('steps that need a score say so, unless they are off', () => {
  const score = createStep('score', {});
  expect(idleSteps([score, ...steps])).toEqual([expect.stringContaining('goes by a score')]);
  expect(idleSteps([{ ...score, on: false }])).toEqual([]);
});
