import { fileURLToPath } from 'node:url';
import sharp from 'sharp';

/** A demo picture as a file of half its size, with what its camera wrote: it stitches like the whole one, but sooner. */
export async function halvedDemo(name: string) {
  const picture = sharp(fileURLToPath(new URL(`../../demo/public/demo/${name}`, import.meta.url)));
  const { width } = await picture.metadata();
  const buffer = await picture
    .resize(width / 2)
    .keepExif()
    .jpeg({ quality: 92 })
    .toBuffer();
  return { name, mimeType: 'image/jpeg', buffer };
}
