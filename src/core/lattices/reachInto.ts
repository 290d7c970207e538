import { blurPlane } from '../image/boxBlur.ts';

/** In cells. */
const RADII = [4, 8, 16, 32, 64];

/** Lets what is known around a hole reach into it: the sum of ever wider blurs, each weighted by the inverse of its width. */
export function reachInto(plane: Float32Array, width: number, height: number): Float32Array {
  const sum = new Float32Array(plane.length);
  for (const radius of RADII) {
    const blurred = blurPlane(plane, width, height, radius, 2);
    for (let i = 0; i < sum.length; i++) sum[i]! += blurred[i]! / radius;
  }
  return sum;
}
