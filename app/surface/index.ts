/**
 * A canvas with regions that paint, tell what they offer and begin gestures: under the roll, the lanes and what comes
 * after them.
 */
export { createSurface, type Surface } from './surface';
export { onNextFrame, cancelFrame } from './frames';
export { holdClipboard, type ClipboardHolder } from './clipboard';
export { reachOf } from './reach';
export type { Box, Gesture, HeldKeys, Navigation, Region } from './region';
