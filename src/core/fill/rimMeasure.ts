import { lumaAt } from '../image/luma.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { inflate, intersect, wholeOf, type Rect } from '../image/rect.ts';

/** How much the rim of a rebuilt place shows. */
export interface RimMeasures {
  /** 0 = changes across the rim are as strong as just beside it; 1 = e times as strong; below 0 = weaker. */
  rimError: number;
}

/** So many px before the rim lies what its change is compared with. */
const BESIDE_PX = 5;
/** Changes are taken over so many px. */
const ACROSS_PX = 2;
/** Levels added to both means: what is weaker than grain is not seen. */
const UNSEEN = 1;

/**
 * Compares how strongly luma changes across the rim, from the last known pixel into what was rebuilt, with how it changes
 * in the same direction a few px before. `rebuilt` is RGBA of `box`; `hole` has one byte a pixel of `image`, non-zero =
 * rebuilt.
 */
export function measureRim(image: RasterImage, hole: Uint8Array, box: Rect, rebuilt: RasterImage): RimMeasures {
  const shown: Shown = { image, hole, box, rebuilt };
  const window = intersect(inflate(box, 1), wholeOf(image));
  const sums: RimSums = { across: 0, beside: 0, count: 0 };
  for (let y = window.y; y < window.y + window.height; y++) addRow(shown, window.x, window.x + window.width, y, sums);
  const { across, beside, count } = sums;
  if (count === 0) return { rimError: 0 };
  return { rimError: Math.log((across / count + UNSEEN) / (beside / count + UNSEEN)) };
}

/** A rebuilt place in its picture. */
interface Shown {
  image: RasterImage;
  hole: Uint8Array;
  box: Rect;
  rebuilt: RasterImage;
}

interface RimSums {
  across: number;
  beside: number;
  count: number;
}

function addRow(shown: Shown, from: number, to: number, y: number, sums: RimSums): void {
  const { image, hole } = shown;
  const { width, height } = image;
  const row = y * width;
  for (let x = from; x < to; x++) {
    if (hole[row + x] !== 0) continue;
    if (x + 1 < width && hole[row + x + 1] !== 0) compare(shown, x, y, 1, 0, sums);
    if (x > 0 && hole[row + x - 1] !== 0) compare(shown, x, y, -1, 0, sums);
    if (y + 1 < height && hole[row + x + width] !== 0) compare(shown, x, y, 0, 1, sums);
    if (y > 0 && hole[row + x - width] !== 0) compare(shown, x, y, 0, -1, sums);
  }
}

/** From the known pixel (x, y), the last before the rim, which lies in the direction (dx, dy). */
function compare(shown: Shown, x: number, y: number, dx: number, dy: number, sums: RimSums): void {
  const { image, hole } = shown;
  const { width, height } = image;
  const [u, v] = [x + ACROSS_PX * dx, y + ACROSS_PX * dy];
  const [near, far] = [BESIDE_PX - ACROSS_PX, BESIDE_PX];
  const [p, q] = [x - far * dx, y - far * dy];
  if (u < 0 || v < 0 || u >= width || v >= height || !hole[v * width + u]) return;
  if (p < 0 || q < 0 || p >= width || q >= height || hole[q * width + p]) return;
  const [r, s] = [x - near * dx, y - near * dy];
  if (hole[s * width + r]) return;
  sums.across += Math.abs(lumaOf(shown, u, v) - lumaOf(shown, x, y));
  sums.beside += Math.abs(lumaOf(shown, r, s) - lumaOf(shown, p, q));
  sums.count++;
}

function lumaOf({ image, hole, box, rebuilt }: Shown, x: number, y: number): number {
  const at = y * image.width + x;
  return hole[at] ? lumaAt(rebuilt.data, 4 * ((y - box.y) * box.width + x - box.x)) : lumaAt(image.data, 4 * at);
}
