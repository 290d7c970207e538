import { expose, transfer } from 'comlink';
import { halveImage } from '../core/image/halve.ts';
import { cropImage, type RasterImage } from '../core/image/rasterImage.ts';
import { wholeOf, type Rect, type Size } from '../core/image/rect.ts';
import { findHorizon } from '../core/planes/findHorizon.ts';
import { reachOfColour, type ReachOptions, type ReachTarget } from '../core/segment/colourReach.ts';
import { findShadow } from '../core/segment/findShadow.ts';
import { FingoError, serialiseError, type SerialisedError } from '../core/errors.ts';
import { composePatches } from '../operations/composePatches.ts';
import { hexDigest } from '../engine/resultKey.ts';
import { decodePicture } from '../formats/browser/decodePicture.ts';
import { encodePicture, type PictureFormat } from '../formats/browser/encodePicture.ts';
import { markSchema, type Mark } from '../operations/marks/markSchema.ts';
import { areasOfMark, markFromMask, maskUnder, renderMark } from '../operations/marks/renderMark.ts';
import { outlineMark, type MarkOutline } from '../operations/marks/outlineMark.ts';
import type { Patch } from '../operations/operation.ts';

export const TILE_PX = 512;

/** The original and its halvings: level 0 is full size. The only place that holds the original's pixels. */
let levels: RasterImage[] = [];

export type Answer<T> = { ok: true; value: T } | { ok: false; error: SerialisedError };

/** Errors of our own must keep their code on the way out of the worker. */
async function answer<T>(make: () => T | Promise<T>): Promise<Answer<T>> {
  try {
    return { ok: true, value: await make() };
  } catch (error) {
    return { ok: false, error: serialiseError(error) };
  }
}

const original = (): RasterImage => {
  const first = levels[0];
  if (!first) throw new FingoError('not-found', 'No picture is open; open one from Projects.');
  return first;
};

const composedPicture = (patches: readonly Patch[]): RasterImage => {
  const image = original();
  const out = { ...image, data: image.data.slice() };
  composePatches(out, { x: 0, y: 0 }, patches);
  return out;
};

const api = {
  /** Decodes a file and keeps its pixels. */
  open: (blob: Blob, name: string): Promise<Answer<Size & { levels: number; key: string }>> =>
    answer(async () => {
      const image = await decodePicture(blob, name);
      levels = [image];
      for (let last = image; Math.max(last.width, last.height) > TILE_PX;) levels.push((last = halveImage(last)));
      const key = await hexDigest(await blob.arrayBuffer());
      return { width: image.width, height: image.height, levels: levels.length, key };
    }),
  crop: async (rect: Rect): Promise<RasterImage> => {
    const image = cropImage(original(), rect);
    return transfer(image, [image.data.buffer]);
  },
  /** A square of the original at 1 / 2^level of its size. */
  tile: async (level: number, column: number, row: number): Promise<ImageBitmap> => {
    const from = levels[level]!;
    const x = column * TILE_PX;
    const y = row * TILE_PX;
    const rect = { x, y, width: Math.min(TILE_PX, from.width - x), height: Math.min(TILE_PX, from.height - y) };
    const { data, width, height } = cropImage(from, rect);
    const bitmap = await createImageBitmap(new ImageData(data, width, height));
    return transfer(bitmap, [bitmap]);
  },
  outline: (mark: Mark, photo: Size): Promise<Answer<MarkOutline>> =>
    answer(() => outlineMark(markSchema.parse(mark), photo)),
  /** The separate areas of a mark, each a mark of its own. */
  areas: (mark: Mark, photo: Size): Promise<Answer<Mark[]>> => answer(() => areasOfMark(markSchema.parse(mark), photo)),
  /** What has a colour, as a mark. */
  reach: (patches: Patch[], target: ReachTarget, options: ReachOptions): Promise<Answer<Mark>> =>
    answer(() => markFromMask(reachOfColour(composedPicture(patches), target, options))),
  /** The cast shadow of what is marked, as a mark. */
  shadow: (patches: Patch[], mark: Mark, photo: Size): Promise<Answer<Mark>> =>
    answer(() => {
      const subject = maskUnder(renderMark(markSchema.parse(mark), photo), wholeOf(photo));
      return markFromMask(findShadow(composedPicture(patches), subject));
    }),
  /** The height of the horizon, px from the top, where the picture's lines tell it. */
  horizon: (): Promise<Answer<number | undefined>> => answer(() => findHorizon(original())),
  /** The whole picture with these patches over it, as a file. */
  encode: (patches: Patch[], format: PictureFormat): Promise<Answer<Blob>> =>
    answer(() => encodePicture(composedPicture(patches), format)),
  /** A small JPEG of the picture with these patches, for the list of projects. */
  thumbnail: (patches: Patch[], longestPx: number): Promise<Answer<Blob>> =>
    answer(async () => {
      let image = composedPicture(patches);
      while (Math.max(image.width, image.height) >= 2 * longestPx) image = halveImage(image);
      return encodePicture(image, { type: 'image/jpeg', quality: 0.85 });
    }),
};

export type PictureApi = typeof api;
expose(api);
