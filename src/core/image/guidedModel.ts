import type { Kernels } from '../kernels/kernels.ts';

/**
 * The coefficients a and b, smoothed, of a local linear model input = a x guide + b in windows of `radiusPx` (two planes
 * of one size, any units), `epsilon` being the guide's variance below which it counts as flat: a x guide + b is the
 * input with its edges led onto the guide's. They vary slowly: found on a reduced image and interpolated, they may be
 * applied to the guide at full size. K. He, J. Sun, X. Tang: Guided Image Filtering, ECCV, 2010; K. He, J. Sun: Fast
 * Guided Filter, 2015. O(pixels).
 */
export function guidedModel(
  input: Float32Array<ArrayBuffer>,
  guide: Float32Array<ArrayBuffer>,
  width: number,
  height: number,
  radiusPx: number,
  epsilon: number,
  kernels: Kernels,
): { a: Float32Array<ArrayBuffer>; b: Float32Array<ArrayBuffer> } {
  const mean = (plane: Float32Array<ArrayBuffer>) => kernels.blur(plane, width, height, radiusPx, 1);
  const product = new Float32Array(input.length);
  const square = new Float32Array(input.length);
  for (let i = 0; i < input.length; i++) {
    product[i] = guide[i]! * input[i]!;
    square[i] = guide[i]! * guide[i]!;
  }
  const [meanGuide, meanInput, meanProduct, meanSquare] = [mean(guide), mean(input), mean(product), mean(square)];
  const a = new Float32Array(input.length);
  const b = new Float32Array(input.length);
  for (let i = 0; i < input.length; i++) {
    const variance = meanSquare[i]! - meanGuide[i]! * meanGuide[i]!;
    a[i] = (meanProduct[i]! - meanGuide[i]! * meanInput[i]!) / (variance + epsilon);
    b[i] = meanInput[i]! - a[i]! * meanGuide[i]!;
  }
  return { a: mean(a), b: mean(b) };
}
