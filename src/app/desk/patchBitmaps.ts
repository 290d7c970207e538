import type { RasterImage } from '../../core/image/rasterImage.ts';

const bitmaps = new WeakMap<RasterImage, ImageBitmap>();
const pending = new WeakMap<RasterImage, Promise<ImageBitmap>>();

/** The bitmap of a patch's pixels if it is ready; else it is made, and `whenReady` is called once it is. */
export function bitmapOf(image: RasterImage, whenReady: () => void): ImageBitmap | undefined {
  const ready = bitmaps.get(image);
  if (!ready) void makeBitmap(image).then(whenReady);
  return ready;
}

/** Makes (once) the bitmap of a patch's pixels. */
export function makeBitmap(image: RasterImage): Promise<ImageBitmap> {
  let making = pending.get(image);
  if (!making) {
    making = createImageBitmap(new ImageData(image.data, image.width, image.height)).then((bitmap) => {
      bitmaps.set(image, bitmap);
      return bitmap;
    });
    pending.set(image, making);
  }
  return making;
}
