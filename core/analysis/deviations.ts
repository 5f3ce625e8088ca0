import type { NoteTable } from '../model';
import { createGrid, nearestLines, ticksToSeconds, type NoteValue, type Timeline } from '../time';

/** Mean and standard deviation (of the population). */
export function momentsOf(values: Float64Array): { mean: number; deviation: number } {
  let sum = 0;
  for (const value of values) sum += value;
  const mean = sum / values.length;
  let squares = 0;
  for (const value of values) squares += (value - mean) ** 2;
  return { mean, deviation: Math.sqrt(squares / values.length) };
}

/** How late each note is against the nearest line (early below 0) in milliseconds, and that line. */
export function deviationsMs(notes: NoteTable, grid: NoteValue, { meter, tempo }: Timeline, swing = 50) {
  const lines = new Float64Array(notes.length);
  nearestLines(createGrid(meter, [grid], swing), notes.start, lines);
  const ms = notes.start.map(
    (start, row) => 1000 * (ticksToSeconds(tempo, start) - ticksToSeconds(tempo, lines[row])),
  );
  return { ms, lines };
}
