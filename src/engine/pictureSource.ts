import type { Rect, Size } from '../core/image/rect.ts';
import { halveImage } from '../core/image/halve.ts';
import { cropImage, type RasterImage } from '../core/image/rasterImage.ts';
import type { SphereView } from '../core/sphere/sphereView.ts';
import type { Kernels } from '../core/kernels/kernels.ts';
import { drain } from '../core/progress.ts';
import { LOOK_PX, type Patch } from '../operations/computation.ts';
import { carryPicture, composed, type Carry } from '../operations/carryPicture.ts';
import { noView, onlySteps } from '../operations/sphere/requireSphere.ts';
import { layOnSphere, seeSphere } from '../operations/sphere/seeSphere.ts';

/** Who owns a picture's pixels: the original's, or what the original becomes in another frame. */
export interface PixelSource {
  photo: Size;
  /** Names the pixels: equal keys, equal pixels. */
  key: string;
  crop(rect: Rect): Promise<RasterImage>;
  /** The picture with patches over it, reduced until its longer side is under twice LOOK_PX. */
  look(patches: Patch[]): Promise<RasterImage>;
  /** This picture carried over, under another name. */
  carried(carry: Carry, key: string): Promise<PixelSource>;
  /** What is seen of this sphere with patches over it in a direct view, under another name. Throws `not-a-sphere`. */
  seen(view: SphereView, patches: Patch[], key: string): Promise<PixelSource>;
  /** For a direct view: the patches over its sphere that show what `changes` made of it. */
  laidBack(changes: Patch[]): Promise<Patch[]>;
}

/** A source whose pixels are in this very thread. */
export function createPictureSource(original: RasterImage, key: string, kernels: Kernels): PixelSource {
  const sourceOf = (image: RasterImage, name: string, carries: readonly Carry[]): PixelSource => ({
    photo: { width: image.width, height: image.height },
    key: name,
    crop: (rect) => Promise.resolve(cropImage(image, rect)),
    look: (patches) => Promise.resolve(lookAt(composed(image, patches))),
    carried(carry, next) {
      const all = [...carries, carry];
      return Promise.resolve(sourceOf(drain(carryPicture(original, all, kernels)), next, all));
    },
    seen(view, patches, next) {
      const seen = drain(seeSphere(image, view, patches, kernels));
      return Promise.resolve({
        ...sourceOf(seen, next, []),
        // Nothing but a step is made in a view.
        carried: () => Promise.reject(onlySteps()),
        seen: () => Promise.reject(onlySteps()),
        laidBack: (changes) => Promise.resolve(drain(layOnSphere(image, view, patches, seen, changes, kernels))),
      });
    },
    laidBack: () => Promise.reject(noView()),
  });
  return sourceOf(original, key, []);
}

/** A picture reduced for looking at it as a whole. */
export function lookAt(image: RasterImage): RasterImage {
  let look = image;
  while (Math.max(look.width, look.height) >= 2 * LOOK_PX) look = halveImage(look);
  return look;
}
