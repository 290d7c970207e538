import type { Size } from '../image/rect.ts';
import { doublePlane, halfSize, halvePlane } from './halfPlanes.ts';

/** One picture of several that are blended: three planes, and where it has something to show. */
export interface BlendLayer {
  planes: readonly [Float32Array, Float32Array, Float32Array];
  /** 1 where the layer shows something, else 0. */
  covered: Uint8Array;
  /** 1 where the layer was chosen. */
  chosen: Float32Array;
}

/**
 * What to add to the picture that is put together hard from the chosen parts of `layers`, so that they blend: each band
 * of detail crosses over within about its own wavelength. Written for the difference to the hard picture, which is zero
 * where a layer is chosen: so all bands of all layers need not be summed, and where there is no seam nothing changes.
 * P. Burt, E. Adelson: A Multiresolution Spline with Application to Image Mosaics, ACM TOG 1983.
 *
 * @param hard the picture put together hard, three planes
 * @param levels coarsest band; the crossing reaches about 3 * 2^levels px to either side
 * @returns three planes
 */
export function blendBands(
  layers: readonly BlendLayer[],
  hard: BlendLayer['planes'],
  size: Size,
  levels: number,
): [Float32Array, Float32Array, Float32Array] {
  const sizes = [size];
  for (let level = 0; level < levels; level++) sizes.push(halfSize(sizes[level]!));
  const sums = [0, 1, 2].map(() => sizes.map(({ width, height }) => new Float32Array(width * height)));
  for (const { planes, covered, chosen } of layers) {
    const weights = pyramidOf(chosen, sizes);
    const shares = covered.includes(0) ? pyramidOf(new Float32Array(covered), sizes) : undefined;
    for (let c = 0; c < 3; c++) {
      const difference = new Float32Array(chosen.length);
      for (let i = 0; i < difference.length; i++) if (covered[i]) difference[i] = planes[c]![i]! - hard[c]![i]!;
      let band = shares ? carriedOn(difference, shares, sizes) : difference;
      for (let level = 0; level <= levels; level++) {
        const coarser = level < levels ? halvePlane(band, sizes[level]!) : undefined;
        const smooth = coarser && doublePlane(coarser, sizes[level]!);
        const sum = sums[c]![level]!;
        const weight = weights[level]!;
        if (smooth) for (let i = 0; i < sum.length; i++) sum[i]! += weight[i]! * (band[i]! - smooth[i]!);
        else for (let i = 0; i < sum.length; i++) sum[i]! += weight[i]! * band[i]!;
        if (coarser) band = coarser;
      }
    }
  }
  return sums.map((bands) => {
    for (let level = levels - 1; level >= 0; level--) {
      const from = doublePlane(bands[level + 1]!, sizes[level]!);
      const to = bands[level]!;
      for (let i = 0; i < to.length; i++) to[i]! += from[i]!;
    }
    return bands[0]!;
  }) as [Float32Array, Float32Array, Float32Array];
}

/** A plane at each of the sizes. */
function pyramidOf(plane: Float32Array, sizes: readonly Size[]): Float32Array[] {
  const planes = [plane];
  for (const size of sizes.slice(0, -1)) planes.push(halvePlane(planes.at(-1)!, size));
  return planes;
}

/**
 * A plane whose values go on smoothly where nothing covers it, and fade away further off: its edge must not become
 * detail of its own.
 *
 * @param plane values, 0 where not covered
 * @param shares how far each px is covered, at each of the sizes
 */
function carriedOn(plane: Float32Array, shares: readonly Float32Array[], sizes: readonly Size[]): Float32Array {
  const planes = pyramidOf(plane, sizes);
  for (let level = sizes.length - 2; level >= 0; level--) {
    const rest = doublePlane(planes[level + 1]!, sizes[level]!);
    const own = planes[level]!;
    const share = shares[level]!;
    for (let i = 0; i < own.length; i++) own[i]! += (1 - share[i]!) * rest[i]!;
  }
  return planes[0]!;
}
