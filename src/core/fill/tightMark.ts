import type { RasterImage } from '../image/rasterImage.ts';
import { inflate, intersect, wholeOf } from '../image/rect.ts';
import { boundsOf, type Mask } from '../mask/mask.ts';

/** How deep inside the mark its content is looked at, and how far outside the surroundings, in px. */
const INSIDE_PX = 5;
const FARTHEST_PX = 22;
/** Content and surroundings that differ less (levels, all channels) tell nothing. */
const SMALLEST_DIFFERENCE = 70;
/** So much more often than a little farther out must the photo at the rim be like the mark's content. */
const SMALLEST_SURPLUS = 0.2;
const FEWEST_PLACES = 12;
const SLACK_PX = 2;
/** Of a larger mark every so-manyth pixel is looked at, so that there are about so many across. */
const PLACES_ACROSS = 100;
/** Places lie outside the mark, so many px from it at most. */
const RIM_PX = 2;

/**
 * By how many px a mark should grow so that nothing of the thing it is meant to take out stays outside: 0 where it is
 * wide enough. At places along the rim the photo is followed outward: where just outside it is still like just inside,
 * and then changes for good, the mark cuts the thing. Texture looks like that by chance, so the same is counted one
 * stretch farther out, where no thing is cut. `image` is the untouched photo, `box` holds the mark.
 */
export function tightMarkGrowth(image: RasterImage, mark: Mask, box = boundsOf(mark)): number {
  // Nothing farther out than two stretches is looked at.
  const near = intersect(inflate(box, 2 * FARTHEST_PX + 2), wholeOf(image));
  const { width, height } = near;
  const outward = (x: number, y: number): number =>
    squaredDistanceNear(
      mark,
      Math.max(near.x, Math.min(near.x + width - 1, x)),
      Math.max(near.y, Math.min(near.y + height - 1, y)),
      2 * RIM_PX,
    );
  const stride = Math.max(1, Math.floor(Math.min(width, height) / PLACES_ACROSS));
  const reaches: number[] = [];
  const rim = { places: 0, alike: 0 };
  const beyond = { places: 0, alike: 0 };
  for (let y = near.y + stride; y < near.y + height - stride; y += stride) {
    for (let x = near.x + stride; x < near.x + width - stride; x += stride) {
      const d = squaredDistanceNear(mark, x, y, RIM_PX);
      if (d < 1 || d > RIM_PX ** 2) continue;
      // The direction away from the mark, over a few px.
      const dx = outward(x + RIM_PX, y) - outward(x - RIM_PX, y);
      const dy = outward(x, y + RIM_PX) - outward(x, y - RIM_PX);
      const length = Math.hypot(dx, dy);
      if (length === 0) continue;
      const line: Line = { image, mark, x, y, dx: dx / length, dy: dy / length };
      const reach = reachAlong(line, 0);
      if (reach !== undefined) {
        rim.places++;
        if (reach > 0) {
          rim.alike++;
          reaches.push(reach);
        }
      }
      const byChance = reachAlong(line, FARTHEST_PX);
      if (byChance !== undefined) {
        beyond.places++;
        if (byChance > 0) beyond.alike++;
      }
    }
  }
  const chance = beyond.alike / Math.max(1, beyond.places);
  if (reaches.length < FEWEST_PLACES || rim.alike / rim.places < chance + SMALLEST_SURPLUS) return 0;
  reaches.sort((a, b) => a - b);
  return reaches[Math.floor(0.9 * (reaches.length - 1))]! + SLACK_PX;
}

/** Squared distance to the mark, in px, where it lies within a square of `reach` px to each side; else infinite. */
function squaredDistanceNear({ width, height, data }: Mask, x: number, y: number, reach: number): number {
  let nearest = Infinity;
  for (let v = Math.max(0, y - reach); v <= Math.min(height - 1, y + reach); v++) {
    for (let u = Math.max(0, x - reach); u <= Math.min(width - 1, x + reach); u++) {
      const squared = (u - x) ** 2 + (v - y) ** 2;
      if (squared < nearest && data[v * width + u]! >= 128) nearest = squared;
    }
  }
  return nearest;
}

/** A straight way out of a mark, from (x, y) at its rim. */
interface Line {
  image: RasterImage;
  mark: Mask;
  x: number;
  y: number;
  dx: number;
  dy: number;
}

/**
 * How far, from `from` on, the photo stays more like what lies just before than like what lies a stretch ahead;
 * undefined where those two are too alike or the way leaves the picture or meets the mark again.
 */
function reachAlong({ image, mark, x, y, dx, dy }: Line, from: number): number | undefined {
  const { width, height, data } = image;
  const at = (distance: number): number | undefined => {
    const px = Math.round(x + dx * (from + distance));
    const py = Math.round(y + dy * (from + distance));
    return px >= 0 && py >= 0 && px < width && py < height ? py * width + px : undefined;
  };
  const before = at(-INSIDE_PX);
  const ahead = at(FARTHEST_PX);
  if (before === undefined || ahead === undefined || mark.data[ahead]) return undefined;
  if (from === 0 && !mark.data[before]) return undefined;
  if (difference(data, before, ahead) < SMALLEST_DIFFERENCE) return undefined;
  for (let d = 0; d < FARTHEST_PX; d++) {
    const here = at(d)!;
    if (difference(data, here, before) > difference(data, here, ahead)) return d;
  }
  return FARTHEST_PX;
}

/** Summed absolute difference over the three channels. */
function difference(data: Uint8ClampedArray, i: number, j: number): number {
  let sum = 0;
  for (let c = 0; c < 3; c++) sum += Math.abs(data[4 * i + c]! - data[4 * j + c]!);
  return sum;
}
