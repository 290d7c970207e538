import type { RasterImage } from '../image/rasterImage.ts';
import { NO_FRAME } from './assignFrames.ts';

/** A place on a seam where the two frames show different things: one of them moved, or is seen past another. */
export interface Ghost {
  /** Px of the panorama that it was looked for on. */
  x: number;
  y: number;
  frames: [number, number];
  /** Mean difference there, 8-bit levels a channel. */
  levels: number;
}

/** Differences are averaged over so many px to each side: what is only slightly off does not count. */
const REACH_PX = 2;
/** Mean difference, levels a channel, from which a place is told. */
const MIN_LEVELS = 14;
/** Places nearer to one another than this share of the longer side are one. */
const APART_SHARE = 0.04;
const MAX_GHOSTS = 9;

/**
 * The places along the seams where ghosts or cut things are to be expected, the worst first.
 *
 * @param layers each frame as it lies in the panorama, equally bright, transparent outside
 * @param labels the frame that each px was taken from, see assignFrames
 */
export function findGhosts(layers: readonly { frame: number; image: RasterImage }[], labels: Uint8Array): Ghost[] {
  const { width, height } = layers[0]!.image;
  const imageOf = new Map(layers.map(({ frame, image }) => [frame, image]));
  const found: Ghost[] = [];
  for (let y = 0; y + 1 < height; y++) {
    for (let x = 0; x + 1 < width; x++) {
      const i = y * width + x;
      const own = labels[i]!;
      const other = labels[i + 1] !== own ? labels[i + 1]! : labels[i + width]!;
      if (other === own || own === NO_FRAME || other === NO_FRAME) continue;
      const levels = differenceAround(imageOf.get(own)!, imageOf.get(other)!, x, y);
      if (levels >= MIN_LEVELS) found.push({ x, y, frames: [own, other], levels });
    }
  }
  found.sort((a, b) => b.levels - a.levels);
  const apart = APART_SHARE * Math.max(width, height);
  const told: Ghost[] = [];
  for (const ghost of found) {
    if (told.length === MAX_GHOSTS) break;
    if (told.every(({ x, y }) => Math.hypot(x - ghost.x, y - ghost.y) > apart)) told.push(ghost);
  }
  return told;
}

/** Mean difference around a px, where both show something. */
function differenceAround(a: RasterImage, b: RasterImage, x: number, y: number): number {
  const sums = [0, 0, 0];
  let count = 0;
  for (let v = Math.max(0, y - REACH_PX); v <= Math.min(a.height - 1, y + REACH_PX); v++) {
    for (let u = Math.max(0, x - REACH_PX); u <= Math.min(a.width - 1, x + REACH_PX); u++) {
      const i = 4 * (v * a.width + u);
      if (a.data[i + 3] !== 255 || b.data[i + 3] !== 255) continue;
      for (let c = 0; c < 3; c++) sums[c]! += Math.abs(a.data[i + c]! - b.data[i + c]!);
      count++;
    }
  }
  return count > 0 ? (sums[0]! + sums[1]! + sums[2]!) / 3 / count : 0;
}
