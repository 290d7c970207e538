import type { RasterImage } from '../image/rasterImage.ts';
import { boundsOf } from '../mask/mask.ts';
import { inflate, intersect, type Rect } from '../image/rect.ts';
import {
  applyHomography,
  areaScaleAt,
  invertHomography,
  multiplyHomographies,
  squareToQuad,
  type Homography,
} from '../geometry/homography.ts';
import type { PlaneCorners } from '../planes/findPlanes.ts';
import { addBicubicBytes, samplesAlong } from './bicubicSample.ts';
import type { SquareShifts } from './offsetField.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { rowShare } from './rowShare.ts';
import type { Sources } from './sources.ts';

/** A part of a picture seen square on to a plane in it, one px a px in the middle of what is to be rebuilt. */
export interface PlaneView {
  image: RasterImage;
  hole: Uint8Array;
  toView: Homography;
  toPicture: Homography;
  box: Rect;
  /** Whether what the plane shows runs along the view's rows, such as boards and courses of bricks do. */
  hasRows: boolean;
  /** Whether hardly anything parts those rows: boards, but no bricks. */
  rowsRunOn: boolean;
}

const MOST_PIXELS = 1_200_000;
/** Pixels drawn more than twice as coarse as where they would go are no donors; nor those far finer. */
const COARSEST_SCALE = 2;
const FINEST_SCALE = 0.3;
/** Alpha, while drawing, of those that are donors only where the plane has rows. */
const OF_OTHER_SCALE = 128;
const LEAST_ROW_SHARE = 0.25;
/** Between that of brick walls (up to .52) and of boards (from .63 on). */
const LEAST_SHARE_OF_BOARDS = 0.57;
const SMALLEST_MARGIN_PX = 96;
/** Room that the interpolation needs around each sample. */
const KERNEL_PX = 2;

/** Whether edges show that the plane is there; one drawn by hand is everywhere inside its corners. */
export function isShown({ shown }: PlaneCorners, x: number, y: number): boolean {
  return !shown || shown.data[Math.floor(y / shown.side) * shown.width + Math.floor(x / shown.side)] === 1;
}

/** The pixels of the hole that lie inside a plane's corners: 1 there, 0 elsewhere. */
export function pixelsOnPlane(plane: PlaneCorners, hole: Uint8Array, width: number, box: Rect): Uint8Array {
  const toUnit = invertHomography(squareToQuad(plane.corners));
  const on = new Uint8Array(hole.length);
  for (let y = box.y; y < box.y + box.height; y++) {
    for (let x = box.x; x < box.x + box.width; x++) {
      const i = y * width + x;
      if (!hole[i] || !isShown(plane, x, y)) continue;
      const { x: u, y: v } = applyHomography(toUnit, x + 0.5, y + 0.5);
      if (u >= 0 && u < 1 && v >= 0 && v < 1) on[i] = 1;
    }
  }
  return on;
}

/**
 * The picture drawn square on to a plane, around the part (non-zero) that is to be rebuilt on it, at most 1.2
 * megapixels. `unknown` are the pixels without content; `forbidden` those that may not be copied from. In the view
 * pixels not to be copied from are transparent: forbidden ones and, where the plane has no rows that what is copied keeps
 * to, those drawn so small or so large that they would turn out blurred or too fine.
 */
export function viewPlane(
  image: RasterImage,
  part: Uint8Array,
  unknown: Uint8Array,
  forbidden: (x: number, y: number) => boolean,
  plane: PlaneCorners,
): PlaneView {
  const { width, height, data } = image;
  const toUnit = invertHomography(squareToQuad(plane.corners));
  const middle = centroid(part, width);
  const [perU, perV] = pixelsPerUnit(toUnit, middle.x, middle.y);
  const whole = { x: 0, y: 0, width: Math.ceil(perU), height: Math.ceil(perV) };
  const needed = intersect(viewBounds(part, width, toUnit, perU, perV), whole);
  const shrink = Math.min(1, Math.sqrt(MOST_PIXELS / Math.max(1, needed.width * needed.height)));
  const toView = multiplyHomographies(
    [perU * shrink, 0, -needed.x * shrink, 0, perV * shrink, -needed.y * shrink, 0, 0, 1],
    toUnit,
  );
  const toPicture = invertHomography(toView);
  const size = {
    width: Math.max(1, Math.floor(needed.width * shrink)),
    height: Math.max(1, Math.floor(needed.height * shrink)),
  };
  const view = new Uint8ClampedArray(size.width * size.height * 4);
  const hole = new Uint8Array(size.width * size.height);
  const usual = Math.abs(areaScaleAt(toView, middle.x, middle.y));
  for (let y = 0; y < size.height; y++) {
    for (let x = 0; x < size.width; x++) {
      const i = y * size.width + x;
      const at = applyHomography(toPicture, x + 0.5, y + 0.5);
      const px = Math.floor(at.x);
      const py = Math.floor(at.y);
      if (touches(unknown, px, py, width, height)) {
        hole[i] = 1;
        continue;
      }
      const scale = Math.sqrt(Math.abs(areaScaleAt(toView, at.x, at.y)) / usual);
      const step = scale < 0.7 ? 0.25 / scale : 0;
      addBilinear(data, width, height, at.x, at.y, step, view, 4 * i);
      const isOfScale = scale <= COARSEST_SCALE && scale >= FINEST_SCALE;
      view[4 * i + 3] = forbidden(px, py) ? 0 : isOfScale ? 255 : OF_OTHER_SCALE;
    }
  }
  const drawn = { ...size, data: view };
  const ofRows = rowShare(drawn);
  const hasRows = ofRows > LEAST_ROW_SHARE;
  for (let i = 3; i < view.length; i += 4) if (view[i] === OF_OTHER_SCALE) view[i] = hasRows ? 255 : 0;
  return {
    image: drawn,
    hole,
    hasRows,
    rowsRunOn: ofRows > LEAST_SHARE_OF_BOARDS,
    toView,
    toPicture,
    box: boundsOf({ ...size, data: hole.map((h) => 255 * h) }),
  };
}

function centroid(part: Uint8Array, width: number): { x: number; y: number } {
  let [x, y, count] = [0, 0, 0];
  for (let i = 0; i < part.length; i++) {
    if (!part[i]) continue;
    x += (i % width) + 0.5;
    y += Math.floor(i / width) + 0.5;
    count++;
  }
  return { x: x / count, y: y / count };
}

/** How many view pixels a unit of the plane needs in both directions to be drawn one to one at (x, y). */
function pixelsPerUnit(toUnit: Homography, x: number, y: number): [number, number] {
  const right = applyHomography(toUnit, x + 0.5, y);
  const left = applyHomography(toUnit, x - 0.5, y);
  const below = applyHomography(toUnit, x, y + 0.5);
  const above = applyHomography(toUnit, x, y - 0.5);
  return [1 / Math.hypot(right.x - left.x, below.x - above.x), 1 / Math.hypot(right.y - left.y, below.y - above.y)];
}

/** The box of the part in view pixels, with a margin of its longest side. */
function viewBounds(part: Uint8Array, width: number, toUnit: Homography, perU: number, perV: number): Rect {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < part.length; i++) {
    if (!part[i]) continue;
    const { x, y } = applyHomography(toUnit, (i % width) + 0.5, Math.floor(i / width) + 0.5);
    x0 = Math.min(x0, x * perU);
    x1 = Math.max(x1, x * perU);
    y0 = Math.min(y0, y * perV);
    y1 = Math.max(y1, y * perV);
  }
  const tight = {
    x: Math.floor(x0),
    y: Math.floor(y0),
    width: Math.ceil(x1) - Math.floor(x0),
    height: Math.ceil(y1) - Math.floor(y0),
  };
  return inflate(tight, Math.max(SMALLEST_MARGIN_PX, tight.width, tight.height));
}

/** Whether anything that interpolating at a pixel reads is unknown or outside. */
function touches(unknown: Uint8Array, px: number, py: number, width: number, height: number): boolean {
  if (px < KERNEL_PX || py < KERNEL_PX || px >= width - KERNEL_PX || py >= height - KERNEL_PX) return true;
  // Nothing of a hole is thinner than what is stepped over.
  for (let v = py - KERNEL_PX; v <= py + KERNEL_PX; v += KERNEL_PX) {
    for (let u = px - KERNEL_PX; u <= px + KERNEL_PX; u += KERNEL_PX) if (unknown[v * width + u]) return true;
  }
  return false;
}

/** The colour at a point between pixels; with a `step`, the mean of four points that far around it. */
function addBilinear(
  data: Uint8ClampedArray,
  width: number,
  height: number,
  x: number,
  y: number,
  step: number,
  out: Uint8ClampedArray,
  at: number,
): void {
  const points = step === 0 ? 1 : 4;
  for (let c = 0; c < 3; c++) {
    let sum = 0;
    for (let k = 0; k < points; k++) {
      const sx = Math.max(0, Math.min(width - 1.001, x - 0.5 + (points === 1 ? 0 : k & 1 ? step : -step)));
      const sy = Math.max(0, Math.min(height - 1.001, y - 0.5 + (points === 1 ? 0 : k & 2 ? step : -step)));
      const x0 = Math.floor(sx);
      const y0 = Math.floor(sy);
      const fx = sx - x0;
      const fy = sy - y0;
      const i = 4 * (y0 * width + x0) + c;
      const top = data[i]! * (1 - fx) + data[i + 4]! * fx;
      const bottom = data[i + 4 * width]! * (1 - fx) + data[i + 4 * width + 4]! * fx;
      sum += top * (1 - fy) + bottom * fy;
    }
    out[at + c] = sum / points;
  }
}

/** What a shift of the view by (dx, dy) px is called as a group; never 0. */
const REACH = 32768;
/** Tone is corrected on blocks up to this side where the part is large; along a plane offsets change slowly. */
const LARGEST_BLOCK = 4;
const groupOf = (dx: number, dy: number): number => (dy + REACH) * 2 * REACH + dx + REACH;
const shiftOf = (group: number): { dx: number; dy: number } => ({
  dx: (group % (2 * REACH)) - REACH,
  dy: Math.floor(group / (2 * REACH)) - REACH,
});

/** Sources at offsets along the plane: copied through the view's correspondence, resampled once, from the picture. */
export function planeSources(image: RasterImage, hole: Uint8Array, view: PlaneView, cells: SquareShifts): Sources {
  const { toView, toPicture } = view;
  const cellGroups = new Float64Array(cells.dx.length);
  for (let i = 0; i < cellGroups.length; i++) cellGroups[i] = groupOf(cells.dx[i]!, cells.dy[i]!);
  const { width, height, factor, left, top } = cells;
  return new PlaneSources({
    image,
    hole,
    view: { toView, toPicture },
    cells: { width, height, factor, left, top },
    cellGroups,
  });
}

interface PlaneData {
  image: RasterImage;
  hole: Uint8Array;
  view: Pick<PlaneView, 'toView' | 'toPicture'>;
  cells: Omit<SquareShifts, 'dx' | 'dy'>;
  cellGroups: Float64Array;
}

export class PlaneSources implements Sources, PlaneData {
  readonly kind = 'onPlane';
  readonly largestBlock = LARGEST_BLOCK;
  readonly image: RasterImage;
  readonly hole: Uint8Array;
  readonly view: PlaneData['view'];
  readonly cells: PlaneData['cells'];
  readonly cellGroups: Float64Array;

  constructor({ image, hole, view, cells, cellGroups }: PlaneData) {
    this.image = image;
    this.hole = hole;
    this.view = view;
    this.cells = cells;
    this.cellGroups = cellGroups;
  }

  shared({ share }: Pick<Kernels, 'share'>): Sources {
    const { image, hole, view, cells, cellGroups } = this;
    const { width, height, data } = image;
    return new PlaneSources({
      image: { width, height, data: share(data) },
      hole: share(hole),
      view,
      cells,
      cellGroups: share(cellGroups),
    });
  }

  groupAt(x: number, y: number): number {
    const { cells } = this;
    const at = applyHomography(this.view.toView, x + 0.5, y + 0.5);
    const cx = Math.max(0, Math.min(cells.width - 1, Math.floor((at.x - cells.left) / cells.factor)));
    const cy = Math.max(0, Math.min(cells.height - 1, Math.floor((at.y - cells.top) / cells.factor)));
    return this.cellGroups[cy * cells.width + cx]!;
  }

  sourceOf(x: number, y: number): { x: number; y: number } {
    const { toView, toPicture } = this.view;
    const here = applyHomography(toView, x + 0.5, y + 0.5);
    const { dx, dy } = shiftOf(this.groupAt(x, y));
    return applyHomography(toPicture, here.x + dx, here.y + dy);
  }

  sample(group: number, x: number, y: number, out: Float32Array): boolean {
    const { width, height, data } = this.image;
    const { toView, toPicture } = this.view;
    const { dx, dy } = shiftOf(group);
    const here = applyHomography(toView, x + 0.5, y + 0.5);
    const middle = applyHomography(toPicture, here.x + dx, here.y + dy);
    if (!(middle.x >= 0 && middle.y >= 0 && middle.x < width && middle.y < height)) return false;
    if (this.hole[Math.floor(middle.y) * width + Math.floor(middle.x)] !== 0) return false;
    const enlarged = Math.abs(areaScaleAt(toView, x + 0.5, y + 0.5) * areaScaleAt(toPicture, here.x + dx, here.y + dy));
    const steps = samplesAlong(enlarged);
    out.fill(0);
    for (let v = 0; v < steps; v++) {
      for (let u = 0; u < steps; u++) {
        const p = steps === 1 ? here : applyHomography(toView, x + (u + 0.5) / steps, y + (v + 0.5) / steps);
        const q = applyHomography(toPicture, p.x + dx, p.y + dy);
        addBicubicBytes(data, width, height, q.x, q.y, 1 / (steps * steps), out);
      }
    }
    return true;
  }

  /** The colour of the first pixel of the part that has one; black where none has. */
  private firstColour(part: Uint8Array, box: Rect): Float32Array {
    const colour = new Float32Array(3);
    for (let y = box.y; y < box.y + box.height; y++) {
      for (let x = box.x; x < box.x + box.width; x++) {
        if (part[y * this.image.width + x] && this.sample(this.groupAt(x, y), x, y, colour)) return colour;
      }
    }
    return colour;
  }

  copy(part: Uint8Array, box: Rect, out: Uint8ClampedArray): void {
    const { width } = this.image;
    // A pixel whose source is no place to copy from, by a trifle, shows what its neighbour does.
    const colour = this.firstColour(part, box);
    for (let y = box.y; y < box.y + box.height; y++) {
      for (let x = box.x; x < box.x + box.width; x++) {
        if (!part[y * width + x]) continue;
        this.sample(this.groupAt(x, y), x, y, colour);
        const to = 4 * ((y - box.y) * box.width + x - box.x);
        for (let c = 0; c < 3; c++) out[to + c] = colour[c]!;
        out[to + 3] = 255;
      }
    }
  }
}
