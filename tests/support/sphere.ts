import type { RasterImage } from '../../src/core/image/rasterImage.ts';
import { directionOnSphere } from '../../src/core/sphere/sphereView.ts';
import { pictureOf } from './pictures.ts';

/** A colour for each direction, everywhere smooth; no two directions look alike. */
export const colourOf = ([x, y, z]: readonly [number, number, number]): [number, number, number] => [
  Math.round(128 + 90 * x + 25 * Math.sin(9 * y)),
  Math.round(128 + 90 * y + 25 * Math.sin(9 * z)),
  Math.round(128 + 90 * z + 25 * Math.sin(9 * x)),
];

/** A sphere of those colours. */
export function colouredSphere(width: number): RasterImage {
  const size = { width, height: width / 2 };
  return pictureOf(width, width / 2, (x, y) => colourOf(directionOnSphere(x + 0.5, y + 0.5, size)));
}
