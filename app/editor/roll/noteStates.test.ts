import { createNoteStates } from './noteStates';
import { viewNotes } from '../testing/notes';

const notes = viewNotes([
  [0, 400, 60],
  [480, 880, 64],
  [960, 1360, 67],
]);

describe('marks of the editor', () => {
  it('tells the rows of selected notes, the one the keyboard stands on, and the span of two or more', () => {
    const states = createNoteStates();
    states.read(notes);
    states.select(new Set([100]), 100, notes);
    expect(states.now()).toMatchObject({ focused: 0, selectionSpan: null });
    states.select(new Set([101, 102]), null, notes);
    expect([...states.now().selected]).toEqual([0, 1, 1]);
    expect(states.now()).toMatchObject({ focused: -1, selectionSpan: { from: 480, to: 1360 } });
  });

  it('follows the notes by id when the view changes, and forgets those that went', () => {
    const states = createNoteStates();
    states.select(new Set([101, 102]), 102, notes);
    states.light('step', new Set([100]), notes);
    const fewer = {
      ...notes,
      length: 2,
      id: Float64Array.of(102, 100),
      start: Float64Array.of(0, 10),
      end: Float64Array.of(5, 20),
    };
    states.read(fewer);
    expect([...states.now().selected]).toEqual([1, 0]);
    expect(states.now()).toMatchObject({ focused: 0, selectionSpan: null, litStep: 'step' });
    expect([...(states.now().lit ?? [])]).toEqual([0, 1]);
    states.light(null, new Set(), fewer);
    states.read(null);
    expect(states.now()).toMatchObject({ lit: null, litStep: null, focused: -1 });
  });
});
