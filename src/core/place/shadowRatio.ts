import { blurPlane } from '../image/boxBlur.ts';
import { luminanceOf } from '../image/linearLight.ts';
import { requireSameSize, type RasterImage } from '../image/rasterImage.ts';
import type { Mask } from '../mask/mask.ts';

/** Darkening smaller than this is taken for texture and noise, not for a shadow. */
const FAINTEST_SHADOW = 0.9;
const DEEPEST_SHADOW = 0.12;

/**
 * How much darker the ground around a subject is than the same ground without it, as a plane of light ratios in
 * (0, 1], 1 = no shadow: the photo's luminance divided by that of `cleared` (the same region with the subject taken
 * out), both smoothed over `radiusPx` so that the two textures need not agree. Measured in the slack only (marked, but
 * outside the matte). A shadow carried as a ratio lets the new ground's texture show through it.
 */
export function shadowRatio(
  image: RasterImage,
  cleared: RasterImage,
  mark: Mask,
  matte: Mask,
  radiusPx: number,
): Float32Array<ArrayBuffer> {
  requireSameSize(image, cleared, 'The cleared picture');
  const { width, height } = image;
  const n = width * height;
  const before = new Float32Array(n);
  const after = new Float32Array(n);
  for (let i = 0; i < n; i++) {
    if (matte.data[i]! > 8) continue;
    before[i] = luminanceOf(image.data[4 * i]!, image.data[4 * i + 1]!, image.data[4 * i + 2]!);
    after[i] = luminanceOf(cleared.data[4 * i]!, cleared.data[4 * i + 1]!, cleared.data[4 * i + 2]!);
  }
  const smoothBefore = blurPlane(before, width, height, radiusPx, 2);
  const smoothAfter = blurPlane(after, width, height, radiusPx, 2);
  const ratio = new Float32Array(n).fill(1);
  for (let i = 0; i < n; i++) {
    if (mark.data[i] === 0 || smoothAfter[i]! < 1e-4) continue;
    const darkening = smoothBefore[i]! / smoothAfter[i]! / FAINTEST_SHADOW;
    const inMark = mark.data[i]! / 255;
    ratio[i] = 1 - inMark * (1 - Math.max(DEEPEST_SHADOW, Math.min(1, darkening)));
  }
  return ratio;
}
