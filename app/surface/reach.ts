/** How near a finger has to come to what it means, in pixels: half of a place that is 44 wide. */
const FINGER = 22;

let isFinger = false;

/** Tells what a surface is pointed at with: mouse, pen or finger, as a pointer event has it. */
export function pointedBy(pointerType: string): void {
  isFinger = pointerType === 'touch';
}

/** How near the pointer has to come to a handle, a point or an edge, in pixels: `pixels`, and for a finger more. */
export const reachOf = (pixels: number): number => (isFinger ? Math.max(FINGER, pixels) : pixels);
