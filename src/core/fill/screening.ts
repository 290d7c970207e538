import { SQUARE_PX, type LumaSquares } from './lumaSquares.ts';
import { Screening, SHORTEST_FADE_PX } from './screeningField.ts';
import type { Rect } from '../image/rect.ts';

/** Where nothing would hide a step, it fades over up to so many px. */
export const LONGEST_FADE_PX = 256;
/** Levels that luma rises and falls over two squares from which on texture counts as lively. */
const LIVELY_RISE = 16;

/** Fades that are the longer the smoother what was copied into the box is, `leastFade` at least. */
export function screeningOf(box: Rect, squares: LumaSquares, leastFade: number): Screening {
  const { width, height, sums, counts } = squares;
  const inside = new Float32Array(width * height);
  const rise = new Float32Array(width * height);
  // NaN where nothing was copied.
  const luma = new Float64Array(width * height);
  for (let i = 0; i < luma.length; i++) luma[i] = sums[i]! / counts[i]!;
  const far = (a: number, b: number): number => Math.abs(luma[a]! - luma[b]!) || 0;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (counts[i] === 0) continue;
      inside[i] = 1;
      const across = far(i - Math.min(1, x), i + Math.min(1, width - 1 - x));
      const down = far(i - width * Math.min(1, y), i + width * Math.min(1, height - 1 - y));
      rise[i] = across + down;
    }
  }
  const fade = squares.meanAround(rise, inside);
  for (let i = 0; i < fade.length; i++) {
    fade[i] = Math.max(SHORTEST_FADE_PX, Math.min(LONGEST_FADE_PX, (SHORTEST_FADE_PX * LIVELY_RISE) / fade[i]!));
  }
  return new Screening({ box, side: SQUARE_PX, fade, leastFade });
}
