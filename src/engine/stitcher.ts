import { lumaAt } from '../core/image/luma.ts';
import { FingoError } from '../core/errors.ts';
import { halveImage } from '../core/image/halve.ts';
import type { RasterImage } from '../core/image/rasterImage.ts';
import type { Rect, Size } from '../core/image/rect.ts';
import type { Kernels } from '../core/kernels/kernels.ts';
import { alignFrames } from '../core/panorama/align.ts';
import { evenOut } from '../core/panorama/evenOut.ts';
import { findExposure } from '../core/panorama/exposure.ts';
import { groupFrames, type Overlap } from '../core/panorama/overlaps.ts';
import type { GreyFrame } from '../core/panorama/refineOverlap.ts';
import { straighten } from '../core/panorama/straighten.ts';
import { within } from '../core/progress.ts';
import type { Features, Vision } from '../vision/vision.ts';
import { scaleOf, type Found, type FrameFile } from './foundFrames.ts';
import { planPanorama, renderPanorama, type PanoramaPlan, type PanoramaSettings } from './panoramaPlan.ts';
import { perform, report, type Watch } from './perform.ts';
import { reportOf, type StitchReport } from './stitchReport.ts';

/** Frames are halved until their longer side is at most this, for placing points finely. */
const LONGEST_PX = 2400;
/** The same for finding features, and for deciding on seams and exposure. */
const LONGEST_FOR_FEATURES_PX = 1250;
const LONGEST_SMALL_PX = 1000;
/** Each is compared with each. */
const MAX_FRAMES = 60;
/** A frame with fewer features shows nothing that could be found again. */
const FEWEST_FEATURES = 20;
/** Frames whose points moved less than this share of the width are the same frame twice. */
const SAME_SHARE = 0.002;
interface Prepared {
  size: Size;
  grey: GreyFrame;
  small: RasterImage;
  features: Features;
}

export interface Stitcher {
  report: StitchReport;
  /** Lays the panorama out and puts it together small. Throws `out-of-range` where the projection can't show it. */
  plan(settings: PanoramaSettings, watch?: Watch): Promise<PanoramaPlan>;
  /** The panorama, or a part of it (px of the projection), at full size. */
  render(plan: PanoramaPlan, part: Rect, watch?: Watch): Promise<RasterImage>;
}

/**
 * Finds out how frames hang together. Throws `bad-arguments` where there is no panorama in them.
 *
 * @param mostPx the largest panorama
 */
export async function openStitcher(
  files: readonly FrameFile[],
  vision: Vision,
  kernels: Kernels,
  mostPx: number,
  watch: Watch = {},
): Promise<Stitcher> {
  if (files.length < 2) {
    throw new FingoError(
      'bad-arguments',
      'One frame makes no panorama; add at least one more that overlaps it by a third.',
    );
  }
  if (files.length > MAX_FRAMES) {
    throw new FingoError(
      'bad-arguments',
      `${files.length} frames are more than can be stitched at a time; take out all but ${MAX_FRAMES}.`,
    );
  }
  const opened: Prepared[] = [];
  for (const [index, file] of files.entries()) {
    report(watch, `Looking at ${file.name}`, (0.5 * index) / files.length);
    opened.push(prepare(await file.open(), vision));
    watch.signal?.throwIfAborted();
  }
  // Worked on in an order of their own, so that the order in which they came changes nothing.
  const given = [...files.keys()].sort((a, b) => compareBytes(opened[a]!.small.data, opened[b]!.small.data) || a - b);
  const prepared = given.map((index) => opened[index]!);
  const sizes = prepared.map(({ size }) => size);
  const { overlaps, same } = await findOverlaps(prepared, vision, watch);
  const groups = groupFrames(files.length, overlaps);
  if (groups[0]!.length < 2) throw apart(prepared);
  const focalShare = given.map((index) => files[index]!).find(({ focalShare: share }) => share)?.focalShare;
  const points = prepared.map(({ features }) => features.points);
  const greys = prepared.map(({ grey }) => grey);
  const aligning = within(alignFrames(sizes, overlaps, points, greys, focalShare), 0.75, 0.95);
  const alignment = await perform(aligning, watch);
  const small = prepared.map((frame) => frame.small);
  report(watch, 'Comparing exposures', 0.95);
  const exposure = findExposure(alignment.overlaps, alignment.cameras, sizes, small);
  const cameras = straighten(alignment.cameras, alignment.frames);
  const even = small.map((image, index) => evenOut(image, exposure, index));
  const found: Found = {
    files: given.map((index) => files[index]!),
    given,
    sizes,
    alignment,
    cameras,
    exposure,
    even,
    kernels,
    mostPx,
  };
  return {
    report: reportOf(found, prepared.map(isPlain), groups, same),
    plan: (settings, planWatch = {}) => perform(planPanorama(found, settings), planWatch),
    render: (plan, part, renderWatch = {}) => renderPanorama(found, plan, part, renderWatch),
  };
}

function prepare(image: RasterImage, vision: Vision): Prepared {
  const size = { width: image.width, height: image.height };
  const fine = halvedTo(image, LONGEST_PX);
  const coarse = halvedTo(fine, LONGEST_FOR_FEATURES_PX);
  const features = vision.findFeatures(greyOf(coarse, size));
  return { size, grey: greyOf(fine, size), small: halvedTo(coarse, LONGEST_SMALL_PX), features };
}

function halvedTo(image: RasterImage, longestPx: number): RasterImage {
  let halved = image;
  while (Math.max(halved.width, halved.height) > longestPx) halved = halveImage(halved);
  return halved;
}

function greyOf({ width, height, data }: RasterImage, full: Size): GreyFrame {
  const grey = new Uint8Array(width * height);
  for (let i = 0, k = 0; i < grey.length; i++, k += 4) {
    grey[i] = lumaAt(data, k) + 0.5;
  }
  return { width, height, scale: scaleOf(full, { width, height }), data: grey };
}

function compareBytes(a: ArrayLike<number>, b: ArrayLike<number>): number {
  const differs = Array.prototype.findIndex.call(a, (value: number, i: number) => value !== b[i]);
  return differs < 0 ? a.length - b.length : a[differs]! - (b[differs] ?? -1);
}

async function findOverlaps(
  prepared: readonly Prepared[],
  vision: Vision,
  watch: Watch,
): Promise<{ overlaps: Overlap[]; same: Map<number, number> }> {
  const features = prepared.map((frame) => frame.features);
  const overlaps: Overlap[] = [];
  const same = new Map<number, number>();
  const pairs = (prepared.length * (prepared.length - 1)) / 2;
  let done = 0;
  for (let a = 0; a < prepared.length; a++) {
    for (let b = a + 1; b < prepared.length; b++, done++) {
      if (same.has(a) || same.has(b)) continue;
      report(watch, 'Finding what frames have in common', 0.5 + (0.25 * done) / pairs);
      const overlap = vision.findOverlap(a, b, features);
      if (overlap && isSame(overlap, prepared[a]!.size, prepared[b]!.size)) same.set(b, a);
      else if (overlap) overlaps.push(overlap);
    }
    await new Promise((resolve) => setTimeout(resolve, 0));
    watch.signal?.throwIfAborted();
  }
  return { overlaps: overlaps.filter(({ a, b }) => !same.has(a) && !same.has(b)), same };
}

function isSame(overlap: Overlap, a: Size, b: Size): boolean {
  if (a.width !== b.width || a.height !== b.height) return false;
  const moved = [...overlap.from.keys()].map((k) => Math.abs(overlap.from[k]! - overlap.to[k]!)).sort((x, y) => x - y);
  return moved[moved.length >> 1]! < SAME_SHARE * a.width;
}

function apart(prepared: readonly Prepared[]): FingoError {
  return new FingoError(
    'bad-arguments',
    prepared.some(isPlain)
      ? 'These frames are too blurred or too plain to find what they have in common; take sharper ones, or join two photos with a space between.'
      : 'No two of these frames show the same thing; add frames that overlap by a third, or join two photos with a space between.',
  );
}

const isPlain = ({ features }: Prepared): boolean => features.points.length / 2 < FEWEST_FEATURES;
