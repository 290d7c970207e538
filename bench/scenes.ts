import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import type { RasterImage } from '../src/core/image/rasterImage.ts';
import { combineMasks } from '../src/core/mask/combine.ts';
import type { Mask } from '../src/core/mask/mask.ts';
import { growMask } from '../src/core/mask/morphology.ts';
import { rasterisePolygon } from '../src/core/mask/polygon.ts';
import { createRandom } from '../src/core/numeric/random.ts';
import { readMask, readPicture } from '../src/formats/node/pictureFiles.ts';

const at = (path: string): string => fileURLToPath(new URL(`../demo/${path}`, import.meta.url));

export const demoPhoto = async (name: string): Promise<RasterImage> =>
  (await readPicture(at(`public/demo/${name}.jpg`))).image;

export const truthPhoto = async (name: string): Promise<RasterImage> =>
  (await readPicture(at(`truth/${name}.jpg`))).image;

/** A subject's mask, grown as a loose outline would be. */
export async function looseMask(name: string, photo: RasterImage, growPx: number): Promise<Mask> {
  return growMask(await readMask(at(`truth/${name}.png`), photo, name), growPx);
}

/** The shadow of the quay's jars, drawn around loosely (photo px). */
const JARS_SHADOW = [
  810, 1190, 900, 1150, 1180, 1180, 1340, 1200, 1520, 1250, 1650, 1285, 1785, 1330, 1785, 1392, 1640, 1394, 1480, 1378,
  1420, 1355, 1180, 1345, 1000, 1300, 820, 1225,
];

/** The jars of the quay with some px around them and their shadow. */
export async function jarsWithShadow(quay: RasterImage): Promise<Mask> {
  const jars = await looseMask('quay_mask-jars', quay, 14);
  return combineMasks(jars, rasterisePolygon(JARS_SHADOW, quay.width, quay.height), 'also');
}

/** A photo enlarged to `width` px with grain added, so that it has detail at its full size. */
export async function enlarged(photo: RasterImage, width: number): Promise<RasterImage> {
  const input = Buffer.from(photo.data.buffer, photo.data.byteOffset, photo.data.byteLength);
  const { data, info } = await sharp(input, { raw: { width: photo.width, height: photo.height, channels: 4 } })
    .resize({ width, kernel: 'lanczos3' })
    .raw()
    .toBuffer({ resolveWithObject: true });
  const random = createRandom(11);
  for (let i = 0; i < data.length; i += 4) {
    const grain = random.below(17) - 8;
    for (let c = i; c < i + 3; c++) data[c] = Math.max(0, Math.min(255, data[c]! + grain));
  }
  return {
    width: info.width,
    height: info.height,
    data: new Uint8ClampedArray(data.buffer as ArrayBuffer, data.byteOffset, data.length),
  };
}

/** A mask enlarged to the size of `photo`. */
export async function enlargedMask(mask: Mask, photo: RasterImage): Promise<Mask> {
  const { width, height } = photo;
  const data = await sharp(Buffer.from(mask.data), { raw: { width: mask.width, height: mask.height, channels: 1 } })
    .resize(width, height, { kernel: 'linear' })
    .extractChannel(0)
    .raw()
    .toBuffer();
  return { width, height, data: new Uint8Array(data) };
}
