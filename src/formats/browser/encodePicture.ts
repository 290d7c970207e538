import type { RasterImage } from '../../core/image/rasterImage.ts';

export type PictureFormat = { type: 'image/png' } | { type: 'image/jpeg'; quality: number };

/** Encodes a whole picture as PNG (lossless) or JPEG (`quality` 0..1; what is transparent becomes white). */
export async function encodePicture(image: RasterImage, format: PictureFormat): Promise<Blob> {
  const canvas = new OffscreenCanvas(image.width, image.height);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.putImageData(new ImageData(image.data, image.width, image.height), 0, 0);
  if (format.type === 'image/jpeg') {
    context.globalCompositeOperation = 'destination-over';
    context.fillStyle = '#fff';
    context.fillRect(0, 0, image.width, image.height);
  }
  return canvas.convertToBlob(format);
}
