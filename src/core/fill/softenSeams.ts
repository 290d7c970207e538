import { rowBands, rowsOfBand } from '../kernels/bands.ts';
import type { BandWork, Kernels } from '../kernels/kernels.ts';
import type { CopiedPart } from './copiedPart.ts';

/**
 * Where one thing ends and another begins, not only the pixels either side of a seam differ by more levels than this in a
 * channel, but their means over so many px around do, too.
 */
const HARD_STEP = 48;
const AROUND_PX = 4;
/** The binomial kernel of five, whose standard deviation is one pixel, as sharp as a photo draws an edge. */
const KERNEL = [1, 4, 6, 4, 1] as const;
const REACH = 2;

/**
 * Softens seams along which one thing ends and another begins, in `out` (RGBA of the box): cut out pixel by pixel they are
 * harder than a lens draws any edge, and show as stairs. Of each pixel on such a seam and of those around it a Gaussian
 * mean over the part is taken. Everything else keeps its detail. Returns how many pixels lie on such seams, on both sides.
 */
export function softenSeams(
  { image, part, box, groups }: CopiedPart,
  out: Uint8ClampedArray,
  kernels: Kernels,
): number {
  const giveBack = kernels.scratch.hold();
  const { scratch, share, inBands } = kernels;
  const bands = rowBands(box.height);
  const work = {
    across: image.width,
    part,
    box,
    groups,
    made: share(out),
    isHard: scratch.bytes(groups.length),
    hardPixels: scratch.ints(bands),
  };
  inBands(HARD_SEAMS, work, bands);
  const onHardSeams = work.hardPixels.reduce((sum, count) => sum + count, 0);
  if (onHardSeams > 0) {
    const sharp = scratch.bytes(out.length);
    sharp.set(work.made);
    inBands(SOFTEN, { ...work, sharp }, bands);
    if (work.made !== out) out.set(work.made);
  }
  giveBack();
  return onHardSeams;
}

interface HardSeamsWork extends Pick<CopiedPart, 'part' | 'box' | 'groups'> {
  /** Pixels in a row of the picture. */
  across: number;
  /** RGBA of the box. */
  made: Uint8ClampedArray;
  /** A byte a pixel of the box: 1 for those on a hard seam; and how many these are in each band. */
  isHard: Uint8Array;
  hardPixels: Int32Array;
}

const isCopied = ({ across, part, box }: HardSeamsWork, x: number, y: number): boolean =>
  x >= 0 && y >= 0 && x < box.width && y < box.height && part[(y + box.y) * across + x + box.x] !== 0;

/** Marks the pixels of a band that lie on a hard seam. */
function hardSeamsBand(work: HardSeamsWork, band: number): void {
  const { box, groups, isHard, hardPixels } = work;
  const { width, height } = box;
  const { from, to } = rowsOfBand(band, height);
  for (let y = from; y < to; y++) {
    const [up, down] = [y > 0 ? -width : 0, y < height - 1 ? width : 0];
    for (let x = 0; x < width; x++) {
      const p = y * width + x;
      const own = groups[p]!;
      const [left, right] = [x > 0 ? p - 1 : p, x < width - 1 ? p + 1 : p];
      if (groups[left] === own && groups[right] === own && groups[p + up] === own && groups[p + down] === own) continue;
      if (!isCopied(work, x, y)) continue;
      const isOnSeam =
        isHardStep(work, x, y, 1, 0) ||
        isHardStep(work, x, y, -1, 0) ||
        isHardStep(work, x, y, 0, 1) ||
        isHardStep(work, x, y, 0, -1);
      if (!isOnSeam) continue;
      isHard[p] = 1;
      hardPixels[band]!++;
    }
  }
}

export const HARD_SEAMS: BandWork<HardSeamsWork> = { name: 'hardSeams', band: hardSeamsBand };

/** Whether one thing ends at (x, y), and another begins beside it. */
function isHardStep(work: HardSeamsWork, x: number, y: number, across: number, down: number): boolean {
  const { box, groups, made } = work;
  const p = y * box.width + x;
  const q = p + down * box.width + across;
  if (!isCopied(work, x + across, y + down) || groups[p] === groups[q]) return false;
  if (mostApart(made, 4 * p, made, 4 * q) <= HARD_STEP) return false;
  return mostApart(meanAround(work, x, y, groups[p]!), 0, meanAround(work, x, y, groups[q]!), 0) > HARD_STEP;
}

/** What two colours differ by most in a channel. */
function mostApart(a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number): number {
  const [red, green, blue] = [a[i]! - b[j]!, a[i + 1]! - b[j + 1]!, a[i + 2]! - b[j + 2]!];
  return Math.max(Math.abs(red), Math.abs(green), Math.abs(blue));
}

/** The mean colour of what is copied together as `group` around a pixel that lies on its edge. */
function meanAround(work: HardSeamsWork, x: number, y: number, group: number): readonly [number, number, number] {
  const { box, groups, made } = work;
  let [red, green, blue, count] = [0, 0, 0, 0];
  for (let v = y - AROUND_PX; v <= y + AROUND_PX; v++) {
    for (let u = x - AROUND_PX; u <= x + AROUND_PX; u++) {
      const p = v * box.width + u;
      if (groups[p] !== group || !isCopied(work, u, v)) continue;
      red += made[4 * p]!;
      green += made[4 * p + 1]!;
      blue += made[4 * p + 2]!;
      count++;
    }
  }
  return [red / count, green / count, blue / count];
}

interface SoftenWork extends HardSeamsWork {
  /** What was made, as it was. */
  sharp: Uint8Array;
}

/** Softens the pixels of a band on hard seams and beside them. */
function softenBand(work: SoftenWork, band: number): void {
  const { box, isHard } = work;
  const { from, to } = rowsOfBand(band, box.height);
  for (let y = Math.max(0, from - 1); y < Math.min(box.height, to + 1); y++) {
    for (let x = 0; x < box.width; x++) {
      if (!isHard[y * box.width + x]) continue;
      for (let v = Math.max(from, y - 1); v < Math.min(to, y + 2); v++) {
        for (let u = x - 1; u <= x + 1; u++) if (isCopied(work, u, v)) soften(work, u, v);
      }
    }
  }
}

export const SOFTEN: BandWork<SoftenWork> = { name: 'soften', band: softenBand };

function soften(work: SoftenWork, x: number, y: number): void {
  const { box, sharp, made } = work;
  let [red, green, blue, weights] = [0, 0, 0, 0];
  for (let t = -REACH; t <= REACH; t++) {
    for (let s = -REACH; s <= REACH; s++) {
      if (!isCopied(work, x + s, y + t)) continue;
      const weight = KERNEL[s + REACH]! * KERNEL[t + REACH]!;
      const from = 4 * ((y + t) * box.width + x + s);
      red += weight * sharp[from]!;
      green += weight * sharp[from + 1]!;
      blue += weight * sharp[from + 2]!;
      weights += weight;
    }
  }
  const to = 4 * (y * box.width + x);
  made[to] = red / weights;
  made[to + 1] = green / weights;
  made[to + 2] = blue / weights;
}
