import { squaredDistanceTo } from './distanceTransform.ts';
import type { Mask } from './mask.ts';
import { blurPlane } from '../image/boxBlur.ts';
import { bytesBy } from '../numeric/filled.ts';

/**
 * The mask with its outline carried outward by `byPx` (inward when negative), round-cornered, anti-aliased over one
 * pixel. Exact Euclidean dilation / erosion of the set coverage >= 128; 0 returns the mask as it is, soft rim
 * included. O(pixels).
 */
export function growMask(mask: Mask, byPx: number): Mask {
  if (byPx === 0) return mask;
  const data = new Uint8Array(mask.data.length);
  const distance = squaredDistanceTo(mask, byPx > 0);
  const reach = Math.abs(byPx);
  for (let i = 0; i < data.length; i++) {
    // Distances run from centre to centre, half a pixel on either side of the outline.
    const beyond = Math.max(0, Math.min(1, Math.sqrt(distance[i]!) - reach));
    data[i] = Math.round(255 * (byPx > 0 ? 1 - beyond : beyond));
  }
  return { width: mask.width, height: mask.height, data };
}

/**
 * The mask with bumps and notches narrower than about `radiusPx` evened out: blurred three times by a box of that
 * radius and cut again at one half, anti-aliased. 0 returns the mask as it is.
 */
export function smoothMask(mask: Mask, radiusPx: number): Mask {
  if (!(radiusPx > 0)) return mask;
  const plane = blurPlane(new Float32Array(mask.data), mask.width, mask.height, radiusPx / 2, 3);
  const data = new Uint8Array(plane.length);
  // The blurred step has a slope of about 1 / (2 radius): steepen it to one pixel.
  const gain = Math.max(1, radiusPx * 1.5);
  for (let i = 0; i < data.length; i++) {
    data[i] = Math.round(Math.max(0, Math.min(255, 127.5 + (plane[i]! - 127.5) * gain)));
  }
  return { width: mask.width, height: mask.height, data };
}

/** The mask with a soft rim: blurred by a Gaussian of about `radiusPx` / 2, centred on the outline. */
export function featherMask(mask: Mask, radiusPx: number): Mask {
  if (!(radiusPx > 0)) return mask;
  const plane = blurPlane(new Float32Array(mask.data), mask.width, mask.height, radiusPx / 2, 3);
  return { width: mask.width, height: mask.height, data: bytesBy(plane.length, (i) => Math.round(plane[i]!)) };
}
