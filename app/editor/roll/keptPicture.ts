/**
 * A picture that is painted once and shown again until what it was made of changes: what stays the same at every
 * frame of a gesture costs a frame one drawing then, however many boxes it has. Each caller keeps one of its own.
 */
export function createKeptPicture() {
  let canvas: HTMLCanvasElement | null = null;
  let madeOf: readonly unknown[] = [];

  /**
   * Shows the picture at the top left corner, `width` by `height` CSS pixels; `paint` makes it anew where `of`
   * differs from the last time.
   */
  return function show(
    context: CanvasRenderingContext2D,
    size: { width: number; height: number; pixelRatio: number },
    of: readonly unknown[],
    paint: (context: CanvasRenderingContext2D) => void,
  ) {
    const key = [size.width, size.height, size.pixelRatio, ...of];
    const [width, height] = [size.width * size.pixelRatio, size.height * size.pixelRatio].map(Math.ceil);
    canvas ??= document.createElement('canvas');
    const kept = canvas.getContext('2d', { alpha: false });
    // Where there is no room for another canvas, it is painted in place.
    if (!kept) return paint(context);
    if (key.length !== madeOf.length || key.some((value, at) => value !== madeOf[at])) {
      [canvas.width, canvas.height] = [width, height];
      kept.setTransform(size.pixelRatio, 0, 0, size.pixelRatio, 0, 0);
      paint(kept);
      madeOf = key;
    }
    context.drawImage(canvas, 0, 0, width / size.pixelRatio, height / size.pixelRatio);
  };
}
