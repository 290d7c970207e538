import type { Homography } from '../geometry/homography.ts';
import type { DetailField } from './detailField.ts';
import { middleOf, type HoleCells } from './holeCells.ts';

/**
 * The colours that a map shows at the cells of a hole and of the band around it, R, G, B, interleaved; not a number where
 * it leads to nothing known. `colours`: those of the field's pixels.
 */
export function shownBy(colours: Float32Array, field: DetailField, map: Homography, hole: HoleCells): Float32Array {
  const { width, height, isKnown } = field;
  const count = hole.width * hole.height;
  const out = new Float32Array(3 * count).fill(NaN);
  for (let cell = 0; cell < count; cell++) {
    if (hole.inBand[cell] === 0) continue;
    const { x, y } = middleOf(hole, cell);
    const w = map[6] * x + map[7] * y + map[8];
    if (!(w > 0)) continue;
    const u = (map[0] * x + map[1] * y + map[2]) / w - 0.5;
    const v = (map[3] * x + map[4] * y + map[5]) / w - 0.5;
    const [left, top] = [Math.floor(u), Math.floor(v)];
    if (!(left >= 0 && top >= 0 && left + 1 < width && top + 1 < height)) continue;
    const i = top * width + left;
    if (!isKnown[i] || !isKnown[i + 1] || !isKnown[i + width] || !isKnown[i + width + 1]) continue;
    const [a, b] = [u - left, v - top];
    for (let c = 0; c < 3; c++) {
      const above = (1 - a) * colours[3 * i + c]! + a * colours[3 * (i + 1) + c]!;
      const below = (1 - a) * colours[3 * (i + width) + c]! + a * colours[3 * (i + width + 1) + c]!;
      out[3 * cell + c] = (1 - b) * above + b * below;
    }
  }
  return out;
}
