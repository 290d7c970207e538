import type { Rect } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';

/** Square blocks of pixels that share one unknown of the correction, lined up with the region's origin. */
export interface Blocks {
  side: number;
  /** Blocks left of and above the first. */
  across: number;
  top: number;
  /** Blocks across and down. */
  width: number;
  height: number;
  /** For each column of the box the block's column. */
  columns: Int32Array;
}

export function blocksOf(box: Rect, side: number, { share }: Pick<Kernels, 'share'>): Blocks {
  const across = Math.floor(box.x / side);
  const top = Math.floor(box.y / side);
  return {
    side,
    across,
    top,
    width: Math.floor((box.x + box.width - 1) / side) - across + 1,
    height: Math.floor((box.y + box.height - 1) / side) - top + 1,
    columns: share(Int32Array.from({ length: box.width }, (_, k) => Math.floor((box.x + k) / side) - across)),
  };
}
