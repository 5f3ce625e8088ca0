import fc from 'fast-check';
import { LAYOUT as layout } from '../testing/layout';
import {
  clampWindow,
  fitWindow,
  pitchAt,
  rollWidth,
  tickAt,
  xOf,
  yOf,
  zoomPitch,
  zoomTime,
} from './geometry';

const anyWindow = fc.record({
  tick: fc.integer({ min: -100, max: 100000 }),
  ticksPerPixel: fc.double({ min: 0.05, max: 200, noNaN: true }),
  topPitch: fc.double({ min: 20, max: 127, noNaN: true }),
  rowHeight: fc.double({ min: 3, max: 28, noNaN: true }),
});

describe('geometry', () => {
  it('turns places into ticks and pitches and back', () => {
    fc.assert(
      fc.property(anyWindow, fc.nat(100000), fc.nat(127), (window, tick, pitch) => {
        expect(tickAt(xOf(tick, window, layout), window, layout)).toBeCloseTo(tick, 4);
        expect(pitchAt(yOf(pitch, window, layout) + window.rowHeight / 2, window, layout)).toBe(pitch);
      }),
    );
  });

  it('zooms around the pointer', () => {
    fc.assert(
      fc.property(
        anyWindow,
        fc.integer({ min: 46, max: 900 }),
        fc.double({ min: 0.5, max: 2, noNaN: true }),
        (window, x, factor) => {
          expect(tickAt(x, zoomTime(window, layout, x, factor), layout)).toBeCloseTo(
            tickAt(x, window, layout),
            3,
          );
          const y = 60 + (x % 440);
          const place = window.topPitch - (y - 60) / window.rowHeight;
          const zoomed = zoomPitch(window, layout, y, factor);
          expect(zoomed.topPitch - (y - 60) / zoomed.rowHeight).toBeCloseTo(place, 6);
        },
      ),
    );
  });

  it('keeps the window inside the music, and clamping twice is clamping once', () => {
    fc.assert(
      fc.property(anyWindow, fc.nat(200000), (window, endTick) => {
        const clamped = clampWindow(window, layout, endTick);
        expect(clampWindow(clamped, layout, endTick)).toEqual(clamped);
        expect(clamped.tick).toBeGreaterThanOrEqual(-10 * clamped.ticksPerPixel - 1e-9);
        expect(clamped.topPitch).toBeLessThanOrEqual(127);
      }),
    );
  });

  it('fits a stretch and all its pitches', () => {
    const window = fitWindow(layout, 960, 9600, [40, 80]);
    expect(xOf(960, window, layout)).toBeGreaterThanOrEqual(layout.gutter);
    expect(xOf(9600, window, layout)).toBeLessThanOrEqual(layout.gutter + rollWidth(layout));
    expect(yOf(80, window, layout)).toBeGreaterThanOrEqual(60);
    expect(yOf(40, window, layout) + window.rowHeight).toBeLessThanOrEqual(500);
  });
});
