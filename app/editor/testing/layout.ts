import type { Layout } from '../roll/geometry';

/** A roll with nothing but its rulers and notes. */
export const LAYOUT: Layout = {
  width: 900,
  height: 500,
  gutter: 46,
  overview: 30,
  ruler: 30,
  spans: 0,
  harmony: 0,
  velocities: 0,
  rows: null,
};
