import { applyHomography, areaScaleAt, type Homography } from '../geometry/homography.ts';
import type { DetailField } from './detailField.ts';
import type { LikePlace } from './likePlaces.ts';
import { agreeing, pointsAround } from './points.ts';
import { registerMap, type Freedom } from './registerMap.ts';
import type { MapOptions, SelfMap } from './selfMap.ts';

/** A map that begins as a move of one place, fitted to ever more around it where that is the same. */
export function growMap(
  field: DetailField,
  place: LikePlace,
  most: number,
  isStep: boolean,
  options: MapOptions,
): SelfMap | undefined {
  const { firstReach, growth, points: count, least, leastAtFirst } = options;
  let map: Homography = [1, 0, place.dx, 0, 1, place.dy, 0, 0, 1];
  let support = 0;
  for (let reach = firstReach; ; reach = Math.min(most, reach * growth)) {
    const points = pointsAround(field, place, reach, count);
    const same = reach === firstReach ? points : agreeing(field, points, map, least).points;
    const freedom = freedomAt(reach, isStep, options);
    const fitted = registerMap(field, same, map, freedom, { ...place, reach });
    if (!fitted || !isModest(fitted, place, reach) || strays(fitted, place, options)) break;
    const judged = agreeing(field, points, fitted, least);
    if (reach === firstReach && judged.agreement < leastAtFirst) return undefined;
    // What was seen before is not to be lost.
    if (judged.support < 0.8 * support) break;
    map = fitted;
    support = judged.support;
    if (reach >= most) break;
  }
  return support > 0 ? { map, support, isStep } : undefined;
}

/** Whether a map has come to lead elsewhere than where the place is seen again. */
function strays(map: Homography, { x, y, dx, dy }: LikePlace, { stray }: MapOptions): boolean {
  const at = applyHomography(map, x, y);
  return Math.hypot(at.x - x - dx, at.y - y - dy) > stray;
}

/** Whether it neither mirrors nor enlarges or reduces much anywhere near. */
function isModest(map: Homography, { x, y }: LikePlace, reach: number): boolean {
  return [-1, 0, 1].every((v) =>
    [-1, 0, 1].every((u) => {
      const scale = areaScaleAt(map, x + (u * reach) / 2, y + (v * reach) / 2);
      return scale > 0.1 && scale < 8;
    }),
  );
}

/** Of what is seen of little a map may not change much. */
function freedomAt(reach: number, isStep: boolean, { shearsFrom, tiltsFrom }: MapOptions): Freedom {
  if (reach < shearsFrom) return 'along the plane';
  if (isStep) return reach < tiltsFrom ? 'along the plane' : 'step';
  return reach < tiltsFrom ? 'affine' : 'any';
}
