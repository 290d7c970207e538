import type { RasterImage } from '../image/rasterImage.ts';
import type { Quad } from './insetQuad.ts';

export type PlateRim = 'soft' | 'hard' | 'none';

/**
 * A framed picture with the photo inside it taken out: alpha 255 outside the photo's quadrilateral (corners clockwise,
 * px of the picture); inside, within `rimPx` of its edge, alpha falls to 0 evenly (soft), stays (hard) or is 0 at once
 * (none). Half a px at the edge is shared, so that the plate over the photo leaves no gap.
 */
export function plateOf(image: RasterImage, photo: Quad, rim: PlateRim, rimPx: number): RasterImage {
  const data = image.data.slice();
  const sides = photo.map((p, k) => {
    const q = photo[(k + 1) % 4]!;
    const length = Math.hypot(q.x - p.x, q.y - p.y);
    const [nx, ny] = [-(q.y - p.y) / length, (q.x - p.x) / length];
    return { nx, ny, limit: nx * p.x + ny * p.y };
  });
  const shown = (depth: number): number => {
    if (rim === 'none' || rimPx === 0) return 0.5 - depth;
    return rim === 'hard' ? 0.5 + rimPx - depth : 1 - depth / rimPx;
  };
  for (let y = 0; y < image.height; y++) {
    for (let x = 0; x < image.width; x++) {
      let depth = Infinity;
      for (const { nx, ny, limit } of sides) depth = Math.min(depth, nx * (x + 0.5) + ny * (y + 0.5) - limit);
      const i = 4 * (y * image.width + x) + 3;
      data[i] = data[i]! * Math.max(0, Math.min(1, shown(depth)));
    }
  }
  return { ...image, data };
}
