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
import { rowBands } from '../kernels/bands.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { Hole, PartMask } from '../mask/byteMasks.ts';
import { DRAW_PLANE, OF_OTHER_SCALE, type AllowedOnPlane } from './drawPlane.ts';
import { rowShare } from './rowShare.ts';
import { isShown } from './shownPlane.ts';

/** A part of a picture seen square on to a plane in it, one px a px in the middle of what is to be rebuilt. */
export interface PlaneView {
  image: RasterImage;
  hole: Hole;
  toView: Homography;
  toPicture: Homography;
  box: Rect;
  /** Whether what the plane shows runs along the view's rows, such as boards and courses of bricks do. */
  hasRows: boolean;
  /** Whether hardly anything parts those rows: boards, but no bricks. */
  rowsRunOn: boolean;
}

const MAX_PIXELS = 1_200_000;
const MIN_ROW_SHARE = 0.25;
/** Between that of brick walls (up to .52) and of boards (from .63 on). */
const MIN_SHARE_OF_BOARDS = 0.57;
const SMALLEST_MARGIN_PX = 96;

/** The pixels of the hole that lie inside a plane's corners: 1 there, 0 elsewhere. */
export function pixelsOnPlane(plane: PlaneCorners, hole: Hole, width: number, box: Rect): Uint8Array {
  const toUnit = invertHomography(squareToQuad(plane.corners));
  const on = new Uint8Array(hole.length);
  for (let y = box.y; y < box.y + box.height; y++) {
    for (let x = box.x; x < box.x + box.width; x++) {
      const i = y * width + x;
      if (!hole[i] || !isShown(plane.shown, x, y)) continue;
      const { x: u, y: v } = applyHomography(toUnit, x + 0.5, y + 0.5);
      if (u >= 0 && u < 1 && v >= 0 && v < 1) on[i] = 1;
    }
  }
  return on;
}

/**
 * The picture drawn square on to a plane, around the part (non-zero, in `partBox`) that is to be rebuilt on it, at most
 * 1.2 megapixels. `unknown` are the pixels without content. In the view pixels not to be copied from are transparent:
 * those that are not `allowed` and, where the plane has no rows that what is copied keeps to, those drawn so small or so
 * large that they would turn out blurred or too fine. With helper threads the view lives in the kernels' scratch.
 */
export function viewPlane(
  image: RasterImage,
  part: PartMask,
  partBox: Rect,
  unknown: Hole,
  allowed: AllowedOnPlane,
  plane: Pick<PlaneCorners, 'corners'>,
  { share, inBands }: Pick<Kernels, 'share' | 'inBands'>,
): PlaneView {
  const { width, height } = image;
  const toUnit = invertHomography(squareToQuad(plane.corners));
  const middle = centroid(part, width, partBox);
  const [perU, perV] = pixelsPerUnit(toUnit, middle.x, middle.y);
  const whole = { x: 0, y: 0, width: Math.ceil(perU), height: Math.ceil(perV) };
  const needed = intersect(viewBounds(part, width, partBox, toUnit, perU, perV), whole);
  const shrink = Math.min(1, Math.sqrt(MAX_PIXELS / Math.max(1, needed.width * needed.height)));
  const toView = multiplyHomographies(
    [perU * shrink, 0, -needed.x * shrink, 0, perV * shrink, -needed.y * shrink, 0, 0, 1],
    toUnit,
  );
  const toPicture = invertHomography(toView);
  const size = {
    width: Math.max(1, Math.floor(needed.width * shrink)),
    height: Math.max(1, Math.floor(needed.height * shrink)),
  };
  const view = share(new Uint8ClampedArray(size.width * size.height * 4));
  const hole = share(new Uint8Array(size.width * size.height));
  const { shown } = allowed;
  const drawing = {
    image: { width, height, data: share(image.data) },
    unknown: share(unknown),
    allowed: {
      hole: share(allowed.hole),
      ...(allowed.donors && { donors: share(allowed.donors) }),
      ...(shown && { shown: { ...shown, data: share(shown.data) } }),
    },
    toView,
    toPicture,
    usual: Math.abs(areaScaleAt(toView, middle.x, middle.y)),
    ...size,
    view,
    hole,
  };
  inBands(DRAW_PLANE, drawing, rowBands(size.height));
  const drawn = { ...size, data: view };
  const ofRows = rowShare(drawn);
  const hasRows = ofRows > MIN_ROW_SHARE;
  for (let i = 3; i < view.length; i += 4) if (view[i] === OF_OTHER_SCALE) view[i] = hasRows ? 255 : 0;
  return {
    image: drawn,
    hole,
    hasRows,
    rowsRunOn: ofRows > MIN_SHARE_OF_BOARDS,
    toView,
    toPicture,
    box: boundsOf({ ...size, data: hole.map((h) => 255 * h) }),
  };
}

function centroid(part: PartMask, width: number, box: Rect): { x: number; y: number } {
  let [x, y, count] = [0, 0, 0];
  for (let v = box.y; v < box.y + box.height; v++) {
    for (let u = box.x; u < box.x + box.width; u++) {
      if (!part[v * width + u]) continue;
      x += u + 0.5;
      y += v + 0.5;
      count++;
    }
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
function viewBounds(part: PartMask, across: number, box: Rect, toUnit: Homography, perU: number, perV: number): Rect {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let v = box.y; v < box.y + box.height; v++) {
    for (let u = box.x; u < box.x + box.width; u++) {
      if (!part[v * across + u]) continue;
      const { x, y } = applyHomography(toUnit, u + 0.5, v + 0.5);
      x0 = Math.min(x0, x * perU);
      x1 = Math.max(x1, x * perU);
      y0 = Math.min(y0, y * perV);
      y1 = Math.max(y1, y * perV);
    }
  }
  const tight = {
    x: Math.floor(x0),
    y: Math.floor(y0),
    width: Math.ceil(x1) - Math.floor(x0),
    height: Math.ceil(y1) - Math.floor(y0),
  };
  return inflate(tight, Math.max(SMALLEST_MARGIN_PX, tight.width, tight.height));
}
