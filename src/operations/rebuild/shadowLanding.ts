import { applyHomography, type Homography, type Point } from '../../core/geometry/homography.ts';
import { applyAffine, placementToAffine } from '../../core/image/affine.ts';
import { boundsOfPoints, unite, type Rect, type Size } from '../../core/image/rect.ts';
import { boundsOf, cropMask, type Mask } from '../../core/mask/mask.ts';
import { groundShift } from '../../core/place/groundShift.ts';
import type { PlacingParams } from './rebuildSchema.ts';

/** What says where a subject's shadow goes. */
export type ShadowParams = Pick<PlacingParams, 'mark' | 'placement' | 'withShadow' | 'horizonPx'>;

/** Where in a mark with its shadow the subject may stand, as shares of its height. */
const LIKELY_FEET = [0.5, 0.75, 1];
/** What lies so near the horizon, as a share of how far the mark reaches below it, casts no shadow to speak of. */
const NEAREST_HORIZON = 0.3;
/** The lowest part of a subject, as a share of its height: it stands below the middle of that. */
const FOOT_SHARE = 0.05;

/**
 * How a shadow is shifted along level ground with the subject that stands at `foot`; undefined where it goes with the
 * subject as it is. `centre` is the point about which the subject is scaled.
 */
export function shadowShift(
  { placement, withShadow, horizonPx }: ShadowParams,
  photo: Size,
  centre: Point,
  foot: Point,
): Homography | undefined {
  // What is turned or mirrored is so with its shadow.
  if (!withShadow || horizonPx === undefined || placement.turn !== 0 || placement.mirror !== 'none') return undefined;
  const landed = applyAffine(placementToAffine(placement, centre), foot.x, foot.y);
  return groundShift(horizonPx, photo.width / 2, foot, landed, placement.scale);
}

/** A box around where the shadows inside a mark's frame may land; empty where they go with the subject as it is. */
export function shadowLanding(params: ShadowParams, photo: Size, frame: Rect, centre: Point): Rect {
  return LIKELY_FEET.map((share) => ({ x: centre.x, y: frame.y + share * frame.height }))
    .map((foot) => shadowShift(params, photo, centre, foot))
    .filter((shift) => shift !== undefined)
    .map((shift) => landedFrame(shift, frame, params.horizonPx!))
    .reduce(unite, { x: 0, y: 0, width: 0, height: 0 });
}

function landedFrame(shift: Homography, frame: Rect, horizon: number): Rect {
  const bottom = frame.y + frame.height;
  const top = Math.max(frame.y, horizon + NEAREST_HORIZON * (bottom - horizon));
  const sides = [frame.x, frame.x + frame.width];
  return boundsOfPoints(sides.flatMap((x) => [top, bottom].map((y) => applyHomography(shift, x, y))));
}

/** Where a subject stands: below the middle of its lowest part. */
export function footOf(matte: Mask): Point {
  const box = boundsOf(matte, 128);
  const height = Math.ceil(FOOT_SHARE * box.height);
  const lowest = boundsOf(cropMask(matte, { ...box, y: box.y + box.height - height, height }));
  return { x: box.x + lowest.x + lowest.width / 2, y: box.y + box.height };
}
