import {
  actionOfKey,
  inserted,
  lined,
  pasted,
  reshaped,
  textOfSelection,
  valued,
  type LaneAction,
} from './curveKeys';
import { laneOf } from '../testing/lane';

const THREE: [number, number][] = [[0, 20], [480, 60], [960, 100]]; // prettier-ignore
const PRESSED: [number, number][] = [[480, 100], [960, 0], [1440, 127], [1920, 0]]; // prettier-ignore

const press = (key: string, held: Partial<KeyboardEvent> = {}) =>
  ({ key, shiftKey: false, ctrlKey: false, metaKey: false, altKey: false, ...held }) as KeyboardEvent;
function laneWith(list: [number, number][], rows: number[], lane = 'cc11', playTick = 0) {
  const made = laneOf(list, lane);
  made.target.select(rows);
  return { target: made.target, pedal: lane === 'cc64', playTick: () => playTick };
}
const points = (action: unknown) =>
  (action as LaneAction).edits.flatMap(({ points: list }) => list.map(({ at, value }) => [at, value]));

describe('keys in a lane', () => {
  it('move what is selected by a grid unit or a unit, with Shift by a tick or ten', () => {
    const keys = laneWith(THREE, [1]);
    expect(points(actionOfKey(keys, press('ArrowRight')))).toEqual([[600, 60]]); // prettier-ignore
    expect(points(actionOfKey(keys, press('ArrowLeft', { shiftKey: true })))).toEqual([[479, 60]]); // prettier-ignore
    expect(points(actionOfKey(keys, press('ArrowUp')))).toEqual([[480, 61]]); // prettier-ignore
    expect(points(actionOfKey(keys, press('ArrowDown', { shiftKey: true })))).toEqual([[480, 50]]); // prettier-ignore
    // Nothing goes before the start of the music.
    expect(points(actionOfKey(laneWith(THREE, [0, 1]), press('ArrowLeft')))).toEqual([[0, 20], [480, 60]]); // prettier-ignore
  });

  it('give a value to all that is selected, or shift each within the lane', () => {
    const keys = laneWith(THREE, [0, 2]);
    const typed = (relative: boolean, value: number) => points(valued(keys, { relative, value }));
    expect(typed(false, 40)).toEqual([[0, 40], [480, 60], [960, 40]]); // prettier-ignore
    expect(typed(true, 10)).toEqual([[0, 30], [480, 60], [960, 110]]); // prettier-ignore
    expect(typed(true, -50)).toEqual([[0, 0], [480, 60], [960, 50]]); // prettier-ignore
    expect(valued(keys, { relative: true, value: 10 })?.selected).toEqual([{ at: 0, value: 30 }, { at: 960, value: 110 }]); // prettier-ignore
    const pedal = laneWith(PRESSED, [0, 2], 'cc64');
    expect(points(valued(pedal, { relative: true, value: -30 }))).toEqual([[480, 70], [960, 0], [1440, 97], [1920, 0]]); // prettier-ignore
    expect(valued(laneWith(THREE, []), { relative: false, value: 4 })).toBeNull();
  });

  it('select all or none, delete, and repeat by whole bars', () => {
    const keys = laneWith(THREE, [1, 2]);
    expect(actionOfKey(keys, press('a', { ctrlKey: true }))).toBe('all');
    expect(actionOfKey(keys, press('Escape'))).toBe('none');
    expect(actionOfKey(keys, press('Delete'))).toMatchObject({
      label: 'Delete 2 points in expression (11)',
      edits: [{ from: 480, to: 960, points: [] }],
    });
    expect(points(actionOfKey(keys, press('d', { metaKey: true })))).toEqual([
      [2400, 60],
      [2880, 100],
    ]);
    // What is none of the lane's goes on to the notes.
    for (const key of [press('q'), press('Delete', { shiftKey: true }), press('ArrowUp', { altKey: true })])
      expect(actionOfKey(keys, key)).toBeNull();
    expect(actionOfKey(laneWith(THREE, []), press('ArrowUp'))).toBeNull();
  });

  it('work on whole presses in a pedal lane; X splits at the play line', () => {
    const keys = laneWith(PRESSED, [2, 3], 'cc64', 700);
    expect(actionOfKey(keys, press('Backspace'))).toMatchObject({
      label: 'Delete a press of the pedal',
      edits: [{ from: 1440, to: 1920, points: [] }],
    });
    expect(points(actionOfKey(keys, press('ArrowRight')))).toEqual([
      [1560, 127],
      [2040, 0],
    ]);
    // A press is made deeper or less deep; its release stays.
    expect(points(actionOfKey(keys, press('ArrowDown')))).toEqual([
      [1440, 126],
      [1920, 0],
    ]);
    // 60 ms at 120 are 57.6 ticks of 480 a quarter.
    expect(points(actionOfKey(keys, press('x')))).toEqual([
      [700, 0],
      [758, 100],
    ]);
    expect(actionOfKey(laneWith(PRESSED, [], 'cc64', 1200), press('x'))).toBeNull();
  });
});

describe('a line by key', () => {
  it('lies from the play line on for a bar, at what holds there, and takes another shape', () => {
    const keys = laneWith(THREE, [], 'cc11', 600);
    const { label, edits } = lined(keys);
    expect(label).toBe('Draw a line in expression (11)');
    const [{ line }] = edits;
    expect(line).toMatchObject({ from: { at: 600, value: 60 }, to: { at: 2520, value: 60 } });
    if (!line) throw new Error('no line');
    const next = { ...line, to: { at: 2520, value: 100 }, through: { at: 1560, value: 80 } };
    const made = reshaped(keys, line, next);
    expect(made.label).toBe('Shape a line in expression (11)');
    expect(made.edits[0].line?.to).toEqual({ at: 2520, value: 100 });
    expect(points(made).findLast(([at]) => at <= 1570)?.[1]).toBe(80);
  });

  it('and a point in an empty lane begin at what an untouched controller has', () => {
    const keys = laneWith([], [], 'cc11', 600);
    const { target } = keys;
    const untouched = { ...keys, target: { ...target, view: () => ({ ...target.view(), resting: 127 }) } };
    expect(points(inserted(untouched))).toEqual([[600, 127]]);
    expect(lined(untouched).edits[0].line?.from.value).toBe(127);
  });
});

describe('the clipboard of a lane', () => {
  it('takes points and presses to the play line, in any lane', () => {
    const text = textOfSelection(laneWith(PRESSED, [2, 3], 'cc64')) ?? '';
    expect(points(pasted(laneWith(PRESSED, [], 'cc64', 3000), text))).toEqual([
      [3000, 127],
      [3480, 0],
    ]);
    const action = pasted(laneWith(THREE, [], 'cc11', 96), text);
    expect(action.label).toBe('Paste 2 points in expression (11)');
    expect(action.selected).toEqual([{ at: 96, value: 127 }, { at: 576, value: 0 }]); // prettier-ignore
    expect(textOfSelection(laneWith(THREE, []))).toBeNull();
    expect(() => pasted(laneWith(THREE, []), 'words')).toThrow('no points on the clipboard');
  });
});
