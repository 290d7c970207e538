import type { RasterImage } from '../../core/image/rasterImage.ts';

/** The bitmaps of one patch: full size first, each further one half as large; smaller ones are made when asked for. */
interface BitmapLevels {
  ready: (ImageBitmap | undefined)[];
  pending: (Promise<ImageBitmap> | undefined)[];
}

const levelsOf = new WeakMap<RasterImage, BitmapLevels>();
const SMALLEST_SIDE_PX = 64;

/**
 * The bitmap of a patch's pixels at 1 / 2^level of its size, if it is ready; else it is made, `whenReady` is called
 * once it is, and meanwhile the nearest larger one is returned.
 */
export function bitmapOf(image: RasterImage, level: number, whenReady: () => void): ImageBitmap | undefined {
  const most = Math.floor(Math.log2(Math.max(1, Math.min(image.width, image.height) / SMALLEST_SIDE_PX)));
  const wanted = Math.max(0, Math.min(level, most));
  const levels = entryOf(image);
  const ready = levels.ready[wanted];
  if (ready) return ready;
  if (!levels.pending[wanted]) void makeLevel(image, wanted).then(whenReady);
  return levels.ready.slice(0, wanted).findLast((bitmap) => bitmap !== undefined);
}

/** Makes (once) the bitmap of a patch's pixels at full size. */
export const makeBitmap = (image: RasterImage): Promise<ImageBitmap> => makeLevel(image, 0);

function makeLevel(image: RasterImage, level: number): Promise<ImageBitmap> {
  const levels = entryOf(image);
  return (levels.pending[level] ??= drawLevel(image, level).then((bitmap) => (levels.ready[level] = bitmap)));
}

async function drawLevel(image: RasterImage, level: number): Promise<ImageBitmap> {
  if (level === 0) return createImageBitmap(new ImageData(image.data, image.width, image.height));
  const larger = await makeLevel(image, level - 1);
  return createImageBitmap(larger, {
    resizeWidth: Math.max(1, image.width >> level),
    resizeHeight: Math.max(1, image.height >> level),
    resizeQuality: 'medium',
  });
}

function entryOf(image: RasterImage): BitmapLevels {
  let levels = levelsOf.get(image);
  if (!levels) levelsOf.set(image, (levels = { ready: [], pending: [] }));
  return levels;
}
