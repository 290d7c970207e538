import type { Size } from '../image/rect.ts';
import { createMask, type Mask } from '../mask/mask.ts';
import { growMask } from '../mask/morphology.ts';

const RIM_PX = 2;

/** What was found beside a subject at 1 / `factor` of the size, at full size: with a little rim, without the subject. */
export function besideSubject(found: Mask, { width, height }: Size, subject: Mask, factor: number): Mask {
  const grown = growMask(found, RIM_PX);
  const out = createMask(width, height);
  for (let y = 0; y < height; y++) {
    const row = Math.min(found.height - 1, Math.floor(y / factor)) * found.width;
    for (let x = 0; x < width; x++) {
      const value = grown.data[row + Math.min(found.width - 1, Math.floor(x / factor))]!;
      out.data[y * width + x] = Math.min(value, 255 - subject.data[y * width + x]!);
    }
  }
  return out;
}
