import { FingoError } from '../core/errors.ts';
import { multiplyHomographies } from '../core/geometry/homography.ts';
import { resampleImage } from '../core/geometry/resampleImage.ts';
import { createImage, type RasterImage } from '../core/image/rasterImage.ts';
import type { Kernels } from '../core/kernels/kernels.ts';
import { NO_TURN } from '../core/panorama/camera.ts';
import type { Task } from '../core/progress.ts';
import { lookAround, pixelsOf } from '../core/sphere/lookAround.ts';
import { turnedToSphere } from '../core/sphere/sphereView.ts';
import { composePatches } from './composePatches.ts';
import type { Patch, Reshape } from './computation.ts';

/** One carrying over of a picture, with these patches over it. */
export interface Carry extends Reshape {
  patches: Patch[];
}

/**
 * The original after several carryings over, each pixel resampled once, from where it was made: the original's through
 * all warps at once, what later patches changed through the warps that follow them.
 */
export function* carryPicture(original: RasterImage, carries: readonly Carry[], kernels: Kernels): Task<RasterImage> {
  const [first] = carries;
  const last = carries.at(-1);
  if (!first || !last) return original;
  const start = first.patches.length ? composed(original, first.patches) : original;
  const out = yield* carried(start, carries, kernels);
  for (const [index, { patches }] of carries.entries()) {
    if (index === 0 || patches.length === 0) continue;
    const before = yield* carryPicture(original, carries.slice(0, index), kernels);
    const layer = changedOnly(before, patches);
    mergeOver(out, yield* carried(layer, carries.slice(index), kernels));
  }
  return out;
}

/** A picture through several carryings over in one resampling. */
function carried(image: RasterImage, through: readonly Reshape[], kernels: Kernels): Task<RasterImage> {
  const { size } = through.at(-1)!;
  const turns = through.flatMap(({ turn }) => (turn ? [turn] : []));
  if (turns.length === 0) {
    const warps = through.flatMap((each) => each.warps);
    return resampleImage(image, warps, size, kernels);
  }
  if (turns.length < through.length) {
    throw new FingoError(
      'not-a-sphere',
      'A sphere that was levelled can’t get another frame; switch one of the two off.',
    );
  }
  const turn = turns.reduce((before, next) => multiplyHomographies(next, before), NO_TURN);
  return lookAround(pixelsOf(image), turnedToSphere(turn, size), size, kernels);
}

/** The picture with patches over it. */
export function composed(image: RasterImage, patches: readonly Patch[]): RasterImage {
  const out = { ...image, data: image.data.slice() };
  composePatches(out, { x: 0, y: 0 }, patches);
  return out;
}

/** Only the pixels that patches change; the rest transparent. */
function changedOnly(before: RasterImage, patches: readonly Patch[]): RasterImage {
  const after = composed(before, patches);
  const from = new Uint32Array(before.data.buffer);
  const to = new Uint32Array(after.data.buffer);
  const layer = createImage(before.width, before.height);
  const changed = new Uint32Array(layer.data.buffer);
  for (let i = 0; i < to.length; i++) if (to[i] !== from[i]) changed[i] = to[i]!;
  return layer;
}

/** Lays a picture over another of its size; where both cover a pixel in part they share it. In place. */
function mergeOver(out: RasterImage, layer: RasterImage): void {
  for (let i = 0; i < out.data.length; i += 4) {
    const a = layer.data[i + 3]!;
    if (a === 0) continue;
    const below = (out.data[i + 3]! * (255 - a)) / 255;
    for (let c = i; c < i + 3; c++) out.data[c] = (a * layer.data[c]! + below * out.data[c]!) / (a + below);
    out.data[i + 3] = a + out.data[i + 3]!;
  }
}
