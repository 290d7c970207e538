import { applyHomography, invertHomography, type Homography, type Point } from '../geometry/homography.ts';
import { solveGrid } from '../blend/gridLaplacian.ts';
import { LANES } from '../blend/gridSteps.ts';
import { placementToAffine, type Affine } from '../image/affine.ts';
import { blurPlane } from '../image/boxBlur.ts';
import { LINEAR_FROM_BYTE, byteFromLinear } from '../image/linearLight.ts';
import { requireSameSize, type RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { resampleAffine, resampleThrough, shrinkOf, type Planes } from '../image/resample.ts';
import { boundsOf, type Mask } from '../mask/mask.ts';
import type { PlacedAbout } from './placedRect.ts';
import { cutSlack } from './slackCut.ts';
import { bytesBy, floatsBy } from '../numeric/filled.ts';

export interface SubjectSource {
  /** Top left corner of the source crop in the photo. */
  at: { x: number; y: number };
  image: RasterImage;
  /** What the user marked; at least a px of unmarked margin around it, except at the photo's edge. */
  mark: Mask;
  /** The subject inside the mark; the rest of the mark is slack. */
  matte: Mask;
  /** Light ratios of the subject's shadow, R, G, B interleaved (see shadowRatio), or undefined to leave it behind. */
  shadow: Float32Array<ArrayBuffer> | undefined;
}

export interface PlaceOptions extends PlacedAbout {
  /** 0 = only the subject itself ... 1 = the whole mark with its slack is brought along (see `cutSlack`). */
  closeness: number;
  /** 0 = the subject's own light ... 1 = that of the place. */
  light: number;
  /** Where shadows go, from photo to photo; without it the same way as the subject. */
  shadowTo?: Homography | undefined;
}

export interface PlacedSubject {
  rect: Rect;
  /** The new place, finished; outside the subject, its shadow and slack exactly the destination's pixels. */
  image: RasterImage;
  /** What the cut around what was brought along costs, in 8-bit levels a step (see `cutSlack`): lower is better. */
  rimCost: number;
}

/**
 * Puts a loosely marked subject onto another place. The subject's own pixels stay as they are (under `light` times the
 * place's light); its rim is freed of the old ground's colour; its shadow darkens the new ground as a ratio of light; of
 * the slack as much comes along as `closeness` says, rather where old and new ground are alike, its tone led by a membrane
 * from the place's at the outside to its own at the subject, so that no correction reaches the subject (Z. Farbman et al.:
 * Coordinates for Instant Image Cloning, SIGGRAPH, 2009, has the same boundary condition on the outside only).
 *
 * `destination` is the photo under `rect` (from `placedRect`), old place already cleared. Throws `size-mismatch`.
 */
export function placeSubject(
  source: SubjectSource,
  destination: RasterImage,
  rect: Rect,
  options: PlaceOptions,
  kernels: Kernels,
): PlacedSubject {
  requireSameSize(source.image, source.mark, 'The mark');
  requireSameSize(source.image, source.matte, 'The matte');
  requireSameSize(rect, destination, 'The destination');
  const toPlace = placementToAffine(options.placement, options.centre);
  const layer = carry(source, toPlace, options.shadowTo, rect);
  const gain = lightGain(layer, destination, options.light);
  const base = shadedPlace(layer, destination);
  const cut = cutSlack({ ...layer, difference: differenceFromPlace(layer, base, gain) }, options.closeness);
  const along = (share: number, i: number): number => Math.max(layer.matte[i]!, layer.mark[i]! * share);
  const cover = options.closeness > 0 ? cut.brought.map(along) : layer.matte;
  const correction = options.closeness > 0 ? slackCorrection(layer, cover, base, gain, kernels) : undefined;
  return { rect, image: compose(layer, cover, base, gain, correction, destination), rimCost: cut.cost };
}

/** The subject's planes on the destination grid. */
interface Layer {
  width: number;
  height: number;
  /** RGB as photographed, encoded values. */
  own: Float32Array;
  /** RGB with the rim's old ground taken out. */
  clean: Float32Array;
  matte: Float32Array;
  mark: Float32Array;
  /** How much of the light is taken away, R, G, B interleaved, 0..1. */
  shade: Float32Array;
}

const CHANNELS = 8;

function carry(source: SubjectSource, toPlace: Affine, shadowTo: Homography | undefined, rect: Rect): Layer {
  const { image, mark, matte } = source;
  const clean = decontaminated(image, matte);
  const n = image.width * image.height;
  const planes: Planes = {
    width: image.width,
    height: image.height,
    channels: CHANNELS,
    data: new Float32Array(n * CHANNELS),
  };
  for (let i = 0; i < n; i++) {
    const to = i * CHANNELS;
    for (let c = 0; c < 3; c++) {
      planes.data[to + c] = image.data[4 * i + c]!;
      planes.data[to + 3 + c] = clean[3 * i + c]!;
    }
    planes.data[to + 6] = matte.data[i]! / 255;
    planes.data[to + 7] = mark.data[i]! / 255;
  }
  const placed = resampleAffine(planes, source.at, toPlace, rect);
  const m = rect.width * rect.height;
  const layer: Layer = {
    width: rect.width,
    height: rect.height,
    own: new Float32Array(3 * m),
    clean: new Float32Array(3 * m),
    matte: new Float32Array(m),
    mark: new Float32Array(m),
    shade: carryShade(source, toPlace, shadowTo, rect),
  };
  for (let i = 0; i < m; i++) {
    const from = i * CHANNELS;
    for (let c = 0; c < 3; c++) {
      layer.own[3 * i + c] = placed.data[from + c]!;
      layer.clean[3 * i + c] = placed.data[from + 3 + c]!;
    }
    layer.matte[i] = unit(placed.data[from + 6]!);
    layer.mark[i] = unit(placed.data[from + 7]!);
  }
  return layer;
}

const unit = (v: number): number => Math.max(0, Math.min(1, v));

function carryShade(
  { image: { width, height }, shadow, at }: SubjectSource,
  toPlace: Affine,
  shadowTo: Homography | undefined,
  rect: Rect,
): Float32Array {
  if (!shadow) return new Float32Array(3 * rect.width * rect.height);
  const isDark = bytesBy(width * height, (i) => (darknessAt(shadow, i) > 0 ? 255 : 0));
  const dark = boundsOf({ width, height, data: isDark });
  // Kept as darkness, so that what lies outside (0) means no shadow.
  const planes: Planes = { ...dark, channels: 3, data: new Float32Array(3 * dark.width * dark.height) };
  for (let y = 0; y < dark.height; y++) {
    const from = 3 * ((y + dark.y) * width + dark.x);
    for (let k = 0; k < 3 * dark.width; k++) planes.data[3 * y * dark.width + k] = 1 - shadow[from + k]!;
  }
  const darkAt = { x: at.x + dark.x, y: at.y + dark.y };
  // About its foot a shadow shrinks as the subject does.
  const placed = shadowTo
    ? resampleThrough(planes, darkAt, backThrough(shadowTo), shrinkOf(toPlace), rect)
    : resampleAffine(planes, darkAt, toPlace, rect);
  return placed.data.map(unit);
}

const darknessAt = (ratios: Float32Array, i: number): number =>
  1 - Math.min(ratios[3 * i]!, ratios[3 * i + 1]!, ratios[3 * i + 2]!);

/** Back from where a homography leads; not a number beyond its vanishing line. */
function backThrough(h: Homography): (x: number, y: number) => Point {
  const back = invertHomography(h);
  const nowhere = { x: NaN, y: NaN };
  return (x, y) => {
    const from = applyHomography(back, x, y);
    return h[6] * from.x + h[7] * from.y + h[8] > 0 ? from : nowhere;
  };
}

/** Rim pixels take the mean colour of the solid subject beside them, so that the old ground does not come along. */
function decontaminated(image: RasterImage, matte: Mask): Float32Array {
  const { width, height } = image;
  const n = width * height;
  const solid = new Float32Array(n);
  for (let i = 0; i < n; i++) solid[i] = matte.data[i]! >= 245 ? 1 : 0;
  const weight = blurPlane(solid, width, height, 2, 2);
  const out = new Float32Array(3 * n);
  for (let c = 0; c < 3; c++) {
    const plane = new Float32Array(n);
    for (let i = 0; i < n; i++) plane[i] = solid[i]! * image.data[4 * i + c]!;
    const blurred = blurPlane(plane, width, height, 2, 2);
    for (let i = 0; i < n; i++) {
      const mixed = matte.data[i]! > 0 && matte.data[i]! < 245 && weight[i]! > 1e-3;
      out[3 * i + c] = mixed ? blurred[i]! / weight[i]! : image.data[4 * i + c]!;
    }
  }
  return out;
}

/** The ratio of the place's light to the subject's own, by channel, measured where slack and place lie over each other. */
function lightGain(layer: Layer, destination: RasterImage, light: number): number[] {
  const here = [0, 0, 0];
  const there = [0, 0, 0];
  for (let i = 0; i < layer.mark.length; i++) {
    if (layer.mark[i]! < 0.5 || layer.matte[i]! > 0.02 || layer.shade[3 * i + 1]! > 0.02) continue;
    for (let c = 0; c < 3; c++) {
      there[c]! += LINEAR_FROM_BYTE[Math.round(Math.max(0, Math.min(255, layer.own[3 * i + c]!)))]!;
      here[c]! += LINEAR_FROM_BYTE[destination.data[4 * i + c]!]!;
    }
  }
  return here.map((sum, c) => Math.max(0.4, Math.min(2.5, (sum + 1e-3) / (there[c]! + 1e-3))) ** light);
}

/** The place with the subject's shadow on it. */
function shadedPlace({ width, height, shade }: Layer, destination: RasterImage): Float32Array {
  const base = new Float32Array(3 * width * height);
  for (let i = 0; i < width * height; i++) {
    for (let c = 0; c < 3; c++) {
      const value = destination.data[4 * i + c]!;
      const share = 1 - shade[3 * i + c]!;
      base[3 * i + c] = share >= 1 ? value : byteFromLinear(share * LINEAR_FROM_BYTE[value]!);
    }
  }
  return base;
}

/** How far what is brought along is from the place, in levels. */
function differenceFromPlace({ own, mark }: Layer, base: Float32Array, gain: number[]): Float32Array {
  return floatsBy(mark.length, (i) => {
    let sum = 0;
    for (let c = 0; mark[i]! > 0 && c < 3; c++) sum += Math.abs(lit(own[3 * i + c]!, gain[c]!) - base[3 * i + c]!) / 3;
    return sum;
  });
}

/** Tone correction of the slack that comes along: the place's at its outer rim, none at the subject. LANES a pixel. */
function slackCorrection(
  layer: Layer,
  cover: Float32Array,
  base: Float32Array,
  gain: number[],
  kernels: Kernels,
): Float32Array {
  const { width, height, matte } = layer;
  const n = width * height;
  const system = { width, height, right: new Float32Array(n), down: new Float32Array(n), extra: new Float32Array(n) };
  const inSlack = (i: number): boolean => cover[i]! > 0.02 && matte[i]! < 0.5;
  const fixedToPlace = (i: number): boolean => cover[i]! <= 0.02;
  const rightSides = new Float32Array(n * LANES);
  const join = (i: number, j: number, weights: Float32Array): void => {
    if (inSlack(i) && inSlack(j)) {
      weights[i] = 1;
      return;
    }
    const [slack, other] = inSlack(i) ? [i, j] : [j, i];
    if (!inSlack(slack)) return;
    system.extra[slack]! += 1;
    if (!fixedToPlace(other)) return;
    for (let c = 0; c < 3; c++) {
      rightSides[LANES * slack + c]! += base[3 * other + c]! - lit(layer.own[3 * other + c]!, gain[c]!);
    }
  };
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (x + 1 < width) join(i, i + 1, system.right);
      if (y + 1 < height) join(i, i + width, system.down);
    }
  }
  kernels.reset();
  // A hundredth of the step at the rim is far below what is seen after rounding to bytes.
  return solveGrid(system, rightSides, kernels, 1e-2, 8);
}

const lit = (value: number, gain: number): number =>
  gain === 1 ? value : byteFromLinear(gain * LINEAR_FROM_BYTE[Math.round(Math.max(0, Math.min(255, value)))]!);

function compose(
  layer: Layer,
  cover: Float32Array,
  base: Float32Array,
  gain: number[],
  correction: Float32Array | undefined,
  destination: RasterImage,
): RasterImage {
  const { width, height } = layer;
  const data = destination.data.slice();
  for (let i = 0; i < width * height; i++) {
    const share = cover[i]!;
    const shaded = layer.shade[3 * i]! + layer.shade[3 * i + 1]! + layer.shade[3 * i + 2]! > 0;
    if (share === 0 && !shaded) continue;
    const matteShare = share > 0 ? layer.matte[i]! / share : 0;
    for (let c = 0; c < 3; c++) {
      const slack = lit(layer.own[3 * i + c]!, gain[c]!) + (correction ? correction[LANES * i + c]! : 0);
      const brought = matteShare * lit(layer.clean[3 * i + c]!, gain[c]!) + (1 - matteShare) * slack;
      data[4 * i + c] = share * brought + (1 - share) * base[3 * i + c]!;
    }
  }
  return { width, height, data };
}
