import type { RasterImage } from '../../core/image/rasterImage.ts';
import { brokenFile, sniffPicture } from '../sniffPicture.ts';

/** Rows read back at a time: the canvas stays small next to the picture. */
const STRIP_ROWS = 512;

/** Decodes a photo: upright, sRGB, straight RGBA. Throws what `sniffPicture` throws, and `unreadable-file`. */
export async function decodePicture(blob: Blob, name: string): Promise<RasterImage> {
  const bytes = new Uint8Array(await blob.arrayBuffer());
  const { format } = sniffPicture(bytes, name);
  if (format.decode) {
    try {
      return await format.decode(bytes);
    } catch {
      throw brokenFile(name);
    }
  }
  let bitmap: ImageBitmap;
  try {
    bitmap = await createImageBitmap(new Blob([blob], { type: format.mediaType }), {
      imageOrientation: 'from-image',
      premultiplyAlpha: 'none',
    });
  } catch {
    throw brokenFile(name);
  }
  const { width, height } = bitmap;
  const data = new Uint8ClampedArray(width * height * 4);
  const canvas = new OffscreenCanvas(width, Math.min(STRIP_ROWS, height));
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.globalCompositeOperation = 'copy';
  for (let y = 0; y < height; y += STRIP_ROWS) {
    const rows = Math.min(STRIP_ROWS, height - y);
    context.drawImage(bitmap, 0, y, width, rows, 0, 0, width, rows);
    data.set(context.getImageData(0, 0, width, rows).data, y * width * 4);
  }
  bitmap.close();
  return { width, height, data };
}
