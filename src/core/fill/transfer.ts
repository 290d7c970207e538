import { solveGrid } from '../blend/gridLaplacian.ts';
import { LANES } from '../blend/gridSteps.ts';
import type { Rect } from '../image/rect.ts';
import { rowBands, rowsOfBand } from '../kernels/bands.ts';
import type { BandWork, Kernels } from '../kernels/kernels.ts';
import { lumaAt } from '../image/luma.ts';
import { LumaSquares, SQUARE_PX } from './lumaSquares.ts';
import { LONGEST_FADE_PX, screeningOf } from './screening.ts';
import { blocksOf, type Blocks } from './seamBlocks.ts';
import { Screening, SHORTEST_FADE_PX } from './screeningField.ts';
import { seamSystem } from './seamSystem.ts';
import type { CopiedPart } from './copiedPart.ts';
import type { SeamSystem } from './seamWork.ts';

/** The correction of a box of more pixels is solved on blocks, so that there are about as many unknowns. */
const MAX_UNKNOWNS = 100_000;

/**
 * Adds to `out` (RGBA of the box, holding what was copied into the part) the tone correction that closes its seams: a
 * screened Poisson field whose gradient is zero where neighbours were copied together, and closes the mean of both
 * sources' step where they were not; fixed at the part's rim so that the copy's tone meets the known pixels'; free
 * towards what is unknown but not of the part. Where it darkens strongly, it dims light parts more than dark ones, as shade
 * does, rather than turning those black, but for soft surroundings, in which nothing is darker than what lies around it. Larger boxes are solved on square blocks, between whose centres it is
 * interpolated as far as they are copied together.
 * S. Darabi et al.: Image Melding, SIGGRAPH, 2012 (screened Poisson); P. Perez et al.: Poisson Image Editing, 2003.
 */
export function closeSeams(copied: CopiedPart, out: Uint8ClampedArray, kernels: Kernels): void {
  const { box, sources } = copied;
  const blocks = blocksOf(box, blockSide(box, sources.largestBlock), kernels);
  const toned = kernels.share(out);
  const squares = new LumaSquares(copied, toned, kernels);
  const even = (fade: number): Screening =>
    new Screening({ box, side: 1, fade: kernels.scratch.floats(1).fill(fade), leastFade: fade });
  // A thing keeps its tone: what its repeats differ by must not add up.
  const screening = copied.isThing
    ? even(SHORTEST_FADE_PX)
    : copied.liesInSoft
      ? even(LONGEST_FADE_PX)
      : screeningOf(box, squares, copied.leastFade);
  const seams = seamSystem(copied, blocks, screening, kernels);
  // A hundredth of the steps to be closed is less than one level after rounding.
  const solution = solveGrid(seams.system, seams.rightSides, kernels, 1e-2, 8);
  const { blockGroups } = seams;
  const means = copied.liesInSoft ? undefined : squares.means();
  const work = { copied, blocks, solution, blockGroups, out: toned, means, across: squares.width };
  kernels.inBands(TONES, work, rowBands(box.height));
  if (toned !== out) out.set(toned);
}

/** The smallest side of blocks that keeps the number of unknowns bounded, but no larger than may be. */
function blockSide(box: Rect, largest: number): number {
  const side = Math.ceil(Math.sqrt((box.width * box.height) / MAX_UNKNOWNS));
  return Math.max(1, Math.min(largest, side));
}

interface TonesWork extends Pick<SeamSystem, 'blockGroups'> {
  copied: CopiedPart;
  blocks: Blocks;
  /** LANES values a block. */
  solution: Float32Array;
  /** What was copied into the box (RGBA), to which tone is added. */
  out: Uint8ClampedArray;
  /** Mean luma around each square of the box, where what darkens is to act as shade, and how many are in a row. */
  means: Float32Array | undefined;
  across: number;
}

/** Adds the solution to a band of the box's rows. */
function tonesBand(work: TonesWork, band: number): void {
  const { from, to } = rowsOfBand(band, work.copied.box.height);
  const add = work.blocks.side === 1 ? addSolutionRow : addInterpolatedRow;
  for (let y = from; y < to; y++) add(work, y);
}

export const TONES: BandWork<TonesWork> = { name: 'tones', band: tonesBand };

/** Row `y` of the box, each of whose pixels is a block. */
function addSolutionRow({ copied, blocks, solution, out, means, across }: TonesWork, y: number): void {
  const { image, part, box } = copied;
  const row = (y + box.y) * image.width + box.x;
  const tones = LANES * y * blocks.width;
  const squares = Math.floor(y / SQUARE_PX) * across;
  for (let x = 0; x < box.width; x++) {
    if (!part[row + x]) continue;
    const at = tones + LANES * x;
    const mean = means?.[squares + Math.floor(x / SQUARE_PX)];
    addTone(out, 4 * (y * box.width + x), solution[at]!, solution[at + 1]!, solution[at + 2]!, mean);
  }
}

/** Corrections darker than this share of the mean around begin to act as shade, and from that share on wholly do. */
const SHADE_FROM = 0.2;
const SHADE_WHOLLY = 0.5;
/** Light parts are darkened so many times as much as the mean at most. */
const MAX_SHADED = 1.6;

/** Adds levels to the pixel that begins at `to`; `mean` is the mean luma around it, if darkening may act as shade. */
function addTone(out: Uint8ClampedArray, to: number, red: number, green: number, blue: number, mean = 0): void {
  const depth = -Math.min(red, green, blue) - SHADE_FROM * mean;
  let share = 1;
  if (depth > 0 && mean > 0) {
    const asShade = Math.min(1, depth / ((SHADE_WHOLLY - SHADE_FROM) * mean));
    share += asShade * (Math.min(MAX_SHADED, lumaAt(out, to) / mean) - 1);
  }
  out[to] = out[to]! + (red < 0 ? red * share : red);
  out[to + 1] = out[to + 1]! + (green < 0 ? green * share : green);
  out[to + 2] = out[to + 2]! + (blue < 0 ? blue * share : blue);
}

/**
 * Row `row` of the box, bilinear between the centres of blocks that are copied together with a pixel. Others are replaced
 * by the pixel's own block or, where that is for another group, by a neighbour of it that is for the pixel's.
 */
function addInterpolatedRow(work: TonesWork, row: number): void {
  const { copied, blocks, solution, blockGroups, out, means } = work;
  const { image, part, box, groups } = copied;
  const y = row + box.y;
  const squares = Math.floor(row / SQUARE_PX) * work.across;
  const { side, across, top, width, height, columns } = blocks;
  const at = new Int32Array(4);
  // Where the four corners lie holds for all pixels between the same ones that are copied together.
  let [lastX0, lastOwn, lastGroup] = [NaN, NaN, NaN];
  const fy = (y + 0.5) / side - 0.5 - top;
  const y0 = Math.floor(fy);
  const below = fy - y0;
  const ownRow = (Math.floor(y / side) - top) * width;
  for (let x = box.x; x < box.x + box.width; x++) {
    if (!part[y * image.width + x]) continue;
    const fx = (x + 0.5) / side - 0.5 - across;
    const x0 = Math.floor(fx);
    const beside = fx - x0;
    const group = groups[(y - box.y) * box.width + x - box.x]!;
    const own = ownRow + columns[x - box.x]!;
    if (x0 !== lastX0 || own !== lastOwn || group !== lastGroup) {
      const home = homeOf(blockGroups, blocks, own, group);
      for (let corner = 0; corner < 4; corner++) {
        const u = x0 + (corner & 1);
        const v = y0 + (corner >> 1);
        const block = v * width + u;
        const together = u >= 0 && v >= 0 && u < width && v < height && blockGroups[block] === group;
        at[corner] = LANES * (together ? block : home);
      }
      lastX0 = x0;
      lastOwn = own;
      lastGroup = group;
    }
    const w0 = (1 - beside) * (1 - below);
    const w1 = beside * (1 - below);
    const w2 = (1 - beside) * below;
    const w3 = beside * below;
    const a0 = at[0]!;
    const a1 = at[1]!;
    const a2 = at[2]!;
    const a3 = at[3]!;
    const red = w0 * solution[a0]! + w1 * solution[a1]! + w2 * solution[a2]! + w3 * solution[a3]!;
    const green = w0 * solution[a0 + 1]! + w1 * solution[a1 + 1]! + w2 * solution[a2 + 1]! + w3 * solution[a3 + 1]!;
    const blue = w0 * solution[a0 + 2]! + w1 * solution[a1 + 2]! + w2 * solution[a2 + 2]! + w3 * solution[a3 + 2]!;
    const mean = means?.[squares + Math.floor((x - box.x) / SQUARE_PX)];
    addTone(out, 4 * ((y - box.y) * box.width + x - box.x), red, green, blue, mean);
  }
}

/** A pixel's own block or, where that is for another group, one beside it that is for the pixel's. */
function homeOf(blockGroups: Float64Array, { width, height }: Blocks, own: number, group: number): number {
  if (blockGroups[own] === group) return own;
  const column = own % width;
  for (const [u, v] of AROUND) {
    const block = own + v * width + u;
    const isThere = column + u >= 0 && column + u < width && block >= 0 && block < width * height;
    if (isThere && blockGroups[block] === group) return block;
  }
  return own;
}

/** The blocks beside one, those that share a side first. */
const AROUND = [
  [-1, 0],
  [1, 0],
  [0, -1],
  [0, 1],
  [-1, -1],
  [1, -1],
  [-1, 1],
  [1, 1],
] as const;
