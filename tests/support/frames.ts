import { fileURLToPath } from 'node:url';
import sharp from 'sharp';

/** A file as it is put into a page. */
export interface FrameFile {
  name: string;
  mimeType: string;
  buffer: Buffer;
}

/** A demo picture at half its size, with what its camera wrote: it stitches like the whole one, in a quarter of the time. */
export async function halvedDemo(name: string): Promise<FrameFile> {
  const picture = sharp(fileURLToPath(new URL(`../../demo/public/demo/${name}`, import.meta.url)));
  const { width } = await picture.metadata();
  const buffer = await picture
    .resize(width / 2)
    .keepExif()
    .jpeg({ quality: 92 })
    .toBuffer();
  return { name, mimeType: 'image/jpeg', buffer };
}
