import type { GridSystem } from '../blend/gridLaplacian.ts';
import type { CopiedPart } from './copiedPart.ts';
import type { Screening } from './screeningField.ts';
import type { Blocks } from './seamBlocks.ts';

/** Steps are compared with their mean over squares of so many px. */
export const AROUND_PX = 32;

/** The system whose solution closes the part's seams. */
export interface SeamSystem {
  system: GridSystem;
  /** LANES values a block. */
  rightSides: Float32Array;
  /** The group that most of a block's pixels are of, and that its unknown is for; NaN where it has none. */
  blockGroups: Float64Array;
}

/** Rows of blocks that one thread does in one go: so many that they are about as many rows of pixels. */
const BAND_PX = 32;

/** The system while it is made. */
export interface SystemWork extends SeamSystem {
  copied: CopiedPart;
  blocks: Blocks;
  screening: Screening;
  /** Squares of AROUND_PX across, and in all. */
  squares: number;
  allSquares: number;
  /** Of each square the sum of its rim's steps in three channels, and how many there are; for each band apart. */
  sums: Float32Array;
}

/** Rows of blocks in a band. */
export const blockRows = ({ side }: Blocks): number => Math.max(1, Math.floor(BAND_PX / side));

/** The rows of the region that lie in a band of rows of blocks, `to` left out. */
export function rowsOf({ copied: { box }, blocks }: SystemWork, band: number): { from: number; to: number } {
  const from = (blocks.top + band * blockRows(blocks)) * blocks.side;
  return {
    from: Math.max(box.y, from),
    to: Math.min(box.y + box.height, from + blockRows(blocks) * blocks.side),
  };
}
