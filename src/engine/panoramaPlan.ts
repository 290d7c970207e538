import { resampleThrough } from '../core/geometry/resampleImage.ts';
import { halveImage } from '../core/image/halve.ts';
import type { RasterImage } from '../core/image/rasterImage.ts';
import { inflate, intersect, isEmpty, type Rect, type Size } from '../core/image/rect.ts';
import { rasteriseStroke } from '../core/mask/brush.ts';
import { largestRectangle } from '../core/mask/largestRectangle.ts';
import { assignFrames, NO_FRAME, type PulledMask } from '../core/panorama/assignFrames.ts';
import { turnDirection, type Camera, type Direction, type Rotation } from '../core/panorama/camera.ts';
import { composePanorama, reachOf, type Assignment, type Layer } from '../core/panorama/composePanorama.ts';
import { evenOut } from '../core/panorama/evenOut.ts';
import { findGhosts, type Ghost } from '../core/panorama/findGhosts.ts';
import { layOut, scaleLayout, type Layout, type ProjectionChoice } from '../core/panorama/layOut.ts';
import { strongestTree } from '../core/panorama/overlaps.ts';
import { backToFrame, extentOf, placeOf } from '../core/panorama/projection.ts';
import { turnAll } from '../core/panorama/straighten.ts';
import { drain, within, type Task } from '../core/progress.ts';
import { scaleOf, type Found } from './foundFrames.ts';
import { perform, report, type Watch } from './perform.ts';

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

const OVERVIEW_PX = 700_000;
/** Bands blended at full size, for frames about 2000 px wide and above. */
const LEVELS = 5;
/** Frames more than so many times larger than they are wanted are halved first. */
const SHRUNK = 1.6;
/** Places are found so far apart: in between, a turned camera's picture bends by less than a hundredth of a px. */
const NODE_PX = 8;

/** Where a frame lies when its pixels are those of a smaller copy. */
const smallCamera = (camera: Camera, scale: number): Camera => ({ ...camera, focalPx: camera.focalPx * scale });

/** Lays the panorama out and puts it together small. Throws `out-of-range` where the projection can't show it. */
export function* planPanorama(found: Found, { projection, turn, pulled }: PanoramaSettings): Task<PanoramaPlan> {
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
    const laid = drain(resampleThrough(image, back, small.bounds, kernels, { nodePx: NODE_PX }));
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

/** The panorama, or a part of it (px of the projection), at full size. */
export async function renderPanorama(found: Found, plan: PanoramaPlan, part: Rect, watch: Watch): Promise<RasterImage> {
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
    const carrying = within(resampleThrough(image, back, rect, kernels, { nodePx: NODE_PX }), from, to);
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
  // A px of the small panorama at its rim may be covered in part: one less on each side.
  const top = Math.ceil((y + small.bounds.y + 1) * scale);
  const bottom = Math.floor((y + height + small.bounds.y - 1) * scale);
  const rows = { y: top, height: Math.max(1, bottom - top) };
  const { bounds } = layout;
  if (layout.closed && width === small.bounds.width) return { x: bounds.x, width: bounds.width, ...rows };
  const left = Math.ceil((x + small.bounds.x + 1) * scale);
  const right = Math.floor((x + width + small.bounds.x - 1) * scale);
  return { x: left, width: Math.max(1, right - left), ...rows };
}
