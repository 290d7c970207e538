import type { RasterImage } from '../image/rasterImage.ts';
import { copySampled, type Sources } from './sources.ts';

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
    copy: (part, box, out) => copySampled(sample, indexAt, width, part, box, out),
  };
}
