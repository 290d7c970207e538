import type { Kernels } from '../kernels/kernels.ts';
import type { Usable } from '../mask/byteMasks.ts';
import { boundsOf, type Mask } from '../mask/mask.ts';
import { ColourModel } from '../segment/colourModel.ts';
import { PATCH_RADIUS, type LevelPixels } from './level.ts';
import { nearHole } from './nearHole.ts';

const SMALLEST_RING_PX = 4;
/** A colour of which the ring has less than this share (natural logarithm) does not belong here. */
const RAREST = -6.8;
/** That share of a patch may have such colours: specks and grain are everywhere. */
const TOLERATED_SHARE = 0.25;
/** Where fewer donors than this share would stay, the ring tells too little: all stay. */
const FEWEST_KEPT = 0.25;

/**
 * The pixels that may be copied from, without those of other things: what has colours that hardly occur around the hole
 * would only turn up in it as a fragment. "Around" is a ring as wide as `ringShare` of the hole's longest side.
 * 1 = may be copied from; a subset of `level.usable`, or all of it where too little would be left.
 */
export function plausibleDonors(
  { width, height, features, hole, usable }: LevelPixels,
  ringShare: number,
  kernels: Kernels,
): Uint8Array {
  const bounds = boundsOf({ width, height, data: hole as Mask['data'] });
  const ring = Math.max(SMALLEST_RING_PX, ringShare * Math.max(bounds.width, bounds.height));
  const isNear = nearHole({ width, height, hole }, ring);
  const model = new ColourModel();
  for (let i = 0; i < hole.length; i++) {
    if (usable[i] && isNear[i]) model.add(features[4 * i]!, features[4 * i + 1]!, features[4 * i + 2]!, 1);
  }
  const share = kernels.blur(strangePixels(model, features, usable), width, height, PATCH_RADIUS, 1);
  const plausible = new Uint8Array(usable.length);
  let kept = 0;
  let all = 0;
  for (let i = 0; i < usable.length; i++) {
    if (!usable[i]) continue;
    all++;
    if (share[i]! > TOLERATED_SHARE) continue;
    plausible[i] = 1;
    kept++;
  }
  return kept >= FEWEST_KEPT * all ? plausible : usable;
}

/** 1 where a usable pixel has one of the rarest colours; to five bits a channel, each looked up once. */
function strangePixels(
  model: ColourModel,
  features: LevelPixels['features'],
  usable: Usable,
): Float32Array<ArrayBuffer> {
  const known = new Float32Array(32 ** 3).fill(NaN);
  const strange = new Float32Array(usable.length);
  for (let i = 0; i < usable.length; i++) {
    if (!usable[i]) continue;
    const [y, b, r] = [features[4 * i]! >> 3, features[4 * i + 1]! >> 3, features[4 * i + 2]! >> 3];
    const at = (y << 10) | (b << 5) | r;
    if (Number.isNaN(known[at]!)) known[at] = model.logShare(8 * y + 4, 8 * b + 4, 8 * r + 4);
    if (known[at]! < RAREST) strange[i] = 1;
  }
  return strange;
}
