import type { Homography } from '../geometry/homography.ts';
import type { Rect } from '../image/rect.ts';
import type { DetailField } from './detailField.ts';
import { agreeing, pointsAround, type Points } from './points.ts';
import { registerMap, type Around, type Freedom } from './registerMap.ts';
import { MAP_OPTIONS, type MapOptions, type SelfMap } from './selfMap.ts';

/** A map as seen from all around the hole; a step along a plane only becomes another map where far more is the same then. */
export function settleMap(
  field: DetailField,
  points: Points,
  { map, isStep }: Omit<SelfMap, 'support'>,
  around: Around,
  { least, rounds, better }: MapOptions,
): SelfMap {
  const start = { map, isStep, support: agreeing(field, points, map, least).support };
  const settled = (from: SelfMap, freedom: Freedom): SelfMap => {
    let best = from;
    for (let round = 0; round < rounds; round++) {
      const same = agreeing(field, points, best.map, least).points;
      const fitted = registerMap(field, same, best.map, freedom, around);
      if (!fitted) break;
      const { support } = agreeing(field, points, fitted, least);
      if (support < best.support) break;
      best = { map: fitted, isStep: freedom === 'step', support };
    }
    return best;
  };
  const step = isStep ? settled(start, 'step') : start;
  const other = settled(step, 'any');
  return !isStep || other.support > better * step.support ? other : step;
}

/** A map fitted to what is seen around the hole in `box`, in the same freedom. */
export function fitAround(
  field: DetailField,
  box: Rect,
  found: SelfMap,
  options: MapOptions = MAP_OPTIONS,
): Homography {
  const around = aroundHole(box, 2 * options.around);
  const points = pointsAround(field, around, around.reach, 3 * options.pointsAround);
  const { points: same } = agreeing(field, points, found.map, options.least);
  return registerMap(field, same, found.map, found.isStep ? 'step' : 'any', around) ?? found.map;
}

/** So many px around a hole's box. */
export const aroundHole = (box: Rect, px: number): Around => ({
  x: box.x + box.width / 2,
  y: box.y + box.height / 2,
  reach: Math.max(box.width, box.height) / 2 + px,
});
