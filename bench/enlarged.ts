import sharp from 'sharp';
import { createRandom } from '../src/core/numeric/random.ts';
import type { RasterImage } from '../src/core/image/rasterImage.ts';
import type { Size } from '../src/core/image/rect.ts';
import type { Mask } from '../src/core/mask/mask.ts';

const GRAIN = 6;

/** An opaque picture made larger, with grain. */
export async function enlargedImage(image: RasterImage, { width, height }: Size): Promise<RasterImage> {
  const data = await resized(image.data, 4, image, { width, height });
  const grain = createRandom(4);
  for (let i = 0; i < data.length; i++) if (i % 4 < 3) data[i] = data[i]! + grain.below(2 * GRAIN + 1) - GRAIN;
  return { ...image, width, height, data };
}

export async function enlargedMask(mask: Mask, { width, height }: Size): Promise<Mask> {
  const data = await resized(mask.data, 1, mask, { width, height });
  return { width, height, data: Uint8Array.from(data, (value) => (value >= 128 ? 255 : 0)) };
}

async function resized(pixels: Uint8Array | Uint8ClampedArray, channels: 1 | 4, from: Size, to: Size) {
  const raw = { width: from.width, height: from.height, channels };
  const larger = sharp(pixels, { raw }).resize({ width: to.width, height: to.height, fit: 'fill', kernel: 'cubic' });
  const colours = channels === 1 ? larger.toColourspace('b-w') : larger;
  return new Uint8ClampedArray(await colours.raw().toBuffer());
}

/** A picture file made larger, with grain, as a JPEG. */
export async function enlarged(from: string, size: Size, to: string): Promise<void> {
  const random = createRandom(4);
  const { data, info } = await sharp(from)
    .resize({ width: size.width, height: size.height, kernel: 'cubic' })
    .raw()
    .toBuffer({ resolveWithObject: true });
  for (let i = 0; i < data.length; i++)
    data[i] = Math.max(0, Math.min(255, data[i]! + random.below(2 * GRAIN + 1) - GRAIN));
  await sharp(data, { raw: info }).jpeg({ quality: 92 }).toFile(to);
}
