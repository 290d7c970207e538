import { blurPlane } from '../image/boxBlur.ts';
import { lumaAt } from '../image/luma.ts';
import type { CopiedPart } from './seamSystem.ts';

/** Squares of so many px, over which grain averages out; what they are taken over is so many of them around. */
export const SQUARE_PX = 4;
const SQUARES_AROUND = 4;

/** Luma of what was copied into a part (`out`, RGBA of its box), summed over squares of the box. */
export class LumaSquares {
  readonly width: number;
  readonly height: number;
  /** A value a square, row by row: luma's sum over the pixels copied there, and how many there are. */
  readonly sums: Float32Array<ArrayBuffer>;
  readonly counts: Float32Array<ArrayBuffer>;

  constructor({ image, part, box }: CopiedPart, out: Uint8ClampedArray) {
    this.width = Math.ceil(box.width / SQUARE_PX);
    this.height = Math.ceil(box.height / SQUARE_PX);
    this.sums = new Float32Array(this.width * this.height);
    this.counts = new Float32Array(this.width * this.height);
    for (let y = 0; y < box.height; y++) {
      this.addRow(part, (y + box.y) * image.width + box.x, box.width, out, y * box.width, y);
    }
  }

  private addRow(
    part: Uint8Array,
    row: number,
    length: number,
    out: Uint8ClampedArray,
    outRow: number,
    y: number,
  ): void {
    const { sums, counts } = this;
    const squares = Math.floor(y / SQUARE_PX) * this.width;
    for (let x = 0; x < length; x++) {
      if (!part[row + x]) continue;
      const i = squares + Math.floor(x / SQUARE_PX);
      sums[i] = sums[i]! + lumaAt(out, 4 * (outRow + x));
      counts[i] = counts[i]! + 1;
    }
  }

  /** The mean of `values` (one a square) over the squares around each, where `weights` say how much each counts. */
  meanAround(values: Float32Array<ArrayBuffer>, weights: Float32Array<ArrayBuffer>): Float32Array {
    const sum = blurPlane(values, this.width, this.height, SQUARES_AROUND);
    const share = blurPlane(weights, this.width, this.height, SQUARES_AROUND);
    return sum.map((value, i) => (share[i]! > 0 ? value / share[i]! : 0));
  }

  /** Mean luma around each square. */
  means(): Float32Array {
    return this.meanAround(this.sums, this.counts);
  }
}
