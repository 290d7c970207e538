import { inflate, intersect, wholeOf } from '../image/rect.ts';
import { squaredDistanceTo } from '../mask/distanceTransform.ts';
import { boundsOf, cropMask, createMask, pasteMask, wholly, type Mask } from '../mask/mask.ts';
import { bytesBy } from '../numeric/filled.ts';
import type { LevelPixels } from './level.ts';

/** 1 where a pixel lies within `reach` px of a level's hole, by Euclidean distance, or in it. O(pixels around the hole). */
export function nearHole(
  { width, height, hole }: Pick<LevelPixels, 'width' | 'height' | 'hole'>,
  reach: number,
): Uint8Array {
  const whole: Mask = { width, height, data: hole as Mask['data'] };
  const around = intersect(inflate(boundsOf(whole), Math.ceil(reach)), wholeOf(whole));
  const near = createMask(width, height);
  const distance = squaredDistanceTo(wholly(cropMask(whole, around)), true);
  const found = { ...around, data: bytesBy(distance.length, (i) => (distance[i]! <= reach * reach ? 1 : 0)) };
  pasteMask(near, around, found);
  return near.data;
}
