import { overlapsOf } from './partsGeometry';

test('blocks that lie over each other are found, however many; those that touch are not', () => {
  const blocks = (...list: [number, number][]) => list.map(([start, end]) => ({ start, end }));
  expect(overlapsOf(blocks([0, 10], [10, 20]))).toEqual([]);
  expect(overlapsOf(blocks([5, 15], [0, 10]))).toEqual([[5, 10]]);
  expect(overlapsOf(blocks([0, 30], [5, 10], [8, 12], [20, 25]))).toEqual([
    [5, 12],
    [20, 25],
  ]);
  expect(overlapsOf([])).toEqual([]);
});
