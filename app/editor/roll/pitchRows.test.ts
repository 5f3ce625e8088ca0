import fc from 'fast-check';
import { LAYOUT } from '../testing/notes';
import { fitWindow, pitchAt, rollHeight, rollTop, rowHeightOf, yOf, zoomPitch } from './geometry';
import { heightAt, pitchRowsFor, placeAt } from './pitchRows';

const used = (pitches: readonly number[]) =>
  Uint8Array.from({ length: 128 }, (_, at) => +pitches.includes(at));
const KIT = [36, 38, 42, 46, 49];
const layout = { ...LAYOUT, rows: pitchRowsFor([used(KIT)]) };
const anyWindow = fc.record({
  tick: fc.constant(0),
  ticksPerPixel: fc.constant(4),
  topPitch: fc.double({ min: 30, max: 127, noNaN: true }),
  rowHeight: fc.double({ min: 3, max: 28, noNaN: true }),
});

test('rows of pieces nobody strikes are low, and each place on the canvas is of the row it lies in', () => {
  fc.assert(
    fc.property(anyWindow, fc.integer({ min: 0, max: 127 }), (window, pitch) => {
      const height = rowHeightOf(pitch, window, layout);
      expect(height / window.rowHeight).toBeCloseTo(KIT.includes(pitch) ? 1 : 0.3);
      expect(pitchAt(yOf(pitch, window, layout) + height / 2, window, layout)).toBe(pitch);
      expect(yOf(pitch, window, layout) + height).toBeCloseTo(yOf(pitch - 1, window, layout));
    }),
  );
});

test('height and place are inverse, beyond the keyboard too', () => {
  fc.assert(
    fc.property(fc.double({ min: -20, max: 150, noNaN: true }), (place) => {
      expect(placeAt(layout.rows, heightAt(layout.rows, place))).toBeCloseTo(place, 9);
    }),
  );
});

test('zooming keeps the row under the pointer', () => {
  fc.assert(
    fc.property(
      anyWindow,
      fc.integer({ min: 70, max: 500 }),
      fc.double({ min: 0.5, max: 2, noNaN: true }),
      (window, y, factor) => {
        const under = (shown: Pick<typeof window, 'topPitch' | 'rowHeight'>) =>
          heightAt(layout.rows, shown.topPitch + 1) - (y - rollTop(layout)) / shown.rowHeight;
        expect(under(zoomPitch(window, layout, y, factor))).toBeCloseTo(under(window), 6);
      },
    ),
  );
});

test('a kit fits with rows of full height where all pitches alike would not', () => {
  const even = fitWindow(LAYOUT, 0, 1000, [36, 49]);
  const own = fitWindow({ ...layout, height: 330 }, 0, 1000, [36, 49]);
  const evenLow = fitWindow({ ...LAYOUT, height: 330 }, 0, 1000, [36, 49]);
  expect(own.rowHeight).toBeGreaterThan(1.5 * evenLow.rowHeight);
  expect(even.rowHeight).toBe(18);
  for (const pitch of KIT) {
    const y = yOf(pitch, own, layout);
    expect(y).toBeGreaterThanOrEqual(rollTop(layout));
    expect(y).toBeLessThan(rollTop(layout) + rollHeight({ ...layout, height: 330 }));
  }
  expect(pitchRowsFor([used([])])).toBeNull();
});
