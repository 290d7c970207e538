import type { Homography } from '../geometry/homography.ts';
import type { DetailField } from './detailField.ts';
import { SIDE, type HoleCells } from './holeCells.ts';
import { reachInto } from './reachInto.ts';
import { sameDetail, type Sameness } from './sameDetail.ts';

/** How much the detail around each cell of the hole is the same where a map leads, 0..1; what is near counts most. */
export function agreementWithin(field: DetailField, map: Homography, hole: HoleCells): Float32Array {
  const { left, top, width, height, numberOf, inBand } = hole;
  const [both, all] = [new Float32Array(width * height), new Float32Array(width * height)];
  const same: Sameness = { both: 0, all: 0 };
  for (let cell = 0; cell < width * height; cell++) {
    if (numberOf[cell]! >= 0 || inBand[cell] === 0) continue;
    for (let k = 0; k < SIDE * SIDE; k++) {
      const x = left + SIDE * (cell % width) + (k % SIDE);
      const y = top + SIDE * Math.floor(cell / width) + Math.floor(k / SIDE);
      const i = y * field.width + x;
      if (!field.isKnown[i] || !sameDetail(field, map, x + 0.5, y + 0.5, field.detail[i]!, same)) continue;
      both[cell]! += same.both;
      all[cell]! += same.all;
    }
  }
  const reached = [both, all].map((plane) => reachInto(plane, width, height)) as [Float32Array, Float32Array];
  return reached[0].map((value, i) => (reached[1][i]! > 1e-3 ? Math.max(0, value / reached[1][i]!) : 0));
}
