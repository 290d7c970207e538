import { lumaAt } from '../image/luma.ts';
import { bandCount } from '../kernels/bands.ts';
import type { BandWork, Kernels } from '../kernels/kernels.ts';
import type { CopiedPart } from './copiedPart.ts';

/** Squares of so many px, over which grain averages out; what they are taken over is so many of them around. */
export const SQUARE_PX = 4;
const SQUARES_AROUND = 4;
/** Rows of squares that one thread does in one go. */
const BAND_SQUARES = 8;

/** Luma of what was copied into a part (`out`, RGBA of its box), summed over squares of the box. */
export class LumaSquares {
  readonly width: number;
  readonly height: number;
  /** A value a square, row by row: luma's sum over the pixels copied there, and how many there are. */
  readonly sums: Float32Array;
  readonly counts: Float32Array;
  private readonly kernels: Kernels;

  /** Its sums live in the kernels' scratch. */
  constructor({ image, part, box }: CopiedPart, out: Uint8ClampedArray, kernels: Kernels) {
    this.width = Math.ceil(box.width / SQUARE_PX);
    this.height = Math.ceil(box.height / SQUARE_PX);
    this.sums = kernels.scratch.floats(this.width * this.height);
    this.counts = kernels.scratch.floats(this.width * this.height);
    this.kernels = kernels;
    const { width, height, sums, counts } = this;
    const work = { across: image.width, part, box, out, squares: { width, sums, counts } };
    kernels.inBands(LUMA_SQUARES, work, bandCount(height, BAND_SQUARES));
  }

  /** The mean of `values` (one a square) over the squares around each, where `weights` say how much each counts. */
  meanAround(values: Float32Array, weights: Float32Array): Float32Array {
    const { width, height, kernels } = this;
    const mean = kernels.scratch.floats(width * height);
    const sum = kernels.blur(values, width, height, SQUARES_AROUND, 3);
    const share = kernels.blur(weights, width, height, SQUARES_AROUND, 3);
    for (let i = 0; i < mean.length; i++) mean[i] = share[i]! > 0 ? sum[i]! / share[i]! : 0;
    return mean;
  }

  /** Mean luma around each square. */
  means(): Float32Array {
    return this.meanAround(this.sums, this.counts);
  }
}

export interface SquaresWork {
  /** Pixels in a row of the picture. */
  across: number;
  part: CopiedPart['part'];
  box: CopiedPart['box'];
  /** RGBA of the box. */
  out: Uint8ClampedArray;
  squares: Pick<LumaSquares, 'width' | 'sums' | 'counts'>;
}

/** Sums up a band of rows of squares. */
function lumaSquaresBand({ across, part, box, out, squares }: SquaresWork, band: number): void {
  const { width, sums, counts } = squares;
  const rows = BAND_SQUARES * SQUARE_PX;
  for (let y = band * rows; y < Math.min(box.height, (band + 1) * rows); y++) {
    const row = (y + box.y) * across + box.x;
    const outRow = y * box.width;
    const first = Math.floor(y / SQUARE_PX) * width;
    for (let x = 0; x < box.width; x++) {
      if (!part[row + x]) continue;
      const i = first + Math.floor(x / SQUARE_PX);
      sums[i] = sums[i]! + lumaAt(out, 4 * (outRow + x));
      counts[i] = counts[i]! + 1;
    }
  }
}

export const LUMA_SQUARES: BandWork<SquaresWork> = { name: 'lumaSquares', band: lumaSquaresBand };
