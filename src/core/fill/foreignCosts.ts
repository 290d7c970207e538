import { blurPlane } from '../image/boxBlur.ts';
import { ColourModel } from '../segment/colourModel.ts';
import { PATCH_RADIUS, type Level, type LevelPixels } from './level.ts';
import { floatsBy } from '../numeric/filled.ts';
import { nearHole } from './nearHole.ts';

/** So far from the hole the rim reaches. */
const RIM_PX = 5;
/** Colours so many times (natural logarithm) rarer than the rim's usual ones cost nothing yet: texture has such. */
const COMMON = 1.5;
/** Beyond that, no colour counts as rarer than so many times more. */
const RAREST = 4;

/**
 * What a donor costs for being foreign to the hole's rim: `weight` for each factor of e that its colours are rarer there
 * than is usual, as a mean over its patch. What the rim only touches in places, such as a ledge or a neighbour's foot,
 * runs on where it must, but does not grow into a thing of its own in the middle. One number a pixel; 0 but at donors.
 */
export function foreignCosts(
  { width, height, features, hole, usable, donors }: LevelPixels & Pick<Level, 'donors'>,
  weight: number,
): Int32Array {
  const costs = new Int32Array(width * height);
  const isNear = nearHole({ width, height, hole }, RIM_PX);
  const rim: number[] = [];
  for (let i = 0; i < hole.length; i++) if (usable[i] && isNear[i]) rim.push(i);
  if (rim.length === 0) return costs;
  const model = new ColourModel();
  for (const i of rim) model.add(features[4 * i]!, features[4 * i + 1]!, features[4 * i + 2]!, 1);
  const shareAt = (i: number): number => model.logShare(features[4 * i]!, features[4 * i + 1]!, features[4 * i + 2]!);
  const usual = floatsBy(rim.length, (k) => shareAt(rim[k]!)).sort()[rim.length >> 1]!;
  const rarity = new Float32Array(width * height);
  for (let i = 0; i < hole.length; i++) {
    if (usable[i]) rarity[i] = Math.max(0, Math.min(RAREST, usual - COMMON - shareAt(i)));
  }
  const mean = blurPlane(rarity, width, height, PATCH_RADIUS, 1);
  for (const donor of donors) costs[donor] = Math.round(weight * mean[donor]!);
  return costs;
}
