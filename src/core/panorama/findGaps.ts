import type { RasterImage } from '../image/rasterImage.ts';
import type { Size } from '../image/rect.ts';
import { createMask, type Mask } from '../mask/mask.ts';
import { growMask } from '../mask/morphology.ts';
import { reachOfColour } from '../segment/colourReach.ts';

/** What a vacancy looks like: no data (transparent), or a colour that a stitcher left there. */
export type GapKind = 'none' | 'white' | 'black';

/** Gaps are marked a little larger: their rim was resampled or compressed together with what is vacant. */
export const usualGrowPx = ({ width, height }: Size): number => Math.max(2, Math.round(Math.max(width, height) / 800));

/**
 * The vacancies of a panorama: all that is transparent, or near-uniform areas of white or black that reach the picture's
 * edge (what lies inside is more likely a window or a shadow), grown.
 *
 * @param tolerance largest difference in any channel (for `none`: largest alpha) of what counts, 0..255
 */
export function findGaps(image: RasterImage, kind: GapKind, tolerance: number, growPx: number): Mask {
  const found = reachOfColour(image, kind, { tolerance, connected: false });
  const gaps = kind === 'none' ? found : touchingEdge(found);
  return gaps.data.includes(255) ? growMask(gaps, growPx) : gaps;
}

/** The areas of a mask that reach its edge, followed from there. */
function touchingEdge({ width, height, data }: Mask): Mask {
  const out = createMask(width, height);
  const stack: number[] = [];
  const visit = (i: number): void => {
    if (out.data[i] || data[i] !== 255) return;
    out.data[i] = 255;
    stack.push(i);
  };
  for (let x = 0; x < width; x++) {
    visit(x);
    visit((height - 1) * width + x);
  }
  for (let y = 0; y < height; y++) {
    visit(y * width);
    visit(y * width + width - 1);
  }
  while (stack.length > 0) {
    const i = stack.pop()!;
    const x = i % width;
    if (x > 0) visit(i - 1);
    if (x + 1 < width) visit(i + 1);
    if (i >= width) visit(i - width);
    if (i + width < data.length) visit(i + width);
  }
  return out;
}
