/** Parts along the bars: blocks of a layout, and parts that are made of other parts. */
export * from './blocks';
export * from './independent';
export * from './partsOfParts';
export * from './groups';
export * from './bringParts';
export * from './filesTogether';
export * from './takesOfFiles';
export * from './layScore';
