import { OrdleError } from '../errors';
import type { MidiFile } from '../midi';
import { joinTables } from '../model';
import { takesOfFile } from '../model';
import { createTimeline } from '../time';
import { findBeats, steadyBeats, type FoundBeats } from './findBeats';

/**
 * The beats of a performance, from the starts of all its notes alone: whatever tempo and meter the file names are not
 * asked. `isSteady` gives them evenly apart, by a straight line through them. Seconds from the start of the file.
 * Throws OrdleError `no-notes` where there are none.
 *
 * @public
 */
export function beatsOfFile(file: MidiFile, isSteady = false): FoundBeats {
  const takes = takesOfFile(file, () => '');
  const notes = joinTables(takes.map((take) => take.notes));
  if (notes.length === 0) throw new OrdleError('no-notes', 'It holds no notes, so there is no beat to find.');
  const [first] = takes;
  const { tempo: map } = createTimeline(file.division, first.tempos, first.meters);
  const found = findBeats(notes, map);
  return isSteady ? steadyBeats(found) : found;
}
