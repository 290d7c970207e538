import type { RasterImage } from '../../core/image/rasterImage.ts';
import type { WritableFormat } from '../formats.ts';

/** Encodes a whole picture; `quality` 0..1. Where the format has no transparency, what is transparent becomes white. */
export async function encodePicture(
  image: RasterImage,
  { mediaType, writer }: WritableFormat,
  quality = 1,
): Promise<Blob> {
  if (writer.encode) return new Blob([await writer.encode(image, quality)], { type: mediaType });
  const canvas = new OffscreenCanvas(image.width, image.height);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.putImageData(new ImageData(image.data, image.width, image.height), 0, 0);
  if (!writer.hasAlpha) {
    context.globalCompositeOperation = 'destination-over';
    context.fillStyle = '#fff';
    context.fillRect(0, 0, image.width, image.height);
  }
  return canvas.convertToBlob({ type: mediaType, ...(writer.isLossy && { quality }) });
}
