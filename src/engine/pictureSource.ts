import type { Rect, Size } from '../core/image/rect.ts';
import { cropImage, type RasterImage } from '../core/image/rasterImage.ts';
import type { Kernels } from '../core/kernels/kernels.ts';
import { drain } from '../core/progress.ts';
import { carryPicture, type Carry } from '../operations/carryPicture.ts';

/** Who owns a picture's pixels: the original's, or what the original becomes in another frame. */
export interface PixelSource {
  photo: Size;
  /** Names the pixels: equal keys, equal pixels. */
  key: string;
  crop(rect: Rect): Promise<RasterImage>;
  /** This picture carried over, under another name. */
  carried(carry: Carry, key: string): Promise<PixelSource>;
}

/** A source whose pixels are in this very thread. */
export function createPictureSource(original: RasterImage, key: string, kernels: Kernels): PixelSource {
  const sourceOf = (image: RasterImage, name: string, carries: readonly Carry[]): PixelSource => ({
    photo: { width: image.width, height: image.height },
    key: name,
    crop: (rect) => Promise.resolve(cropImage(image, rect)),
    carried(carry, next) {
      const all = [...carries, carry];
      return Promise.resolve(sourceOf(drain(carryPicture(original, all, kernels)), next, all));
    },
  });
  return sourceOf(original, key, []);
}
