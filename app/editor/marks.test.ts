import { createMarks } from './marks';
import { viewNotes } from './testing/notes';

const notes = viewNotes([
  [0, 400, 60],
  [480, 880, 64],
  [960, 1360, 67],
]);

describe('marks of the editor', () => {
  it('tells the rows of selected notes, the one the keyboard stands on, and the span of two or more', () => {
    const marks = createMarks();
    marks.read(notes);
    marks.select(new Set([100]), 100, notes);
    expect(marks.now()).toMatchObject({ focused: 0, selectionSpan: null });
    marks.select(new Set([101, 102]), null, notes);
    expect([...marks.now().selected]).toEqual([0, 1, 1]);
    expect(marks.now()).toMatchObject({ focused: -1, selectionSpan: { from: 480, to: 1360 } });
  });

  it('follows the notes by id when the view changes, and forgets those that went', () => {
    const marks = createMarks();
    marks.select(new Set([101, 102]), 102, notes);
    marks.light('step', new Set([100]), notes);
    const fewer = {
      ...notes,
      length: 2,
      id: Float64Array.of(102, 100),
      start: Float64Array.of(0, 10),
      end: Float64Array.of(5, 20),
    };
    marks.read(fewer);
    expect([...marks.now().selected]).toEqual([1, 0]);
    expect(marks.now()).toMatchObject({ focused: 0, selectionSpan: null, litStep: 'step' });
    expect([...(marks.now().lit ?? [])]).toEqual([0, 1]);
    marks.light(null, new Set(), fewer);
    marks.read(null);
    expect(marks.now()).toMatchObject({ lit: null, litStep: null, focused: -1 });
  });
});
