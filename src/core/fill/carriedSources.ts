import type { RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { Sources } from './sources.ts';

/**
 * Sources at a few whole-pixel offsets of the caller's choice: pixel (x, y) is copied from `offsetAt(x, y)` away.
 * `forbidden` (image size) tells where nothing may be copied from.
 */
export function carriedSources(
  image: RasterImage,
  forbidden: Uint8Array,
  offsets: readonly { dx: number; dy: number }[],
  indexAt: (x: number, y: number) => number,
): Sources {
  const { width, height, data } = image;
  const sample: Sources['sample'] = (group, x, y, out) => {
    const { dx, dy } = offsets[group]!;
    const [u, v] = [x + dx, y + dy];
    if (u < 0 || v < 0 || u >= width || v >= height || forbidden[v * width + u]) return false;
    for (let c = 0; c < 3; c++) out[c] = data[4 * (v * width + u) + c]!;
    return true;
  };
  return {
    largestBlock: 1,
    groupAt: indexAt,
    sample,
    sourceOf(x, y) {
      const { dx, dy } = offsets[indexAt(x, y)]!;
      return { x: x + dx, y: y + dy };
    },
    copy(part: Uint8Array, box: Rect, out: Uint8ClampedArray) {
      const colour = new Float32Array(3);
      for (let y = box.y; y < box.y + box.height; y++) {
        for (let x = box.x; x < box.x + box.width; x++) {
          if (!part[y * width + x] || !sample(indexAt(x, y), x, y, colour)) continue;
          const to = 4 * ((y - box.y) * box.width + x - box.x);
          out.set(colour, to);
          out[to + 3] = 255;
        }
      }
    },
  };
}
