import { fileURLToPath } from 'node:url';
import type { RasterImage } from '../src/core/image/rasterImage.ts';
import type { Kernels } from '../src/core/kernels/kernels.ts';
import { combineMasks } from '../src/core/mask/combine.ts';
import type { Mask } from '../src/core/mask/mask.ts';
import { growMask } from '../src/core/mask/morphology.ts';
import { rasterisePolygon } from '../src/core/mask/polygon.ts';
import { createRandom } from '../src/core/numeric/random.ts';
import { findShadow } from '../src/core/segment/findShadow.ts';
import { readMask, readPicture } from '../src/formats/node/pictureFiles.ts';

/** A file of the demo folder. */
export const at = (path: string): string => fileURLToPath(new URL(`../demo/${path}`, import.meta.url));

export const demoPhoto = async (name: string): Promise<RasterImage> =>
  (await readPicture(at(`public/demo/${name}.jpg`))).image;

export const truthPhoto = async (name: string): Promise<RasterImage> =>
  (await readPicture(at(`truth/${name}.jpg`))).image;

/** A subject's mask, grown as a loose outline would be. */
export async function looseMask(name: string, photo: RasterImage, growPx: number): Promise<Mask> {
  return growMask(await readMask(at(`truth/${name}.png`), photo, name), growPx);
}

/** A subject's mask grown by 14 px, with the shadow that is found beside it grown by 7. */
export async function withFoundShadow(name: string, photo: RasterImage, kernels: Kernels): Promise<Mask> {
  const subject = await readMask(at(`truth/${name}.png`), photo, name);
  const shadow = growMask(findShadow(photo, subject, kernels), 7);
  return combineMasks(growMask(subject, 14), shadow, 'also');
}

/** The shadow of the quay's jars, drawn around loosely (photo px). */
const JARS_SHADOW = [
  810, 1190, 900, 1150, 1180, 1180, 1340, 1200, 1520, 1250, 1650, 1285, 1785, 1330, 1785, 1392, 1640, 1394, 1480, 1378,
  1420, 1355, 1180, 1345, 1000, 1300, 820, 1225,
];

/** The jars of the quay with some px around them and their shadow. */
export const jarsWithShadow = (quay: RasterImage): Promise<Mask> => withDrawn('quay_mask-jars', quay, [JARS_SHADOW]);

/** The shadows of the yard's broom handle on the wall, of its bristles and of the bucket, drawn around loosely (photo px). */
const BROOM_SHADOWS = [
  [646, 604, 682, 604, 796, 1094, 762, 1098],
  [672, 1204, 752, 1194, 760, 1240, 676, 1254],
  [846, 1176, 862, 1146, 960, 1154, 1004, 1190, 912, 1240, 846, 1258],
];

/** The broom and the bucket of the kiln yard with some px around them and their shadows. */
export const broomWithShadow = (yard: RasterImage): Promise<Mask> =>
  withDrawn('kilnyard_mask-broom-bucket', yard, BROOM_SHADOWS);

/** A subject's mask, grown by 14 px, with shadows drawn by hand. */
async function withDrawn(name: string, photo: RasterImage, outlines: readonly number[][]): Promise<Mask> {
  return outlines.reduce(
    (mark, outline) => combineMasks(mark, rasterisePolygon(outline, photo.width, photo.height), 'also'),
    await looseMask(name, photo, 14),
  );
}

/** Boards in perspective with grain and slow light, of any size: made from numbers, so that nothing is loaded. */
export function boardsPhoto(width: number, height: number): RasterImage {
  const data = new Uint8ClampedArray(width * height * 4);
  const random = createRandom(11);
  for (let y = 0; y < height; y++) {
    // Boards become narrower towards the top.
    const depth = 1 / (0.25 + y / height);
    const along = depth * 40;
    const joint = along - Math.floor(along) < 0.08 ? -90 : 0;
    const shade = 24 * Math.sin(Math.floor(along) * 2.4);
    for (let x = 0; x < width; x++) {
      const i = 4 * (y * width + x);
      const value = 150 + joint + shade + 30 * Math.sin((3 * x) / width) + random.below(17) - 8;
      data[i] = value;
      data[i + 1] = 0.9 * value;
      data[i + 2] = 0.75 * value;
      data[i + 3] = 255;
    }
  }
  return { width, height, data };
}
