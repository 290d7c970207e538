import { applyHomography, type Homography, type Point } from '../../../core/geometry/homography.ts';
import type { Size } from '../../../core/image/rect.ts';
import { photoToScreen, type Viewport } from '../../features/bench/photo/viewport.ts';

/** A picture in perspective is drawn as so many cells in each direction, each by two triangles. */
const CELLS = 14;

/** Draws a small picture of a photo of the given size as the map carries it, in CSS px. */
export function paintWarped(
  context: CanvasRenderingContext2D,
  bitmap: ImageBitmap,
  photo: Size,
  map: Homography,
  view: Viewport,
): void {
  const isFlat = map[6] === 0 && map[7] === 0;
  const cells = isFlat ? 1 : CELLS;
  const at = (u: number, v: number): Point =>
    photoToScreen(view, applyHomography(map, (u / cells) * photo.width, (v / cells) * photo.height));
  for (let v = 0; v < cells; v++) {
    for (let u = 0; u < cells; u++) {
      const corners = [at(u, v), at(u + 1, v), at(u + 1, v + 1), at(u, v + 1)] as const;
      paintTriangle(context, bitmap, cells, u, v, corners, false);
      paintTriangle(context, bitmap, cells, u, v, corners, true);
    }
  }
}

function paintTriangle(
  context: CanvasRenderingContext2D,
  bitmap: ImageBitmap,
  cells: number,
  u: number,
  v: number,
  [topLeft, topRight, bottomRight, bottomLeft]: readonly [Point, Point, Point, Point],
  lower: boolean,
): void {
  const [width, height] = [bitmap.width / cells, bitmap.height / cells];
  // The upper triangle spans from the top left corner, the lower one from the bottom right, turned by half.
  const origin = lower ? bottomRight : topLeft;
  const [alongX, alongY] = lower ? [bottomLeft, topRight] : [topRight, bottomLeft];
  const sign = lower ? -1 : 1;
  const a = (sign * (alongX.x - origin.x)) / width;
  const b = (sign * (alongX.y - origin.y)) / width;
  const c = (sign * (alongY.x - origin.x)) / height;
  const d = (sign * (alongY.y - origin.y)) / height;
  const [sourceX, sourceY] = [(lower ? u + 1 : u) * width, (lower ? v + 1 : v) * height];
  context.save();
  context.beginPath();
  // A little larger than it is, so that no hairline shows between neighbours.
  const middle = { x: (origin.x + alongX.x + alongY.x) / 3, y: (origin.y + alongX.y + alongY.y) / 3 };
  for (const corner of [origin, alongX, alongY]) {
    const [dx, dy] = [corner.x - middle.x, corner.y - middle.y];
    const grown = 1 + 0.8 / (Math.hypot(dx, dy) || 1);
    context.lineTo(middle.x + dx * grown, middle.y + dy * grown);
  }
  context.clip();
  context.transform(a, b, c, d, origin.x - a * sourceX - c * sourceY, origin.y - b * sourceX - d * sourceY);
  context.drawImage(bitmap, 0, 0);
  context.restore();
}
