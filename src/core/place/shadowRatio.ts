import { blurPlane } from '../image/boxBlur.ts';
import { LINEAR_FROM_BYTE } from '../image/linearLight.ts';
import { requireSameSize, type RasterImage } from '../image/rasterImage.ts';
import type { Mask } from '../mask/mask.ts';

/** Darkening smaller than this is taken for texture and noise, not for a shadow. */
const FAINTEST_SHADOW = 0.9;
/** From here on it is all a shadow's. */
const CERTAIN_SHADOW = 0.6;
const DEEPEST_SHADOW = 0.03;

/** A ratio without what is too faint to be a shadow; deep ones stay as they are. */
function surely(ratio: number): number {
  if (ratio >= FAINTEST_SHADOW) return 1;
  return ratio <= CERTAIN_SHADOW
    ? ratio
    : CERTAIN_SHADOW + ((ratio - CERTAIN_SHADOW) * (1 - CERTAIN_SHADOW)) / (FAINTEST_SHADOW - CERTAIN_SHADOW);
}

/**
 * How much darker the ground around a subject is than the same ground without it, as interleaved R, G, B ratios of
 * linear light in (0, 1], 1 = no shadow: the photo divided by `cleared` (the same region with the subject taken out),
 * both smoothed over `radiusPx` so that the two textures need not agree. By channel, because a shadow out of doors is
 * lit by the sky and bluer than its surroundings. Measured in the slack only (marked, but outside the matte). A shadow
 * carried as a ratio lets the new ground's texture show through it.
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
  const ratio = new Float32Array(3 * n).fill(1);
  for (let c = 0; c < 3; c++) {
    const before = new Float32Array(n);
    const after = new Float32Array(n);
    for (let i = 0; i < n; i++) {
      if (matte.data[i]! > 8) continue;
      before[i] = LINEAR_FROM_BYTE[image.data[4 * i + c]!]!;
      after[i] = LINEAR_FROM_BYTE[cleared.data[4 * i + c]!]!;
    }
    const smoothBefore = blurPlane(before, width, height, radiusPx, 2);
    const smoothAfter = blurPlane(after, width, height, radiusPx, 2);
    for (let i = 0; i < n; i++) {
      if (mark.data[i] === 0 || smoothAfter[i]! < 1e-4) continue;
      const darkening = Math.max(DEEPEST_SHADOW, surely(smoothBefore[i]! / smoothAfter[i]!));
      ratio[3 * i + c] = 1 - (mark.data[i]! / 255) * (1 - darkening);
    }
  }
  return ratio;
}
