import fc from 'fast-check';
import { noteTableOf, type NoteTable } from '../model';
import { MS, anyNotes, timeline } from '../testing/stepBench';
import { compareNotes } from '.';

type Plain = [start: number, pitch: number, velocity?: number, length?: number];
const tableOf = (list: readonly Plain[]) =>
  noteTableOf(
    [...list]
      .sort((a, b) => a[0] - b[0])
      .map(([start, pitch, velocity = 80, length = 400], id) => ({
        id,
        start,
        end: start + length,
        pitch,
        velocity,
        release: 64,
        channel: 0,
      })),
  );
const told = (one: NoteTable, other: NoteTable) =>
  compareNotes(one, other, timeline)
    .notes.filter(({ kind }) => kind !== 'same')
    .map(({ kind, pitch, laterMs, louder }) => [kind, pitch, Math.round(laterMs), louder]);

const tune: Plain[] = [60, 62, 64, 65, 67, 69, 71, 72].map((pitch, at): Plain => [at * 480, pitch]);

describe('comparing note by note', () => {
  it('tells what is moved, missing, extra and played otherwise', () => {
    const here: Plain[] = tune.map((note) => [...note] as Plain);
    here[1] = [480 + 30 * MS, 62];
    here[3] = [1440, 65, 110];
    here.splice(5, 1);
    here.push([2000, 40]);
    expect(told(tableOf(here), tableOf(tune))).toEqual([
      ['moved', 62, 30, 0],
      ['changed', 65, 0, 30],
      ['extra', 40, 0, 0],
      ['missing', 69, 0, 0],
    ]);
  });

  it('pairs the closest first where a pitch is repeated', () => {
    const { notes } = compareNotes(tableOf([[0, 60], [480, 60]]), tableOf([[20, 60], [470, 60]]), timeline); // prettier-ignore
    expect(notes.map(({ row, other }) => [row, other])).toEqual([
      [0, 0],
      [1, 1],
    ]);
    // One was struck twice: the other has the second alone as missing.
    expect(told(tableOf([[0, 60]]), tableOf([[0, 60], [100, 60]]))).toEqual([['missing', 60, 0, 0]]); // prettier-ignore
  });

  it('slides a performance that begins elsewhere along this one, and says by how much', () => {
    const later = tune.map(([start, pitch]): Plain => [start + 3000 * MS, pitch]);
    const compared = compareNotes(tableOf(later), tableOf(tune), timeline);
    expect(compared.slidMs).toBeCloseTo(3000, 1);
    expect(compared.counts).toMatchObject({ same: 8, missing: 0, extra: 0 });
  });

  it('finds nothing between a performance and itself; what is missing one way is extra the other', () => {
    fc.assert(
      fc.property(anyNotes, anyNotes, (list, others) => {
        const table = (all: typeof list) =>
          noteTableOf([...all].sort((a, b) => a.start - b.start).map((note, id) => ({ id, ...note })));
        const [one, other] = [table(list), table(others)];
        expect(compareNotes(one, one, timeline).counts).toMatchObject({
          same: one.length,
          missing: 0,
          extra: 0,
        });
        const there = compareNotes(one, other, timeline);
        if (there.slidMs !== 0) return;
        const back = compareNotes(other, one, timeline);
        if (back.slidMs !== 0) return;
        expect(there.counts.missing).toBe(back.counts.extra);
        expect(there.counts.extra).toBe(back.counts.missing);
        expect(there.notes.filter(({ row }) => row >= 0)).toHaveLength(one.length);
        expect(there.notes.filter(({ other: row }) => row >= 0)).toHaveLength(other.length);
      }),
      { numRuns: 60 },
    );
  });
});
