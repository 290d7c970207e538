import sharp from 'sharp';
import { createRandom } from '../src/core/numeric/random.ts';
import type { Size } from '../src/core/image/rect.ts';

/** A picture file made larger, with grain, as a JPEG. */
export async function enlarged(from: string, size: Size, to: string): Promise<void> {
  const random = createRandom(4);
  const { data, info } = await sharp(from)
    .resize({ width: size.width, height: size.height, kernel: 'cubic' })
    .raw()
    .toBuffer({ resolveWithObject: true });
  for (let i = 0; i < data.length; i++) data[i] = Math.max(0, Math.min(255, data[i]! + random.below(13) - 6));
  await sharp(data, { raw: info }).jpeg({ quality: 92 }).toFile(to);
}
