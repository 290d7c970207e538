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
  const { width, height } = image;
  const window = intersect(inflate(box, 1), wholeOf(image));
  let [across, beside, count] = [0, 0, 0];
  const at = (x: number, y: number): number =>
    hole[y * width + x]
      ? lumaAt(rebuilt.data, 4 * ((y - box.y) * box.width + x - box.x))
      : lumaAt(image.data, 4 * (y * width + x));
  const isIn = (x: number, y: number): boolean => x >= 0 && y >= 0 && x < width && y < height;
  /** From the known pixel (x, y), the last before the rim. */
  const compare = (x: number, y: number, dx: number, dy: number): void => {
    const [u, v] = [x + ACROSS_PX * dx, y + ACROSS_PX * dy];
    const [near, far] = [BESIDE_PX - ACROSS_PX, BESIDE_PX];
    const [p, q] = [x - far * dx, y - far * dy];
    if (!isIn(u, v) || !hole[v * width + u] || !isIn(p, q) || hole[q * width + p]) return;
    const [r, s] = [x - near * dx, y - near * dy];
    if (hole[s * width + r]) return;
    across += Math.abs(at(u, v) - at(x, y));
    beside += Math.abs(at(r, s) - at(p, q));
    count++;
  };
  for (let y = window.y; y < window.y + window.height; y++) {
    for (let x = window.x; x < window.x + window.width; x++) {
      if (hole[y * width + x]) continue;
      for (const [dx, dy] of DIRECTIONS) {
        if (isIn(x + dx, y + dy) && hole[(y + dy) * width + x + dx]) compare(x, y, dx, dy);
      }
    }
  }
  if (count === 0) return { rimError: 0 };
  return { rimError: Math.log((across / count + UNSEEN) / (beside / count + UNSEEN)) };
}

const DIRECTIONS = [
  [1, 0],
  [-1, 0],
  [0, 1],
  [0, -1],
] as const;
