import {
  drumName,
  pitchName,
  positionAt,
  type setValues,
  tickAtPosition,
  ticksToSeconds,
  type Timeline,
  type PartView,
} from '@ordle/core';
import { parsePitch, parsePosition, parseTyped } from '@/edits/typedValues';

/** What a column needs to say something of a note. */
export interface ColumnContext {
  view: PartView;
  timeline: Timeline;
  drums: boolean;
  middleC: 3 | 4;
  time: 'bars' | 'seconds';
  /** Titles of the part's steps, in order. */
  steps: string[];
}

/** One column of the note list: its value for sorting, its words, and how typed words are taken. */
export interface NoteColumn {
  id: string;
  title: string;
  width: number;
  value(row: number, context: ColumnContext): number;
  words(row: number, context: ColumnContext): string;
  /** The field a typed value sets and how it is read; columns without it cannot be edited. */
  edit?: {
    field: Parameters<typeof setValues>[1];
    parse(text: string, context: ColumnContext): ReturnType<typeof parseTyped>;
  };
}

export function placeInWords(
  tick: number,
  { timeline, time }: Pick<ColumnContext, 'timeline' | 'time'>,
): string {
  if (time === 'seconds') return `${ticksToSeconds(timeline.tempo, tick).toFixed(3)} s`;
  const { bar, beat, tick: rest } = positionAt(timeline.meter, tick);
  return `${bar}.${beat}.${String(rest).padStart(3, '0')}`;
}

const msBetween = (from: number, to: number, { timeline }: ColumnContext) =>
  (ticksToSeconds(timeline.tempo, to) - ticksToSeconds(timeline.tempo, from)) * 1000;
const signed = (value: number) =>
  Math.abs(value) < 0.05 ? '0' : `${value > 0 ? '+' : '−'}${Math.abs(value).toFixed(1)}`;

function movedMs(row: number, context: ColumnContext): number {
  const from = context.view.playedStart?.[row] ?? NaN;
  return Number.isNaN(from) ? NaN : msBetween(from, context.view.notes.start[row], context);
}

/** The ten columns of the note list. */
export const NOTE_COLUMNS: readonly NoteColumn[] = [
  {
    id: 'start',
    title: 'start',
    width: 76,
    value: (row, { view }) => view.notes.start[row],
    words: (row, context) => placeInWords(context.view.notes.start[row], context),
    edit: {
      field: 'start',
      parse: (text, { timeline }) => parsePosition(text, (place) => tickAtPosition(timeline.meter, place)),
    },
  },
  {
    id: 'pitch',
    title: 'pitch',
    width: 84,
    value: (row, { view }) => view.notes.pitch[row],
    words: (row, { view, drums, middleC }) =>
      (drums ? drumName(view.notes.pitch[row]) : null) ?? pitchName(view.notes.pitch[row], middleC),
    edit: { field: 'pitch', parse: (text, { middleC }) => parsePitch(text, middleC) },
  },
  {
    id: 'velocity',
    title: 'velocity',
    width: 58,
    value: (row, { view }) => view.notes.velocity[row],
    words: (row, { view }) => String(Math.round(view.notes.velocity[row])),
    edit: { field: 'velocity', parse: parseTyped },
  },
  {
    id: 'length',
    title: 'length',
    width: 56,
    value: (row, { view }) => view.notes.end[row] - view.notes.start[row],
    words: (row, { view }) => String(Math.round(view.notes.end[row] - view.notes.start[row])),
    edit: { field: 'length', parse: parseTyped },
  },
  {
    id: 'end',
    title: 'end',
    width: 76,
    value: (row, { view }) => view.notes.end[row],
    words: (row, context) => placeInWords(context.view.notes.end[row], context),
  },
  {
    id: 'channel',
    title: 'channel',
    width: 58,
    value: (row, { view }) => view.channel[row],
    words: (row, { view }) => String(view.channel[row] + 1),
    edit: { field: 'channel', parse: parseTyped },
  },
  {
    id: 'played',
    title: 'as played',
    width: 76,
    value: (row, { view }) => view.playedStart?.[row] ?? NaN,
    words: (row, context) => {
      const played = context.view.playedStart?.[row] ?? NaN;
      return Number.isNaN(played) ? 'added' : placeInWords(played, context);
    },
  },
  {
    id: 'moved',
    title: 'moved ms',
    width: 70,
    value: movedMs,
    words: (row, context) => (Number.isNaN(movedMs(row, context)) ? '' : signed(movedMs(row, context))),
  },
  {
    id: 'late',
    title: 'late ms',
    width: 64,
    value: (row, { view }) => view.late[row],
    words: (row, { view }) => signed(view.late[row]),
  },
  {
    id: 'steps',
    title: 'touched by',
    width: 112,
    value: (row, { view }) => view.touchedBy?.[row] ?? 0,
    words: (row, { view, steps }) =>
      steps.filter((_, index) => ((view.touchedBy?.[row] ?? 0) >> index) & 1).join(', '),
  },
];

/** Rows in the order of a column; rows without a value come last. Equal rows stay in order of time. */
export function orderedRows(column: NoteColumn, descending: boolean, context: ColumnContext): Uint32Array {
  const { length } = context.view.notes;
  const rows = new Uint32Array(length);
  for (let row = 0; row < length; row++) rows[row] = row;
  if (column.id === 'start' && !descending) return rows;
  const keys = Float64Array.from(rows, (row) => {
    const value = column.value(row, context);
    return Number.isNaN(value) ? Infinity : descending ? -value : value;
  });
  return rows.sort((a, b) => keys[a] - keys[b] || a - b);
}
