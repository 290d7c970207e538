import type { RasterImage } from '../image/rasterImage.ts';
import { applyHomography, areaScaleAt, type Homography } from '../geometry/homography.ts';
import { rowsOfBand } from '../kernels/bands.ts';
import type { BandWork } from '../kernels/kernels.ts';
import type { Donors, Hole } from '../mask/byteMasks.ts';
import { isShown, type Shown } from './shownPlane.ts';

/** Pixels drawn more than twice as coarse as where they would go are no donors; nor those far finer. */
const COARSEST_SCALE = 2;
const FINEST_SCALE = 0.3;
/** Alpha, while drawing, of those that are donors only where the plane has rows. */
export const OF_OTHER_SCALE = 128;
/** Room that the interpolation needs around each sample. */
const KERNEL_PX = 2;

/** From where a view may be copied: not from the hole, from donors (255) only, or else from where the plane shows. */
export interface AllowedOnPlane {
  hole: Hole;
  donors?: Donors;
  shown?: Shown;
}

/** A picture to be drawn square on to a plane in it. */
interface PlaneDrawing {
  image: RasterImage;
  /** Picture size, non-zero where there is no content. */
  unknown: Hole;
  allowed: AllowedOnPlane;
  toView: Homography;
  toPicture: Homography;
  /** By how much the view enlarges areas in the middle of what is to be rebuilt. */
  usual: number;
  /** The view: RGBA with how far a pixel is a donor as alpha, and what of it is unknown. */
  width: number;
  height: number;
  view: Uint8ClampedArray;
  hole: Hole;
}

/** Draws a band of the view's rows. */
function drawBand(drawing: PlaneDrawing, band: number): void {
  const { image, unknown, allowed, toView, toPicture, usual, width, height, view, hole } = drawing;
  const { from, to } = rowsOfBand(band, height);
  for (let y = from; y < to; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const at = applyHomography(toPicture, x + 0.5, y + 0.5);
      // Beside the picture its edge goes on: rebuilt is only what ends at something unknown there.
      const px = nearestInside(at.x, image.width);
      const py = nearestInside(at.y, image.height);
      if (touches(unknown, px, py, image.width)) {
        hole[i] = 1;
        continue;
      }
      const scale = Math.sqrt(Math.abs(areaScaleAt(toView, at.x, at.y)) / usual);
      const step = scale < 0.7 ? 0.25 / scale : 0;
      addBilinear(image.data, image.width, image.height, at.x, at.y, step, view, 4 * i);
      const isOfScale = scale <= COARSEST_SCALE && scale >= FINEST_SCALE;
      const isInside = px === Math.floor(at.x) && py === Math.floor(at.y);
      const isDonor = isInside && isAllowed(allowed, px, py, image.width);
      view[4 * i + 3] = !isDonor ? 0 : isOfScale ? 255 : OF_OTHER_SCALE;
    }
  }
}

export const DRAW_PLANE: BandWork<PlaneDrawing> = { name: 'drawPlane', band: drawBand };

function isAllowed({ hole, donors, shown }: AllowedOnPlane, x: number, y: number, width: number): boolean {
  const i = y * width + x;
  if (hole[i] !== 0) return false;
  return donors ? donors[i] === 255 : isShown(shown, x, y);
}

/** The pixel nearest to a coordinate that has room around it. */
const nearestInside = (at: number, length: number): number =>
  Math.max(KERNEL_PX, Math.min(length - 1 - KERNEL_PX, Math.floor(at)));

/** Whether anything that interpolating at a pixel reads is unknown. */
function touches(unknown: Hole, px: number, py: number, width: number): boolean {
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
