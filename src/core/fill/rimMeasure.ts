import { lumaAt } from '../image/luma.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { inflate, intersect, wholeOf, type Rect } from '../image/rect.ts';
import { rowBands, rowsOfBand } from '../kernels/bands.ts';
import type { BandWork, Kernels } from '../kernels/kernels.ts';
import type { Hole } from '../mask/byteMasks.ts';

/** How much the rim of a rebuilt place shows. */
export interface RimMeasures {
  /** 0 = changes across the rim are as strong as just beside it; 1 = e times as strong; below 0 = weaker. */
  rimError: number;
}

/** So many px before the rim lies what its change is compared with. */
const BESIDE_PX = 5;
/** Changes are taken over so many px. */
const ACROSS_PX = 2;
/** Levels added to both means: what is weaker than grain is not seen. */
const UNSEEN = 1;

/**
 * Compares how strongly luma changes across the rim, from the last known pixel into what was rebuilt, with how it changes
 * in the same direction a few px before. `rebuilt` is RGBA of `box`; `hole` has one byte a pixel of `image`, non-zero =
 * rebuilt.
 */
export function measureRim(
  image: RasterImage,
  hole: Hole,
  box: Rect,
  rebuilt: RasterImage,
  kernels: Kernels,
): RimMeasures {
  const window = intersect(inflate(box, 1), wholeOf(image));
  const bands = rowBands(window.height);
  const giveBack = kernels.scratch.hold();
  const sums = kernels.scratch.doubles(SUMS * bands);
  kernels.inBands(RIM_STEPS, { image, hole, box, rebuilt, window, sums }, bands);
  let [across, beside, count] = [0, 0, 0];
  for (let k = 0; k < sums.length; k += SUMS) {
    across += sums[k]!;
    beside += sums[k + 1]!;
    count += sums[k + 2]!;
  }
  giveBack();
  if (count === 0) return { rimError: 0 };
  return { rimError: Math.log((across / count + UNSEEN) / (beside / count + UNSEEN)) };
}

/** A rebuilt place in its picture. */
interface Shown {
  image: RasterImage;
  hole: Hole;
  box: Rect;
  rebuilt: RasterImage;
}

interface RimWork extends Shown {
  window: Rect;
  /** Of each band the sums of steps across the rim and beside it, and how many there are. */
  sums: Float64Array;
}
const SUMS = 3;

/** Sums up the steps in a band of the window's rows. */
function rimStepsBand(work: RimWork, band: number): void {
  const { window } = work;
  const { from, to } = rowsOfBand(band, window.height);
  const sums = work.sums.subarray(SUMS * band, SUMS * (band + 1));
  for (let y = window.y + from; y < window.y + to; y++) addRow(work, window.x, window.x + window.width, y, sums);
}

export const RIM_STEPS: BandWork<RimWork> = { name: 'rimSteps', band: rimStepsBand };

function addRow(shown: Shown, from: number, to: number, y: number, sums: Float64Array): void {
  const { image, hole } = shown;
  const { width, height } = image;
  const row = y * width;
  for (let x = from; x < to; x++) {
    if (hole[row + x] !== 0) continue;
    if (x + 1 < width && hole[row + x + 1] !== 0) compare(shown, x, y, 1, 0, sums);
    if (x > 0 && hole[row + x - 1] !== 0) compare(shown, x, y, -1, 0, sums);
    if (y + 1 < height && hole[row + x + width] !== 0) compare(shown, x, y, 0, 1, sums);
    if (y > 0 && hole[row + x - width] !== 0) compare(shown, x, y, 0, -1, sums);
  }
}

/** From the known pixel (x, y), the last before the rim, which lies in the direction (dx, dy). */
function compare(shown: Shown, x: number, y: number, dx: number, dy: number, sums: Float64Array): void {
  const { image, hole } = shown;
  const { width, height } = image;
  const [u, v] = [x + ACROSS_PX * dx, y + ACROSS_PX * dy];
  const [near, far] = [BESIDE_PX - ACROSS_PX, BESIDE_PX];
  const [p, q] = [x - far * dx, y - far * dy];
  if (u < 0 || v < 0 || u >= width || v >= height || !hole[v * width + u]) return;
  if (p < 0 || q < 0 || p >= width || q >= height || hole[q * width + p]) return;
  const [r, s] = [x - near * dx, y - near * dy];
  if (hole[s * width + r]) return;
  sums[0]! += Math.abs(lumaOf(shown, u, v) - lumaOf(shown, x, y));
  sums[1]! += Math.abs(lumaOf(shown, r, s) - lumaOf(shown, p, q));
  sums[2]! += 1;
}

function lumaOf({ image, hole, box, rebuilt }: Shown, x: number, y: number): number {
  const at = y * image.width + x;
  return hole[at] ? lumaAt(rebuilt.data, 4 * ((y - box.y) * box.width + x - box.x)) : lumaAt(image.data, 4 * at);
}
