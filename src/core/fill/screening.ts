import { blurPlane } from '../image/boxBlur.ts';
import { lumaAt } from '../image/luma.ts';
import type { CopiedPart } from './seamSystem.ts';

/** How strongly the tone correction is pulled to zero per pixel in lively texture: it fades over some 1/sqrt(.004) px. */
export const STRONGEST_SCREENING = 0.004;
/** Where nothing would hide a step, it fades over up to so many times as far. */
const FARTHER = 16;
/** Levels that luma rises and falls over eight px from which on texture counts as lively. */
const LIVELY_RISE = 16;
/** Grain is smoothed away over this, px; liveliness is taken over that. */
const GRAIN_PX = 2;
const AROUND_PX = 16;
const REACH_PX = 4;

/** The pull for each pixel of the part's box: weaker the smoother what was copied there is (`out`, RGBA of the box). */
export function screeningOf({ image, part, box }: CopiedPart, out: Uint8ClampedArray): Float32Array {
  const { width, height } = box;
  const inside = new Float32Array(width * height);
  const luma = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (!part[(y + box.y) * image.width + x + box.x]) continue;
      inside[i] = 1;
      luma[i] = lumaAt(out, 4 * i);
    }
  }
  const mean = (plane: Float32Array<ArrayBuffer>, radius: number): Float32Array<ArrayBuffer> => {
    const sum = blurPlane(plane, width, height, radius);
    const share = blurPlane(inside, width, height, radius);
    return sum.map((value, i) => (share[i]! > 0 ? value / share[i]! : 0));
  };
  const smooth = mean(luma, GRAIN_PX);
  const rise = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (!inside[i]) continue;
      const far = (j: number, k: number): number => (inside[j] && inside[k] ? Math.abs(smooth[j]! - smooth[k]!) : 0);
      const across = far(i - Math.min(REACH_PX, x), i + Math.min(REACH_PX, width - 1 - x));
      const down = far(i - width * Math.min(REACH_PX, y), i + width * Math.min(REACH_PX, height - 1 - y));
      rise[i] = across + down;
    }
  }
  const least = 1 / FARTHER ** 2;
  return mean(rise, AROUND_PX).map(
    (value) => STRONGEST_SCREENING * Math.max(least, Math.min(1, (value / LIVELY_RISE) ** 2)),
  );
}
