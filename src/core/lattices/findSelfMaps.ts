import {
  applyHomography,
  invertHomography,
  multiplyHomographies,
  type Homography,
  type Point,
} from '../geometry/homography.ts';
import type { Rect } from '../image/rect.ts';
import type { DetailField } from './detailField.ts';
import { growMap } from './growMap.ts';
import { likePlaces, type LikePlace } from './likePlaces.ts';
import { pointsAround } from './points.ts';
import { MAP_OPTIONS, type MapOptions, type SelfMap } from './selfMap.ts';
import { aroundHole, settleMap } from './settleMap.ts';

/** Maps that differ by less are one. */
const COINCIDE_PX = 1.5;

/** Finds the maps around the hole in `box`, best supported first. */
export function findSelfMaps(
  field: DetailField,
  box: Rect,
  reach: number,
  options: MapOptions = MAP_OPTIONS,
): SelfMap[] {
  const found: SelfMap[] = [];
  let tries = 0;
  for (const place of likePlaces(field)) {
    if (found.length >= options.most || tries >= options.tries) break;
    if (found.some((map) => tells(map, place))) continue;
    tries++;
    const step = growMap(field, place, reach, true, options);
    if (!step) continue;
    const other = growMap(field, place, reach, false, options);
    const map = other && other.support > options.better * step.support ? other : step;
    if (map.support >= options.leastSupport) found.push(map);
  }
  const around = aroundHole(box, options.around);
  const points = pointsAround(field, around, around.reach, options.pointsAround);
  const distinct: SelfMap[] = [];
  const keep = (map: SelfMap): void => {
    if (map.support < options.leastSupport) return;
    if (!distinct.some((other) => coincide(other.map, map.map, box))) distinct.push(map);
  };
  const bySupport = (p: SelfMap, q: SelfMap): number => q.support - p.support;
  found
    .flatMap((found) => [found, { ...found, map: scaled(invertHomography(found.map)) }])
    .map((map) => settleMap(field, points, map, around, options))
    .sort(bySupport)
    .forEach(keep);
  // Steps of a lattice one after the other are steps of it, too.
  const steps = distinct.slice(0, options.composed);
  for (const [k, one] of steps.entries()) {
    for (const other of steps.slice(0, k + 1)) {
      const both = scaled(multiplyHomographies(one.map, other.map));
      if (!leadsOut(field, both, box) || distinct.some((map) => coincide(map.map, both, box))) continue;
      const isStep = one.isStep && other.isStep;
      keep(settleMap(field, points, { map: both, isStep }, around, options));
    }
  }
  distinct.sort(bySupport).splice(options.kept);
  return distinct;
}

/** Whether a map leads to known places from enough of the hole's box. */
function leadsOut({ width, height, isKnown }: DetailField, map: Homography, box: Rect): boolean {
  let count = 0;
  for (let k = 0; k < 64; k++) {
    const at = applyHomography(
      map,
      box.x + (((k % 8) + 0.5) * box.width) / 8,
      box.y + ((Math.floor(k / 8) + 0.5) * box.height) / 8,
    );
    const [u, v] = [Math.floor(at.x), Math.floor(at.y)];
    if (u >= 0 && v >= 0 && u < width && v < height && isKnown[v * width + u]) count++;
  }
  return count >= 16;
}

const scaled = (map: Homography): Homography => map.map((value) => value / map[8]) as unknown as Homography;

/** Whether two maps lead to the same places from all over a box. */
function coincide(a: Homography, b: Homography, { x, y, width, height }: Rect): boolean {
  return [0, 0.5, 1].every((v) =>
    [0, 0.5, 1].every((u) => {
      const [p, q] = [a, b].map((map) => applyHomography(map, x + u * width, y + v * height)) as [Point, Point];
      return Math.hypot(p.x - q.x, p.y - q.y) < COINCIDE_PX;
    }),
  );
}

/** Whether a map that was found leads where a place is seen again. */
function tells({ map }: SelfMap, { x, y, dx, dy }: LikePlace): boolean {
  const at = applyHomography(map, x, y);
  return Math.hypot(at.x - x - dx, at.y - y - dy) < 3;
}
