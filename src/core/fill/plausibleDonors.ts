import { blurPlane } from '../image/boxBlur.ts';
import { squaredDistanceTo } from '../mask/distanceTransform.ts';
import { createColourModel } from '../segment/colourModel.ts';
import { PATCH_RADIUS, type LevelPixels } from './level.ts';

/** Width of the ring around the hole whose colours are expected inside, as a share of the hole's longest side. */
const RING_SHARE = 0.2;
const SMALLEST_RING_PX = 8;
/** A colour of which the ring has less than this share (natural logarithm) does not belong here. */
const RAREST = -6.8;
/** That share of a patch may have such colours: specks and grain are everywhere. */
const TOLERATED_SHARE = 0.25;
/** Where fewer donors than this share would stay, the ring tells too little: all stay. */
const FEWEST_KEPT = 0.25;

/**
 * The pixels that may be copied from, without those of other things: what has colours that hardly occur around the hole
 * would only turn up in it as a fragment. 1 = may be copied from; a subset of `level.usable`, or all of it where too
 * little would be left.
 */
export function plausibleDonors({ width, height, features, hole, usable }: LevelPixels): Uint8Array {
  const toHole = squaredDistanceTo({ width, height, data: Uint8Array.from(hole, (h) => 255 * h) }, true);
  const ring = Math.max(SMALLEST_RING_PX, RING_SHARE * longestSide(hole, width));
  const model = createColourModel();
  for (let i = 0; i < hole.length; i++) {
    if (usable[i] && toHole[i]! <= ring * ring)
      model.add(features[4 * i]!, features[4 * i + 1]!, features[4 * i + 2]!, 1);
  }
  const strange = Float32Array.from(usable, (u, i) =>
    u && model.logShare(features[4 * i]!, features[4 * i + 1]!, features[4 * i + 2]!) < RAREST ? 1 : 0,
  );
  const share = blurPlane(strange, width, height, PATCH_RADIUS, 1);
  const plausible = Uint8Array.from(usable, (u, i) => (u && share[i]! <= TOLERATED_SHARE ? 1 : 0));
  const count = (bits: Uint8Array): number => bits.reduce((sum, bit) => sum + bit, 0);
  return count(plausible) >= FEWEST_KEPT * count(usable) ? plausible : usable;
}

function longestSide(hole: Uint8Array, width: number): number {
  let [left, right, top, bottom] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let i = 0; i < hole.length; i++) {
    if (!hole[i]) continue;
    const x = i % width;
    const y = (i - x) / width;
    left = Math.min(left, x);
    right = Math.max(right, x);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y);
  }
  return Math.max(right - left, bottom - top) + 1;
}
