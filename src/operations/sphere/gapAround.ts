import type { RasterImage } from '../../core/image/rasterImage.ts';
import type { Kernels } from '../../core/kernels/kernels.ts';
import { createMask } from '../../core/mask/mask.ts';
import type { Task } from '../../core/progress.ts';
import type { SphereView } from '../../core/sphere/sphereView.ts';
import { viewOfPole } from '../../core/sphere/viewAround.ts';
import type { Mark } from '../marks/markSchema.ts';
import { markFromMask } from '../marks/renderMark.ts';
import { requireSphere } from './requireSphere.ts';
import { seeSphere } from './seeSphere.ts';

export type Pole = 'zenith' | 'nadir';

/** The picture's own edge is soft: the mark reaches so far into it. */
const GROWN_PX = 3;

/** How far from a pole, degrees, the sphere has px without a picture in every row; 0 where the pole itself is there. */
export function gapReach({ width, height, data }: RasterImage, pole: Pole): number {
  for (let rows = 0; rows < height; rows++) {
    const row = pole === 'zenith' ? rows : height - 1 - rows;
    let isWhole = true;
    for (let i = 4 * row * width + 3; isWhole && i < 4 * (row + 1) * width; i += 4) isWhole = data[i] === 255;
    if (isWhole) return (rows / height) * 180;
  }
  return 180;
}

/**
 * The direct view straight up or down that shows all that is missing of a sphere around that pole, with the missing
 * marked; undefined where nothing is. Throws `out-of-range` for more than fits a direct view.
 */
export function* gapAround(
  sphere: RasterImage,
  pole: Pole,
  kernels: Kernels,
): Task<{ view: SphereView; mark: Mark } | undefined> {
  requireSphere(sphere);
  const reach = gapReach(sphere, pole);
  if (reach === 0) return undefined;
  const view = viewOfPole(pole === 'zenith' ? 90 : -90, reach, sphere);
  const seen = yield* seeSphere(sphere, view, [], kernels);
  const mask = createMask(view.width, view.height);
  for (let i = 0; i < mask.data.length; i++) if (seen.data[4 * i + 3]! < 255) mask.data[i] = 255;
  return { view, mark: { ...markFromMask(mask), growPx: GROWN_PX } };
}
