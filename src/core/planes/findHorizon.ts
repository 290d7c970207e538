import type { RasterImage } from '../image/rasterImage.ts';
import { reduceLuma } from './reduceLuma.ts';
import { MIN_CONTRAST } from './planeDirections.ts';
import { findLineSegments } from './lineSegments.ts';
import { findVanishingPoints } from './vanishingPoints.ts';

const WORK_SIDE_PX = 900;
const MAX_SEGMENTS = 600;
const SOUGHT = { fewest: 5, share: 0.08, most: 4 };
/** Vanishing points that lie this many picture heights above or below the picture are those of upright edges. */
const FARTHEST = 0.3;
/** A point so far to the side, in picture widths, tells nothing exact of the height. */
const FARTHEST_ASIDE = 6;
const SEED = 1;

/**
 * The height of a level camera's horizon, in px from the picture's top, from the vanishing points of level edges (the
 * mean of their heights, weighted by the edges that run there); undefined where the picture has none, or edges that meet
 * by chance only. It may lie
 * outside the picture. R. Hartley, A. Zisserman: Multiple View Geometry, 2004, section 8.6.
 */
export function findHorizon(image: RasterImage): number | undefined {
  const factor = Math.max(1, Math.ceil(Math.max(image.width, image.height) / WORK_SIDE_PX));
  const nothing = new Uint8Array(image.width * image.height);
  const { luma, hole, width, height } = reduceLuma(image, nothing, factor);
  const segments = findLineSegments(luma, hole, width, height, MAX_SEGMENTS);
  const centre = { x: width / 2, y: height / 2 };
  const scale = Math.max(width, height);
  let sum = 0;
  let weight = 0;
  for (const { point, share, contrast } of findVanishingPoints(segments, centre, scale, SEED, SOUGHT)) {
    if (contrast < MIN_CONTRAST) continue;
    const [x, y, w] = point;
    if (Math.abs(w) < 1e-6) continue;
    const [px, py] = [centre.x + (scale * x) / w, centre.y + (scale * y) / w];
    if (Math.abs(px - centre.x) > FARTHEST_ASIDE * width) continue;
    if (py < -FARTHEST * height || py > (1 + FARTHEST) * height) continue;
    sum += share * py;
    weight += share;
  }
  return weight > 0 ? (factor * sum) / weight : undefined;
}
