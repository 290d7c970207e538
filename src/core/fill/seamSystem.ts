import { LANES } from '../blend/gridSteps.ts';
import { bandCount } from '../kernels/bands.ts';
import type { BandWork, Kernels } from '../kernels/kernels.ts';
import { BLOCK_GROUPS } from './blockGroups.ts';
import type { CopiedPart } from './copiedPart.ts';
import type { Screening } from './screeningField.ts';
import type { Blocks } from './seamBlocks.ts';
import { AROUND_PX, blockRows, rowsOf, type SeamSystem, type SystemWork } from './seamWork.ts';
import { SystemMaker } from './systemMaker.ts';

/**
 * Sets up the system; `screening` is how strongly the solution is held back at each pixel. It lives in the kernels'
 * scratch.
 */
export function seamSystem(copied: CopiedPart, blocks: Blocks, screening: Screening, kernels: Kernels): SeamSystem {
  const { box } = copied;
  const { width, height } = blocks;
  const { scratch } = kernels;
  const n = width * height;
  const bands = bandCount(height, blockRows(blocks));
  const squares = Math.ceil(box.width / AROUND_PX) + 1;
  const allSquares = squares * (Math.ceil(box.height / AROUND_PX) + 1);
  const work: SystemWork = {
    copied,
    blocks,
    screening,
    system: { width, height, right: scratch.floats(n), down: scratch.floats(n), extra: scratch.floats(n) },
    rightSides: scratch.floats(n * LANES),
    blockGroups: scratch.doubles(n).fill(NaN),
    squares,
    allSquares,
    sums: scratch.floats(4 * allSquares * bands),
  };
  kernels.inBands(BLOCK_GROUPS, work, bands);
  kernels.inBands(SEAMS, work, bands);
  const { sums } = work;
  for (let at = 4 * allSquares; at < sums.length; at++) sums[at % (4 * allSquares)]! += sums[at]!;
  kernels.inBands(RIM, work, bands);
  return work;
}

/** Adds what a band's blocks have to do with each other and with those above and below; sums up steps at the rim. */
function seamsBand(work: SystemWork, band: number): void {
  const maker = new SystemMaker(work, band);
  for (let y = maker.from; y < maker.to; y++) maker.addRow(y);
}

export const SEAMS: BandWork<SystemWork> = { name: 'seams', band: seamsBand };

/** Joins a band's blocks to what is known beside them, when steps at the rim are summed up. */
function rimBand(work: SystemWork, band: number): void {
  const maker = new SystemMaker(work, 0);
  const { from, to } = rowsOf(work, band);
  for (let y = from; y < to; y++) maker.closeRow(y);
}

export const RIM: BandWork<SystemWork> = { name: 'rim', band: rimBand };
