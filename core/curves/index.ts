/** Controllers, bend and pedal as curves of points: reading them from events, shaping them, and writing them back. */
export * from './lane';
export * from './bend';
export * from './shaping';
export * from './pedal';
export * from './writeLanes';
export * from './channelState';
