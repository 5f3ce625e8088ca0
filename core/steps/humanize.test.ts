import { MS, run, column, rows } from '../testing/stepBench';
import { createStep, type Step } from '.';

describe('humanize', () => {
  const many = Array.from({ length: 8000 }, (_, index) => ({
    start: 4000 + index * 240,
    end: 4100 + index * 240,
    velocity: 64,
  }));
  const moves = (step: Step) =>
    column(run(many, step), 'start').map((start, index) => (start - many[index].start) / MS);
  const meanOf = (list: number[]) => list.reduce((sum, value) => sum + value, 0) / list.length;
  const deviationOf = (list: number[]) =>
    Math.sqrt(list.reduce((sum, value) => sum + (value - meanOf(list)) ** 2, 0) / list.length);
  const correlation = (list: number[], lag: number) => {
    const mean = meanOf(list);
    let [top, bottom] = [0, 0];
    list.forEach((value, index) => {
      bottom += (value - mean) ** 2;
      if (index + lag < list.length) top += (value - mean) * (list[index + lag] - mean);
    });
    return top / bottom;
  };

  it('has the mean and deviation asked for, within sampling error and the cut-off', () => {
    const list = moves(createStep('humanize', { timingMs: 10, seed: 7 }));
    // Standard error of the mean 10/sqrt(8000) = 0.11; the cut at 2.5 deviations takes some 2 % off the deviation.
    expect(Math.abs(meanOf(list))).toBeLessThan(0.45);
    expect(deviationOf(list)).toBeGreaterThan(9.5);
    expect(deviationOf(list)).toBeLessThan(10.2);
    expect(Math.max(...list.map(Math.abs))).toBeLessThanOrEqual(25.0001);
    const velocities = column(run(many, createStep('humanize', { velocity: 6, seed: 7 })), 'velocity');
    expect(deviationOf(velocities)).toBeGreaterThan(5.6);
    expect(deviationOf(velocities)).toBeLessThan(6.2);
  });

  it('wanders with drift and is independent without', () => {
    const own = moves(createStep('humanize', { timingMs: 10, seed: 3 }));
    const wandering = moves(createStep('humanize', { timingMs: 10, drift: 100, seed: 3 }));
    expect(Math.abs(correlation(own, 1))).toBeLessThan(0.05);
    expect(correlation(wandering, 1)).toBeGreaterThan(0.8);
    expect(correlation(wandering, 8)).toBeGreaterThan(correlation(wandering, 80));
    expect(deviationOf(wandering)).toBeGreaterThan(8);
    expect(deviationOf(wandering)).toBeLessThan(11);
  });

  it('is the same for the same seed and notes, and other for another seed', () => {
    const step = createStep('humanize', { timingMs: 10, velocity: 5, lengthPct: 10, drift: 50, seed: 9 });
    expect(rows(run(many.slice(0, 50), step))).toEqual(rows(run(many.slice(0, 50), step)));
    expect(rows(run(many.slice(0, 50), step))).not.toEqual(
      rows(run(many.slice(0, 50), { ...step, seed: 10 })),
    );
  });
});
