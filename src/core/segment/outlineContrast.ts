import type { SmallImage } from '../mask/reduceMarked.ts';

/**
 * The mean difference in colour (Euclidean, RGB levels) across the outline of what is more than half `inside` (one value
 * a pixel, 0..1); infinite where there is no outline.
 */
export function outlineContrast({ width, colour }: SmallImage, inside: Float32Array): number {
  let [sum, steps] = [0, 0];
  const add = (i: number, j: number): void => {
    if (inside[i]! > 0.5 === inside[j]! > 0.5) return;
    sum += Math.hypot(
      colour[3 * i]! - colour[3 * j]!,
      colour[3 * i + 1]! - colour[3 * j + 1]!,
      colour[3 * i + 2]! - colour[3 * j + 2]!,
    );
    steps++;
  };
  for (let i = 0; i < inside.length; i++) {
    if ((i + 1) % width !== 0) add(i, i + 1);
    if (i + width < inside.length) add(i, i + width);
  }
  return steps === 0 ? Infinity : sum / steps;
}
