import { paintHarmony } from './harmonyLane';
import { paintGutter, paintOverview, paintRuler } from './paintFrame';
import { paintGrid } from './paintGrid';
import { paintLane } from './paintLane';
import { paintNotes, paintOverlay } from './paintNotes';
import { paintSpans } from './paintSpans';
import type { Scene } from './scene';

/** Everything that depends on the part, the window and the choice: the lower of the two canvases. */
export function paintBase(context: CanvasRenderingContext2D, scene: Scene, endTick: number) {
  context.setTransform(scene.pixelRatio, 0, 0, scene.pixelRatio, 0, 0);
  paintGrid(context, scene);
  paintNotes(context, scene);
  paintLane(context, scene);
  paintHarmony(context, scene);
  paintRuler(context, scene);
  paintSpans(context, scene);
  paintGutter(context, scene);
  paintOverview(context, scene, endTick);
}

/** What changes while only the pointer or a box moves: the upper canvas. */
export function paintAbove(context: CanvasRenderingContext2D, scene: Scene) {
  context.setTransform(scene.pixelRatio, 0, 0, scene.pixelRatio, 0, 0);
  context.clearRect(0, 0, scene.layout.width, scene.layout.height);
  paintOverlay(context, scene);
}
