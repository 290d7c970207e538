import { lumaAt } from '../../../core/image/luma.ts';
import { FingoError } from '../../../core/errors.ts';
import { resampleImage } from '../../../core/geometry/resampleImage.ts';
import type { Warp } from '../../../core/geometry/warp.ts';
import type { RasterImage } from '../../../core/image/rasterImage.ts';
import type { Size } from '../../../core/image/rect.ts';
import { wholeOf } from '../../../core/image/rect.ts';
import type { Kernels } from '../../../core/kernels/kernels.ts';
import { growMask } from '../../../core/mask/morphology.ts';
import { within, type Task } from '../../../core/progress.ts';
import { findSeams } from '../../../core/seamCarving/findSeams.ts';
import { seamShifts } from '../../../core/seamCarving/seamShifts.ts';
import { maskUnder, renderMark } from '../../marks/renderMark.ts';
import type { StretchParams } from './schema.ts';
import { floatsBy } from '../../../core/numeric/filled.ts';

/** Shifts are evened out over this share of the shorter side. */
const EVEN_SHARE = 0.012;
/** What it costs, in levels, to take out a pixel that is to be kept. */
const KEEP_COST = 1e5;
/** By so much a picture can be narrowed or widened at once. */
const MAX_NARROWED = 0.5;
const MAX_WIDENED = 2;

/**
 * The warps that bring a photo to another size along its least noticeable paths, upright ones for its width, then level
 * ones for its height; `look` is the photo reduced. Paths are found there and applied to the photo as smooth shifts.
 * Throws `out-of-range` for less than half or more than twice a side.
 */
export function* findStretch(params: StretchParams, photo: Size, look: RasterImage, kernels: Kernels): Task<Warp[]> {
  requireStretchable(params, photo);
  const keep = params.keep ? keptIn(params.keep, photo, look) : new Float32Array(look.width * look.height);
  const { left, top, right, bottom } = params.part;
  const warps: Warp[] = [];
  let [picture, kept] = [look, keep];
  if (params.width !== photo.width) {
    const target = Math.round((look.width * params.width) / photo.width);
    const shifts = yield* within(shiftsAlong(picture, kept, target, [left, right]), 0, 0.5);
    const warp = warpOf('x', shifts, look.width / photo.width, { width: params.width, height: photo.height });
    warps.push(warp);
    if (params.height !== photo.height) {
      const reduced = { ...warp, shifts: shifts.shifts, width: target, height: look.height };
      const size = { width: target, height: look.height };
      const keepImage = imageOfPlane(kept, look);
      picture = yield* resampleImage(picture, [reduced], size, kernels);
      kept = planeOfImage(yield* resampleImage(keepImage, [reduced], size, kernels));
    }
  }
  if (params.height !== photo.height) {
    const turned = { width: picture.height, height: picture.width };
    const target = Math.round((look.height * params.height) / photo.height);
    const seams = shiftsAlong(transposedImage(picture), transposed(kept, picture), target, [top, bottom]);
    const { columns, rows, shifts } = yield* within(seams, 0.5, 1);
    const back = { columns: rows, rows: columns, shifts: transposed(shifts, { width: columns, height: rows }) };
    const size = { width: params.width, height: params.height };
    warps.push(warpOf('y', back, turned.width / photo.height, size));
  }
  return warps;
}

function requireStretchable({ width, height }: StretchParams, photo: Size): void {
  for (const [name, to, from] of [
    ['width', width, photo.width],
    ['height', height, photo.height],
  ] as const) {
    const least = Math.ceil(MAX_NARROWED * from);
    const most = Math.floor(MAX_WIDENED * from);
    if (to >= least && to <= most) continue;
    throw new FingoError(
      'out-of-range',
      `A ${name} of ${to} px can't be reached by stretching; use ${least} to ${most} px.`,
    );
  }
}

/** Seams across rows, as shifts of their columns. */
function* shiftsAlong(
  picture: RasterImage,
  kept: Float32Array,
  target: number,
  [from, to]: readonly [number, number],
): Task<ReturnType<typeof seamShifts>> {
  const { width, height, data } = picture;
  const luma = new Float32Array(width * height);
  const keep = kept.slice();
  const [first, last] = [Math.round(from * width), Math.round(to * width)];
  for (let i = 0; i < luma.length; i++) {
    luma[i] = lumaAt(data, 4 * i);
    const x = i % width;
    if (x < first || x >= last) keep[i] = KEEP_COST;
  }
  const order = yield* findSeams({ width, height, luma, keep }, Math.min(width - 1, Math.abs(target - width)));
  return seamShifts(order, width, height, target, evenPx(picture));
}

const evenPx = ({ width, height }: Size): number => Math.max(1, EVEN_SHARE * Math.min(width, height));

/** The warp of the photo that goes with shifts found where a side is `scale` times as long. */
function warpOf(
  axis: 'x' | 'y',
  { columns, rows, shifts }: ReturnType<typeof seamShifts>,
  scale: number,
  size: Size,
): Extract<Warp, { kind: 'displaced' }> {
  return { kind: 'displaced', axis, ...size, columns, rows, shifts: shifts.map((shift) => shift / scale) };
}

/** What it costs to take out each pixel of the look; a little around what is kept, too, so that evening leaves it be. */
function keptIn(mark: NonNullable<StretchParams['keep']>, photo: Size, look: RasterImage): Float32Array {
  const whole = maskUnder(renderMark(mark, photo), wholeOf(photo));
  const scale = { x: photo.width / look.width, y: photo.height / look.height };
  const small = new Uint8Array(look.width * look.height);
  for (let y = 0; y < look.height; y++) {
    for (let x = 0; x < look.width; x++) {
      const at = Math.min(photo.height - 1, Math.floor((y + 0.5) * scale.y)) * photo.width;
      small[y * look.width + x] = whole.data[at + Math.min(photo.width - 1, Math.floor((x + 0.5) * scale.x))]!;
    }
  }
  const grown = growMask({ width: look.width, height: look.height, data: small }, 2 * evenPx(look) + 1);
  return floatsBy(grown.data.length, (i) => (grown.data[i]! > 0 ? KEEP_COST : 0));
}

const transposed = (plane: Float32Array, { width, height }: Size): Float32Array<ArrayBuffer> => {
  const out = new Float32Array(plane.length);
  for (let i = 0; i < plane.length; i++) out[(i % width) * height + Math.floor(i / width)] = plane[i]!;
  return out;
};

function transposedImage({ width, height, data }: RasterImage): RasterImage {
  const out = new Uint8ClampedArray(data.length);
  const from = new Uint32Array(data.buffer, data.byteOffset, width * height);
  const to = new Uint32Array(out.buffer);
  for (let i = 0; i < from.length; i++) to[(i % width) * height + Math.floor(i / width)] = from[i]!;
  return { width: height, height: width, data: out };
}

function imageOfPlane(plane: Float32Array, { width, height }: Size): RasterImage {
  const data = new Uint8ClampedArray(4 * plane.length);
  plane.forEach((value, i) => data.set([value > 0 ? 255 : 0, 0, 0, 255], 4 * i));
  return { width, height, data };
}

const planeOfImage = ({ data }: RasterImage): Float32Array =>
  floatsBy(data.length / 4, (i) => (data[4 * i]! > 127 ? KEEP_COST : 0));
