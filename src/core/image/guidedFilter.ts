import { blurPlane } from './boxBlur.ts';

/**
 * `input` smoothed so that its edges follow those of `guide` (two planes of one size, any units): a local linear model
 * input = a x guide + b in windows of `radiusPx`, `epsilon` being the guide's variance below which it counts as flat.
 * K. He, J. Sun, X. Tang: Guided Image Filtering, ECCV, 2010. O(pixels).
 */
export function guidedFilter(
  input: Float32Array<ArrayBuffer>,
  guide: Float32Array<ArrayBuffer>,
  width: number,
  height: number,
  radiusPx: number,
  epsilon: number,
): Float32Array<ArrayBuffer> {
  const mean = (plane: Float32Array<ArrayBuffer>) => blurPlane(plane, width, height, radiusPx, 1);
  const meanGuide = mean(guide);
  const meanInput = mean(input);
  const meanProduct = mean(guide.map((g, i) => g * input[i]!));
  const meanSquare = mean(guide.map((g) => g * g));
  const a = new Float32Array(input.length);
  const b = new Float32Array(input.length);
  for (let i = 0; i < input.length; i++) {
    const variance = meanSquare[i]! - meanGuide[i]! * meanGuide[i]!;
    a[i] = (meanProduct[i]! - meanGuide[i]! * meanInput[i]!) / (variance + epsilon);
    b[i] = meanInput[i]! - a[i]! * meanGuide[i]!;
  }
  const meanA = mean(a);
  const meanB = mean(b);
  return meanA.map((value, i) => value * guide[i]! + meanB[i]!);
}
