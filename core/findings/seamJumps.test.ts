import { noteTableOf } from '../model';
import { listOf, mapItems, orderedOf, sessionOfFile, timelineOf, type Part, type Piece } from '../session';
import { readMidi, writeMidi } from '../midi';
import { fileOfNotes } from '../testing/files';
import { seamJumps } from './seamJumps';

// 480 ticks a quarter at 120 bpm: a bar is 1920 ticks, a millisecond 0.96.
const { file } = readMidi(writeMidi(fileOfNotes([[0, 100, 60, 80]])));
let next = 0;
const { session } = sessionOfFile(file, '', () => `id${next++}`, 0);
const timeline = timelineOf(session);
const [plain] = listOf(session.parts);

/** The part of two takes that meet at bar 3. */
const joined: Part = {
  ...plain,
  layers: mapItems(plain.layers, (layer) => {
    const [piece] = listOf(layer.pieces);
    const half = (id: string, number: number, from: number, to: number | null): Piece => ({
      ...piece,
      id,
      number,
      from,
      to,
      at: from,
    });
    return { ...layer, pieces: orderedOf([half('a', 1, 0, 3840), half('b', 2, 3840, null)]) };
  }),
};

const notes = (velocity: (at: number) => number, late: (at: number) => number = () => 0) =>
  noteTableOf(
    Array.from({ length: 32 }, (_, at) => ({
      id: at,
      start: at * 240 + late(at),
      end: at * 240 + late(at) + 200,
      pitch: 60,
      velocity: velocity(at),
      release: 64,
      channel: 0,
    })),
  );
const after = (at: number) => at >= 16;

describe('jumps at seams', () => {
  it('are told where the playing is louder or later by more than anybody goes over in a note', () => {
    const louder = seamJumps(
      joined,
      notes((at) => (after(at) ? 100 : 60)),
      timeline,
    );
    expect(louder).toHaveLength(1);
    expect(louder[0]).toMatchObject({ kind: 'seam-jump', tick: 3840 });
    // From the seam's bar on softer by as much.
    expect(louder[0].mend).toMatchObject({ kind: 'velocity', add: -40, where: { bars: [3, 100_000] } });
    expect(louder[0].reason).toContain('louder by 40 in velocity');
    const both = seamJumps(
      joined,
      notes(
        (at) => (after(at) ? 50 : 90),
        (at) => (after(at) ? 38.4 : 0),
      ),
      timeline,
    );
    expect(both[0].reason).toContain('softer by 40 in velocity and later by 40 ms');
  });

  it('are none where the playing goes on, where an accent stands at the bar line, and where nothing meets', () => {
    expect(
      seamJumps(
        joined,
        notes((at) => 70 + (at % 4)),
        timeline,
      ),
    ).toEqual([]);
    expect(
      seamJumps(
        joined,
        notes((at) => (at === 16 ? 120 : 70)),
        timeline,
      ),
    ).toEqual([]);
    expect(
      seamJumps(
        plain,
        notes((at) => (after(at) ? 100 : 60)),
        timeline,
      ),
    ).toEqual([]);
    expect(seamJumps(joined, noteTableOf([]), timeline)).toEqual([]);
  });
});
