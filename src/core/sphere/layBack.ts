import { resampleThrough } from '../geometry/resampleImage.ts';
import type { CarryBack } from '../geometry/warp.ts';
import { requireSameSize, type RasterImage } from '../image/rasterImage.ts';
import { intersect, wholeOf, type Rect, type Size } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { squaredDistanceTo } from '../mask/distanceTransform.ts';
import { createMask, type Mask } from '../mask/mask.ts';
import type { Task } from '../progress.ts';
import type { SpherePixels } from './lookAround.ts';
import { sphereToView, type SphereView } from './sphereView.ts';

/** Around what was changed, view and sphere are blended over so many px of the view. */
const RIM_PX = 6;
/** Toward the view's edge whatever is changed fades out over so many px of the view. */
const EDGE_PX = 4;
/** The sphere is written in squares of this side, found by blocks of that side. */
const SQUARE_PX = 256;
const MAX_BLOCK_PX = 16;
/** Blocks are so small that one that lies partly behind a view can't be seen in it. */
const BLOCKS_AROUND = 400;
/** The way onto the view bends slowly: it is followed so far apart. */
const NODE_PX = 8;

/** New pixels of a rectangle of the sphere. */
export interface LaidBack {
  rect: Rect;
  image: RasterImage;
}

/**
 * What was changed in a view, written back onto the sphere: squares of the sphere in which px near a changed px of the
 * view are resampled from it, blended over a rim of 6 px of the view around the change; all others are the sphere's own,
 * bit for bit. Squares without a changed px are left out, so that an unchanged view gives none. Cost follows the change.
 * Throws where the two views differ in size.
 */
export function* layBack(
  sphere: SpherePixels,
  view: SphereView,
  before: RasterImage,
  after: RasterImage,
  kernels: Kernels,
): Task<LaidBack[]> {
  requireSameSize(before, after, 'The changed view');
  const share = shareOf(before, after);
  if (!share) return [];
  const forward = sphereToView(view, sphere);
  const squares = touchedSquares(forward, share, sphere);
  const out: LaidBack[] = [];
  for (const [k, rect] of squares.entries()) {
    const local: CarryBack = (points, count) => {
      for (let i = 0; i < 2 * count; i += 2) {
        points[i] = points[i]! + rect.x;
        points[i + 1] = points[i + 1]! + rect.y;
      }
      forward(points, count);
    };
    const seen = yield* resampleThrough(after, local, rect, kernels, { nodePx: NODE_PX });
    const image = sphere.crop(rect);
    if (blendOver(image, seen, share, local)) out.push({ rect, image });
    yield { stage: 'Writing back to the sphere', share: (k + 1) / squares.length };
  }
  return out;
}

/** How far each px of the view stands for the sphere's, 0-255: wholly where it was changed; undefined if nowhere. */
function shareOf(before: RasterImage, after: RasterImage): Mask | undefined {
  const { width, height } = after;
  const changed = createMask(width, height);
  const [from, to] = [before, after].map(
    ({ data }) => new Uint32Array(data.buffer, data.byteOffset, width * height),
  ) as [Uint32Array, Uint32Array];
  let isChanged = false;
  for (let i = 0; i < to.length; i++) {
    if (from[i] === to[i]) continue;
    changed.data[i] = 255;
    isChanged = true;
  }
  if (!isChanged) return undefined;
  const distance = squaredDistanceTo(changed, true);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const near = 1 - Math.sqrt(distance[i]!) / RIM_PX;
      if (near <= 0) continue;
      const inward = Math.min(x, y, width - 1 - x, height - 1 - y) / EDGE_PX;
      changed.data[i] = Math.round(255 * Math.min(near, inward, 1));
    }
  }
  return changed;
}

/** The squares of the sphere in which something of the share may lie. */
function touchedSquares(forward: CarryBack, share: Mask, sphere: Size): Rect[] {
  const sums = summedAreas(share);
  const blockPx = Math.max(2, Math.min(MAX_BLOCK_PX, Math.round(sphere.width / BLOCKS_AROUND)));
  const columns = Math.ceil(sphere.width / blockPx);
  const rows = Math.ceil(sphere.height / blockPx);
  const corners = new Float64Array(4 * (columns + 1));
  const touched = new Map<string, Rect>();
  for (let row = 0; row < rows; row++) {
    for (let line = 0; line < 2; line++) {
      for (let column = 0; column <= columns; column++) {
        const k = 2 * (line * (columns + 1) + column);
        corners[k] = Math.min(sphere.width, column * blockPx);
        corners[k + 1] = Math.min(sphere.height, (row + line) * blockPx);
      }
    }
    forward(corners, 2 * (columns + 1));
    for (let column = 0; column < columns; column++) {
      const at = [0, 1, columns + 1, columns + 2].map((offset) => 2 * (column + offset));
      const xs = at.map((k) => corners[k]!);
      const ys = at.map((k) => corners[k + 1]!);
      if (xs.some(Number.isNaN)) continue;
      // A block bends a little between its corners.
      const reach = 2 + 0.25 * (spread(xs) + spread(ys));
      const box = intersect(
        boxAround(Math.min(...xs) - reach, Math.min(...ys) - reach, Math.max(...xs) + reach, Math.max(...ys) + reach),
        wholeOf(share),
      );
      if (box.width <= 0 || box.height <= 0 || sumOver(sums, share.width, box) === 0) continue;
      const x = Math.floor((column * blockPx) / SQUARE_PX) * SQUARE_PX;
      const y = Math.floor((row * blockPx) / SQUARE_PX) * SQUARE_PX;
      touched.set(`${y} ${x}`, intersect({ x, y, width: SQUARE_PX, height: SQUARE_PX }, wholeOf(sphere)));
    }
  }
  return [...touched.values()];
}

const spread = (values: readonly number[]): number => Math.max(...values) - Math.min(...values);

/** The px between some points, drawn in to what a picture can be. */
function boxAround(left: number, top: number, right: number, bottom: number): Rect {
  const within = (value: number): number => Math.max(-1, Math.min(1e5, value));
  const [x, y] = [Math.floor(within(left)), Math.floor(within(top))];
  return { x, y, width: Math.ceil(within(right)) + 1 - x, height: Math.ceil(within(bottom)) + 1 - y };
}

/** How many px with some share lie above and to the left of each corner of a px. */
function summedAreas({ width, height, data }: Mask): Uint32Array {
  const sums = new Uint32Array((width + 1) * (height + 1));
  for (let y = 0; y < height; y++) {
    let line = 0;
    for (let x = 0; x < width; x++) {
      if (data[y * width + x]) line++;
      sums[(y + 1) * (width + 1) + x + 1] = sums[y * (width + 1) + x + 1]! + line;
    }
  }
  return sums;
}

function sumOver(sums: Uint32Array, width: number, { x, y, width: w, height: h }: Rect): number {
  const at = (column: number, row: number): number => sums[row * (width + 1) + column]!;
  return at(x + w, y + h) - at(x, y + h) - at(x + w, y) + at(x, y);
}

/** Lays what the view shows over the sphere's own px by its share. In place; false where nothing is laid. */
function blendOver(image: RasterImage, seen: RasterImage, share: Mask, local: CarryBack): boolean {
  const { width, height, data } = image;
  const line = new Float64Array(2 * width);
  let isLaid = false;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      line[2 * x] = x + 0.5;
      line[2 * x + 1] = y + 0.5;
    }
    local(line, width);
    for (let x = 0; x < width; x++) {
      const part = shareAt(share, line[2 * x]!, line[2 * x + 1]!);
      if (part === 0) continue;
      const i = 4 * (y * width + x);
      const own = (1 - part) * data[i + 3]!;
      const new_ = part * seen.data[i + 3]!;
      const alpha = own + new_;
      if (alpha <= 0) continue;
      for (let c = i; c < i + 3; c++) data[c] = Math.round((own * data[c]! + new_ * seen.data[c]!) / alpha);
      data[i + 3] = Math.round(alpha);
      isLaid = true;
    }
  }
  return isLaid;
}

/** The share at a point of the view, between its four nearest px, 0..1; nothing outside. */
function shareAt({ width, height, data }: Mask, x: number, y: number): number {
  if (!(x > 0.5 && y > 0.5 && x < width - 0.5 && y < height - 0.5)) return 0;
  const [column, row] = [Math.floor(x - 0.5), Math.floor(y - 0.5)];
  const [fx, fy] = [x - 0.5 - column, y - 0.5 - row];
  const i = row * width + column;
  const right = column + 1 < width ? 1 : 0;
  const below = row + 1 < height ? width : 0;
  const above = data[i]! + fx * (data[i + right]! - data[i]!);
  const under = data[i + below]! + fx * (data[i + below + right]! - data[i + below]!);
  return (above + fy * (under - above)) / 255;
}
