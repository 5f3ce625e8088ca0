/** Time: ticks, tempo, meter, note values and grids. */
export * from './division';
export * from './tempoMap';
export * from './meterMap';
export * from './noteValue';
export * from './grid';
export * from './timeline';
export * from './search';
export * from './musicalBars';
