import type { RasterImage } from '../../core/image/rasterImage.ts';
import { cropImage } from '../../core/image/rasterImage.ts';
import type { Kernels } from '../../core/kernels/kernels.ts';
import type { Task } from '../../core/progress.ts';
import { layBack } from '../../core/sphere/layBack.ts';
import { lookAround, type SpherePixels } from '../../core/sphere/lookAround.ts';
import { viewToSphere, type SphereView } from '../../core/sphere/sphereView.ts';
import { composed } from '../carryPicture.ts';
import { composePatches } from '../composePatches.ts';
import type { Patch } from '../computation.ts';
import { requireSphere } from './requireSphere.ts';

/** A sphere with patches over it. */
const patched = (sphere: RasterImage, patches: readonly Patch[]): SpherePixels => ({
  width: sphere.width,
  height: sphere.height,
  crop(rect) {
    const image = cropImage(sphere, rect);
    composePatches(image, rect, patches);
    return image;
  },
});

/** What a direct view shows of a sphere with patches over it. Throws `not-a-sphere`. */
export function seeSphere(
  sphere: RasterImage,
  view: SphereView,
  patches: readonly Patch[],
  kernels: Kernels,
): Task<RasterImage> {
  requireSphere(sphere);
  return lookAround(patched(sphere, patches), viewToSphere(view, sphere), view, kernels);
}

/** The patches over a sphere, with patches over it, that show what `changes` made of a direct view, which showed `seen`. */
export const layOnSphere = (
  sphere: RasterImage,
  view: SphereView,
  patches: readonly Patch[],
  seen: RasterImage,
  changes: readonly Patch[],
  kernels: Kernels,
): Task<Patch[]> => layBack(patched(sphere, patches), view, seen, composed(seen, changes), kernels);
