import { FingoError } from '../core/errors.ts';
import { halveImage } from '../core/image/halve.ts';
import type { RasterImage } from '../core/image/rasterImage.ts';
import { inflate, intersect, isEmpty, type Rect, type Size } from '../core/image/rect.ts';
import { resampleThrough } from '../core/geometry/resampleImage.ts';
import type { Homography } from '../core/geometry/homography.ts';
import type { Kernels } from '../core/kernels/kernels.ts';
import { alignFrames, type Alignment } from '../core/panorama/align.ts';
import { largestRectangle } from '../core/mask/largestRectangle.ts';
import { assignFrames, NO_FRAME, type PulledMask } from '../core/panorama/assignFrames.ts';
import {
  homographyBetween,
  turnDirection,
  type Camera,
  type Direction,
  type Rotation,
} from '../core/panorama/camera.ts';
import { composePanorama, reachOf, type Assignment, type Layer } from '../core/panorama/composePanorama.ts';
import { evenOut } from '../core/panorama/evenOut.ts';
import { findGhosts, type Ghost } from '../core/panorama/findGhosts.ts';
import { findExposure, type Exposure } from '../core/panorama/exposure.ts';
import { layOut, scaleLayout, type Layout, type ProjectionChoice } from '../core/panorama/layOut.ts';
import { groupFrames, strengthOf, strongestTree, type Overlap } from '../core/panorama/overlaps.ts';
import { rasteriseStroke } from '../core/mask/brush.ts';
import { backToFrame, extentOf, placeOf } from '../core/panorama/projection.ts';
import type { GreyFrame } from '../core/panorama/refineOverlap.ts';
import { straighten, turnAll } from '../core/panorama/straighten.ts';
import { drain, within, type Task } from '../core/progress.ts';
import { perform, type Watch } from './perform.ts';
import type { Features, Vision } from '../vision/vision.ts';

/** A frame that is to be part of a panorama. Opened more than once: its pixels are not kept. */
export interface FrameFile {
  name: string;
  /** Focal length by the longer side, where the file tells it. */
  focalShare?: number | undefined;
  open(): Promise<RasterImage>;
}

/** Why a frame is not part of the panorama. */
export type LeftOut = 'featureless' | 'apart' | 'same';

export interface FrameReport extends Size {
  name: string;
  used: boolean;
  why?: LeftOut;
  /** The frame that this one is the same as. */
  sameAs?: number;
  /** Which group of frames that hang together it belongs to, the largest being 0. */
  group: number;
  rotation?: Rotation;
  focalPx?: number;
  /** Exposure in linear light, that of the first used frame being 1. */
  gain?: number;
  reprojectionErrorPx?: number;
  /** From px of this frame to px of the first used one. */
  homography?: Homography;
}

export interface OverlapReport {
  a: number;
  b: number;
  /** Points that agree, and those compared. */
  agreeing: number;
  compared: number;
}

export interface StitchReport {
  frames: FrameReport[];
  overlaps: OverlapReport[];
  /** Used frames by how they lie: rows from left to right, top to bottom. */
  order: number[];
}

/** What is chosen about the panorama, beyond the frames. */
export interface PanoramaSettings {
  projection: ProjectionChoice;
  /** Turns everything after it was straightened by itself. */
  turn: Rotation;
  /** Where a frame is asked for by hand. */
  pulled: readonly PulledStroke[];
}

/** A stroke of the hand for which a frame is wanted. */
export interface PulledStroke {
  frame: number;
  /** Directions of the world as it is straightened by itself. */
  path: readonly Direction[];
  radiusRad: number;
}

/** A panorama laid out and put together small. */
export interface PanoramaPlan {
  layout: Layout;
  /** Small: what each px is taken from, and how it will look. */
  assignment: Assignment;
  overview: RasterImage;
  /** Where things were cut or doubled, px of the projection. */
  ghosts: Ghost[];
  /** Straightened and turned. */
  cameras: Camera[];
  /** By frame as `assignment` counts them: its place in the order in which they came. */
  given: number[];
}

/** Frames are halved until their longer side is at most this, for placing points finely. */
const LONGEST_PX = 2400;
/** The same for finding features, and for deciding on seams and exposure. */
const LONGEST_FOR_FEATURES_PX = 1250;
const LONGEST_SMALL_PX = 1000;
const OVERVIEW_PX = 700_000;
/** A frame with fewer features shows nothing that could be found again. */
const FEWEST_FEATURES = 20;
/** Frames whose points moved less than this share of the width are the same frame twice. */
const SAME_SHARE = 0.002;
/** Bands blended at full size, for frames about 2000 px wide and above. */
const LEVELS = 5;

/** Frames more than so many times larger than they are wanted are halved first. */
const SHRUNK = 1.6;
/** Places are found so far apart: in between, a turned camera's picture bends by less than a hundredth of a px. */
const NODE_PX = 8;

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
    report: reportOf(found, prepared, groups, same),
    plan: (settings, planWatch = {}) => perform(planPanorama(found, settings), planWatch),
    render: (plan, part, renderWatch = {}) => renderPanorama(found, plan, part, renderWatch),
  };
}

/** Everything known about frames that hang together. */
interface Found {
  files: readonly FrameFile[];
  /** By frame: its place in the order in which they came. */
  given: number[];
  sizes: Size[];
  alignment: Alignment;
  /** Straightened. */
  cameras: Camera[];
  exposure: Exposure;
  /** Frames small, equally bright. */
  even: RasterImage[];
  kernels: Kernels;
  mostPx: number;
}

const report = ({ onProgress }: Watch, stage: string, share: number): void => onProgress?.({ stage, share });

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
    grey[i] = 0.299 * data[k]! + 0.587 * data[k + 1]! + 0.114 * data[k + 2]! + 0.5;
  }
  return { width, height, scale: scaleOf(full, { width, height }), data: grey };
}

function compareBytes(a: ArrayLike<number>, b: ArrayLike<number>): number {
  const differs = Array.prototype.findIndex.call(a, (value: number, i: number) => value !== b[i]);
  return differs < 0 ? a.length - b.length : a[differs]! - (b[differs] ?? -1);
}

/** Of a picture that was halved some times (its odd sides rounded up). */
const scaleOf = (full: Size, halved: Size): number => 1 / 2 ** Math.round(Math.log2(full.width / halved.width));

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
  const isPlain = prepared.some(({ features }) => features.points.length / 2 < FEWEST_FEATURES);
  return new FingoError(
    'bad-arguments',
    isPlain
      ? 'These frames are too blurred or too plain to find what they have in common; take sharper ones, or join two photos with a space between.'
      : 'No two of these frames show the same thing; add frames that overlap by a third, or join two photos with a space between.',
  );
}

function reportOf(
  { files, given, sizes, alignment, cameras, exposure }: Found,
  prepared: readonly Prepared[],
  groups: readonly number[][],
  same: ReadonlyMap<number, number>,
): StitchReport {
  const first = given.indexOf(Math.min(...alignment.frames.map((frame) => given[frame]!)));
  const meanGain = (frame: number): number => Math.cbrt(exposure.gains[frame]!.reduce((all, gain) => all * gain, 1));
  const reportOn = (frame: number): FrameReport => {
    const size = sizes[frame]!;
    const about = { name: files[frame]!.name, ...size, group: groups.findIndex((members) => members.includes(frame)) };
    if (same.has(frame)) return { ...about, used: false, why: 'same', sameAs: given[same.get(frame)!]! };
    if (!alignment.frames.includes(frame)) {
      const isPlain = prepared[frame]!.features.points.length / 2 < FEWEST_FEATURES;
      return { ...about, used: false, why: isPlain ? 'featureless' : 'apart' };
    }
    const camera = cameras[frame]!;
    return {
      ...about,
      used: true,
      rotation: camera.rotation,
      focalPx: camera.focalPx,
      gain: meanGain(frame) / meanGain(first),
      reprojectionErrorPx: (alignment.errorsPx[frame]! * Math.max(size.width, size.height)) / 2000,
      homography: homographyBetween(camera, size, cameras[first]!, sizes[first]!),
    };
  };
  const overlaps = alignment.overlaps.map((overlap): OverlapReport => {
    const [a, b] = [given[overlap.a]!, given[overlap.b]!].sort((x, y) => x - y);
    return { a: a!, b: b!, agreeing: strengthOf(overlap), compared: overlap.compared };
  });
  overlaps.sort((x, y) => x.a - y.a || x.b - y.b);
  const frames = files.map((_, place) => reportOn(given.indexOf(place)));
  return { frames, overlaps, order: orderOf(cameras, alignment.frames).map((frame) => given[frame]!) };
}

/** Frames from left to right; where several lie above one another, from top to bottom. */
function orderOf(cameras: readonly Camera[], frames: readonly number[]): number[] {
  const place = (frame: number) => {
    const r = cameras[frame]!.rotation;
    return { frame, yaw: Math.atan2(r[2], r[8]), down: r[5] };
  };
  // Those within a tenth of a radian of one another stand in one column.
  const sorted = frames.map(place).sort((a, b) => Math.round(10 * (a.yaw - b.yaw)) || a.down - b.down);
  return sorted.map(({ frame }) => frame);
}

/** Where a frame lies when its pixels are those of a smaller copy. */
const smallCamera = (camera: Camera, scale: number): Camera => ({ ...camera, focalPx: camera.focalPx * scale });

function* planPanorama(found: Found, { projection, turn, pulled }: PanoramaSettings): Task<PanoramaPlan> {
  const { sizes, alignment, even, kernels } = found;
  const cameras = turnAll(found.cameras, turn);
  const layout = layOut(cameras, sizes, alignment.frames, projection, found.mostPx);
  const { width, height } = layout.bounds;
  const small = scaleLayout(layout, Math.min(1, Math.sqrt(OVERVIEW_PX / (width * height))));
  const root = alignment.frames[0]!;
  const joined = [root, ...strongestTree(root, alignment.overlaps).map(({ frame }) => frame)];
  const layers: Layer[] = [];
  for (const [done, frame] of joined.entries()) {
    yield { stage: 'Laying the frames out', share: (0.5 * done) / joined.length };
    // No larger than it will be seen: fewer samples a px then.
    let image = even[frame]!;
    const focalPx = cameras[frame]!.focalPx;
    while (scaleOf(sizes[frame]!, image) * focalPx > SHRUNK * small.projection.scale) image = halveImage(image);
    const scale = scaleOf(sizes[frame]!, image);
    const size = { width: sizes[frame]!.width * scale, height: sizes[frame]!.height * scale };
    const back = backToFrame(small.projection, small.bounds, smallCamera(cameras[frame]!, scale), size);
    const laid = drain(resampleThrough(image, back, small.bounds, kernels, NODE_PX));
    layers.push({ frame, rect: small.bounds, image: laid });
  }
  yield { stage: 'Placing the seams', share: 0.5 };
  const masks = pulled.map((stroke) => pulledMask(stroke, found.given.indexOf(stroke.frame), turn, small));
  const labels = assignFrames(layers, layout.closed, masks);
  const assignment = { layout: small, labels };
  const overview = yield* within(composePanorama(layers, assignment, small, small.bounds, LEVELS - 1), 0.8, 1);
  const scale = layout.projection.scale / small.projection.scale;
  const ghosts = findGhosts(layers, labels).map((ghost) => ({
    ...ghost,
    x: (ghost.x + 0.5 + small.bounds.x) * scale,
    y: (ghost.y + 0.5 + small.bounds.y) * scale,
  }));
  return { layout, assignment, overview, ghosts, cameras, given: found.given };
}

function pulledMask({ path, radiusRad }: PulledStroke, frame: number, turn: Rotation, small: Layout): PulledMask {
  const { projection, bounds } = small;
  const points = path.flatMap((direction) => {
    const place = placeOf(projection, ...turnDirection(direction, turn));
    return Number.isFinite(place.x) ? [place.x - bounds.x, place.y - bounds.y] : [];
  });
  const tip = { radiusPx: Math.max(1, radiusRad * projection.scale), hardness: 1, intensity: 1 };
  return { frame, mask: rasteriseStroke(points, tip, bounds.width, bounds.height) };
}

async function renderPanorama(found: Found, plan: PanoramaPlan, part: Rect, watch: Watch): Promise<RasterImage> {
  const { files, sizes, alignment, exposure, kernels } = found;
  const { layout, assignment, cameras } = plan;
  const layers: Layer[] = [];
  for (const [done, frame] of alignment.frames.entries()) {
    const stage = `Carrying ${files[frame]!.name} over`;
    const [from, to] = [0, 1].map((k) => (0.7 * (done + k)) / alignment.frames.length) as [number, number];
    report(watch, stage, from);
    const rect = influence(assignment, layout, cameras[frame]!, sizes[frame]!, frame, part);
    if (isEmpty(rect)) continue;
    const image = evenOut(await files[frame]!.open(), exposure, frame);
    const back = backToFrame(layout.projection, rect, cameras[frame]!, sizes[frame]!);
    const carrying = within(resampleThrough(image, back, rect, kernels, NODE_PX), from, to);
    const named: Watch = { ...watch, onProgress: ({ share }) => report(watch, stage, share) };
    layers.push({ frame, rect, image: await perform(carrying, named) });
  }
  return perform(within(composePanorama(layers, assignment, layout, part, LEVELS), 0.7, 1), watch);
}

/** The part of a frame, px of the projection, that can be seen in a part of the panorama: what it was chosen for, and as far as blending reaches. */
function influence(
  { layout: small, labels }: Assignment,
  layout: Layout,
  camera: Camera,
  size: Size,
  frame: number,
  part: Rect,
): Rect {
  const extent = extentOf(layout.projection, camera, size)!;
  const scale = layout.projection.scale / small.projection.scale;
  const turn = layout.closed ? layout.bounds.width : 0;
  const middle = extent.x + extent.width / 2;
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  const { width } = small.bounds;
  for (let i = 0; i < labels.length; i++) {
    if (labels[i] !== frame) continue;
    let x = ((i % width) + small.bounds.x) * scale;
    if (turn) x -= turn * Math.round((x - middle) / turn);
    const y = (Math.floor(i / width) + small.bounds.y) * scale;
    left = Math.min(left, x);
    right = Math.max(right, x + scale);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y + scale);
  }
  if (left > right) return { x: 0, y: 0, width: 0, height: 0 };
  const [x, y] = [Math.floor(left), Math.floor(top)];
  const chosen = { x, y, width: Math.ceil(right) - x, height: Math.ceil(bottom) - y };
  const seen = intersect(inflate(chosen, Math.ceil(scale) + reachOf(LEVELS)), extent);
  return turn ? seen : intersect(seen, inflate(part, reachOf(LEVELS)));
}

/** The largest part of a panorama, px of the projection, without a gap. */
export function coveredRect({ layout, assignment }: PanoramaPlan): Rect {
  const { layout: small, labels } = assignment;
  const { x, y, width, height } = largestRectangle(small.bounds, (i) => labels[i] !== NO_FRAME);
  const scale = layout.projection.scale / small.projection.scale;
  // A px of the small panorama at its rim may be covered in part: one less on each side, unless its ends meet.
  const inset = layout.closed && width === small.bounds.width ? 0 : 1;
  const left = Math.ceil((x + small.bounds.x + inset) * scale);
  const top = Math.ceil((y + small.bounds.y + 1) * scale);
  return {
    x: inset ? left : layout.bounds.x,
    y: top,
    width: inset ? Math.max(1, Math.floor((x + width + small.bounds.x - inset) * scale) - left) : layout.bounds.width,
    height: Math.max(1, Math.floor((y + height + small.bounds.y - 1) * scale) - top),
  };
}
