import { FingoError } from '../errors.ts';
import { resampleImage } from '../geometry/resampleImage.ts';
import { scaling } from '../geometry/warp.ts';
import { halveImage } from '../image/halve.ts';
import { createImage, cropImage, pasteImage, type RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { within, type Task } from '../progress.ts';
import { assignFrames } from './assignFrames.ts';
import { composePanorama, type Layer } from './composePanorama.ts';
import { scaleLayout, type Layout } from './layOut.ts';
import { matchTone } from './matchTone.ts';

export interface JoinOptions {
  /** Space between the two, px of the first; below 0 they overlap by so much. */
  gapPx: number;
  /** How far the tone of the second is brought to that of the first, 0 to 1. */
  tone: number;
}

/** The seam through an overlap is found on a picture of about so many px. */
const WORK_PX = 700_000;
const LEVELS = 5;

/**
 * Two photos side by side, the second as high as the first and in its tone; the first is not changed. A space between
 * them comes out transparent; where they overlap they are blended along the line where they differ least.
 *
 * Throws `out-of-range` where the overlap is more than a half of the narrower one.
 */
export function* joinPhotos(
  first: RasterImage,
  second: RasterImage,
  { gapPx, tone }: JoinOptions,
  kernels: Kernels,
): Task<RasterImage> {
  const size = { width: Math.max(1, Math.round((second.width * first.height) / second.height)), height: first.height };
  if (-gapPx > Math.min(first.width, size.width) / 2) {
    throw new FingoError('out-of-range', 'The photos overlap by more than a half of one; let them overlap by less.');
  }
  const resized = yield* within(resampleImage(second, [scaling(second, size)], size, kernels), 0, 0.5);
  // What lies next to the other counts: the far side may be in another light.
  const half = (image: RasterImage, x: number): RasterImage =>
    cropImage(image, { x, y: 0, width: image.width >> 1 || 1, height: image.height });
  const matched =
    tone > 0 ? matchTone(resized, half(first, first.width - (first.width >> 1)), tone, half(resized, 0)) : resized;
  const x = first.width + gapPx;
  if (gapPx >= 0) {
    const out = createImage(x + size.width, size.height);
    pasteImage(out, { x: 0, y: 0 }, first);
    pasteImage(out, { x, y: 0 }, matched);
    return out;
  }
  const layers: Layer[] = [
    { frame: 0, rect: { x: 0, y: 0, width: first.width, height: first.height }, image: first },
    { frame: 1, rect: { x, y: 0, ...size }, image: matched },
  ];
  return yield* within(blendOverlap(layers, { x: 0, y: 0, width: x + size.width, height: size.height }), 0.5, 1);
}

function* blendOverlap(layers: readonly Layer[], bounds: Rect): Task<RasterImage> {
  const layout: Layout = {
    projection: { kind: 'planar', scale: 1 },
    bounds,
    closed: false,
    viewDeg: { across: 0, down: 0 },
  };
  const halvings = Math.max(0, Math.ceil(Math.log2(Math.sqrt((bounds.width * bounds.height) / WORK_PX))));
  const small = scaleLayout(layout, 1 / 2 ** halvings);
  const laid = layers.map(({ frame, rect, image }) => {
    let halved = image;
    for (let k = 0; k < halvings; k++) halved = halveImage(halved);
    const canvas = createImage(small.bounds.width, small.bounds.height);
    pasteImage(canvas, { x: Math.round(rect.x / 2 ** halvings), y: 0 }, halved);
    return { frame, image: canvas };
  });
  const labels = assignFrames(laid, false);
  return yield* composePanorama(layers, { layout: small, labels }, layout, bounds, LEVELS);
}
