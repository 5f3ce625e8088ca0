import fc from 'fast-check';
import { orderByTick } from './orderByTick';

/** Ticks as files have them: some close together, crowds at one, and now and then one far away. */
const ticks = fc.array(
  fc.oneof(fc.nat(50), fc.constant(960), fc.nat(100_000), fc.constantFrom(0, 2 ** 31, 2 ** 33 + 1)),
  { maxLength: 400 },
);
/** Another order among equals, which some rows share. */
const orderOf = (row: number) => (row % 3) * 50;
const all = (length: number) => Uint32Array.from({ length }, (_, row) => row);

describe('rows in order of their ticks', () => {
  it('are in the order a plain sort puts them in', () => {
    fc.assert(
      fc.property(ticks, fc.nat(400), (list, own) => {
        const places = Math.min(list.length, own);
        const key = Float64Array.from(list);
        const order = Float64Array.from(list.slice(places), (_, at) => orderOf(places + at));
        const rows = orderByTick(all(list.length), { key, places, order });
        const placeOf = (row: number) => (row < places ? row : orderOf(row));
        const plain = [...list.keys()].sort((a, b) => list[a] - list[b] || placeOf(a) - placeOf(b) || a - b);
        expect([...rows]).toEqual(plain);
      }),
    );
  });

  it('come soon whether all stand at one tick, in one crowd beside one far away, or fall', () => {
    const count = 300_000;
    for (const tickOf of [
      () => 7,
      (row: number) => (row === 0 ? 2 ** 32 : row % 1000),
      (row: number) => count - row,
    ]) {
      const tick = Float64Array.from({ length: count }, (_, row) => tickOf(row));
      const rows = orderByTick(all(count), { key: tick, places: count, order: new Float64Array(0) });
      for (let at = 1; at < count; at++)
        if (tick[rows[at]] < tick[rows[at - 1]]) throw new Error(`row ${rows[at]} comes too late`);
    }
  });
});
