import { applyHomography, areaScaleAt, type Homography } from '../geometry/homography.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { addBicubicBytes, samplesAlong } from './bicubicSample.ts';
import { copySampled, type Sources } from './sources.ts';

/**
 * Sources through a few projective maps of the caller's choice: pixel (x, y) is resampled where the map numbered
 * `indexAt(x, y)` leads from it.
 */
export function mappedSources(
  { width, height, data }: RasterImage,
  maps: readonly Homography[],
  indexAt: (x: number, y: number) => number,
): Sources {
  const sample: Sources['sample'] = (group, x, y, out) => {
    const map = maps[group]!;
    const middle = applyHomography(map, x + 0.5, y + 0.5);
    if (!(middle.x >= 0 && middle.y >= 0 && middle.x < width && middle.y < height)) return false;
    const steps = samplesAlong(Math.abs(areaScaleAt(map, x + 0.5, y + 0.5)));
    out.fill(0);
    for (let v = 0; v < steps; v++) {
      for (let u = 0; u < steps; u++) {
        const from = applyHomography(map, x + (u + 0.5) / steps, y + (v + 0.5) / steps);
        addBicubicBytes(data, width, height, from.x, from.y, 1 / (steps * steps), out);
      }
    }
    return true;
  };
  return {
    largestBlock: 1,
    groupAt: indexAt,
    sample,
    sourceOf: (x, y) => applyHomography(maps[indexAt(x, y)]!, x + 0.5, y + 0.5),
    copy: (part, box, out) => copySampled(sample, indexAt, width, part, box, out),
  };
}
