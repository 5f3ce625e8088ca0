import { createTimeline, type PartView } from '@ordle/core';
import { viewNotes } from '@/editor/testing/notes';
import { NOTE_COLUMNS, orderedRows, type ColumnContext } from './noteColumns';

const timeline = createTimeline({ kind: 'metrical', ticksPerQuarter: 480 }, [], []);
const notes = viewNotes([
  [0, 240, 60, 90],
  [480, 600, 64, 40],
  [960, 1000, 62, 70],
]);
const view: PartView = {
  partId: 'p',
  stop: 2,
  notes,
  traceStart: null,
  traceEnd: null,
  late: Float32Array.from([0, 12.4, -3]),
  measuredBy: [],
  playedBy: '1/16',
  offMs: [],
  reading: null,
  changes: [],
  values: null,
  lanes: [],
  curve: null,
  rings: null,
  lanesThere: [],
  pulledTo: null,
  endTick: 1000,
  channel: Uint8Array.from([0, 0, 9]),
  playedStart: Float64Array.from([0, 432, NaN]),
  touchedBy: Uint32Array.from([0, 1, 2]),
  dropped: null,
  lostEdits: [],
  sharing: [],
  squeezed: 0,
  strip: {
    before: { late: new Float32Array(1), early: new Float32Array(1) },
    after: { late: new Float32Array(1), early: new Float32Array(1) },
    reach: 20,
  },
};
const context: ColumnContext = {
  view,
  timeline,
  drums: false,
  middleC: 4,
  time: 'bars',
  steps: ['Quantize', 'Hand edits'],
};
const words = (row: number, more: Partial<ColumnContext> = {}) =>
  NOTE_COLUMNS.map((column) => column.words(row, { ...context, ...more }));

describe('the note list', () => {
  it('has ten columns that say what the editor shows', () => {
    expect(words(1)).toEqual([
      '1.2.000',
      'E4',
      '40',
      '120',
      '1.2.120',
      '1',
      '1.1.432',
      '+50.0',
      '+12.4',
      'Quantize',
    ]);
    expect(words(2)).toEqual([
      '1.3.000',
      'D4',
      '70',
      '40',
      '1.3.040',
      '10',
      'added',
      '',
      '−3.0',
      'Hand edits',
    ]);
    expect(words(1, { time: 'seconds', middleC: 3 }).slice(0, 2)).toEqual(['0.500 s', 'E3']);
  });

  it('sorts by any column both ways, rows without a value last', () => {
    const order = (id: string, descending: boolean) =>
      Array.from(
        orderedRows(NOTE_COLUMNS.find((column) => column.id === id) ?? NOTE_COLUMNS[0], descending, context),
      );
    expect(order('start', false)).toEqual([0, 1, 2]);
    expect(order('start', true)).toEqual([2, 1, 0]);
    expect(order('velocity', false)).toEqual([1, 2, 0]);
    expect(order('moved', false)).toEqual([0, 1, 2]);
    expect(order('moved', true)).toEqual([1, 0, 2]);
  });

  it('reads what is typed into it', () => {
    const typed = (id: string, text: string) =>
      NOTE_COLUMNS.find((column) => column.id === id)?.edit?.parse(text, context);
    expect(typed('start', '2.1.120')).toEqual({ relative: false, value: 2040 });
    expect(typed('pitch', 'C#3')).toEqual({ relative: false, value: 49 });
    expect(typed('velocity', '+5')).toEqual({ relative: true, value: 5 });
    expect(NOTE_COLUMNS.filter(({ edit }) => edit).map(({ id }) => id)).toEqual([
      'start',
      'pitch',
      'velocity',
      'length',
      'channel',
    ]);
  });
});
