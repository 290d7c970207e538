import type { Homography } from '../geometry/homography.ts';
import { sampled, type DetailField } from './detailField.ts';

/** How much of what is seen at places is the same where a map leads from them, summed up. */
export interface Sameness {
  both: number;
  all: number;
}

const there = new Float64Array(3);

/**
 * Writes how much of the detail at (x, y), of `own` levels, is the same where a map leads: `both` of `all`, structure
 * counting more than texture. False where that is not known.
 */
export function sameDetail(
  field: DetailField,
  map: Homography,
  x: number,
  y: number,
  own: number,
  out: Sameness,
): boolean {
  const w = map[6] * x + map[7] * y + map[8];
  if (!(w > 0)) return false;
  const u = (map[0] * x + map[1] * y + map[2]) / w;
  const v = (map[3] * x + map[4] * y + map[5]) / w;
  if (!sampled(field, u, v, there)) return false;
  const size = own * own + there[0]! * there[0]!;
  const share = size / (size + 2 * field.texture * field.texture);
  out.both = 2 * share * own * there[0]!;
  out.all = share * size + 1;
  return true;
}
