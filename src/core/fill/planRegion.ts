import { inflate, intersect, unite, wholeOf, type Rect, type Size } from '../image/rect.ts';

const SMALLEST_MARGIN_PX = 96;
/** What a thing cut off by a margin looks like where it ends may lie this many times as far away. */
const MARGIN_PAST_EDGE = 2;

/**
 * The part of a photo that a fill needs to see: the mark's box and, around it, a margin of its longest side (at least
 * 96 px; twice as much for marks all along an edge of the photo), united with the donors' box where donors are given.
 * Cost follows the hole, not the photo.
 */
export function planFillRegion(markBounds: Rect, photo: Size, donorBounds?: Rect): Rect {
  const { x, y, width, height } = markBounds;
  const isAcross = width >= photo.width && (y <= 0 || y + height >= photo.height);
  const isUpright = height >= photo.height && (x <= 0 || x + width >= photo.width);
  const margin = Math.max(SMALLEST_MARGIN_PX, (isAcross || isUpright ? MARGIN_PAST_EDGE : 1) * Math.max(width, height));
  const region = donorBounds
    ? unite(inflate(markBounds, SMALLEST_MARGIN_PX), donorBounds)
    : inflate(markBounds, margin);
  return intersect(region, wholeOf(photo));
}

/** Donors from nearer give too little to choose from, from farther mostly other things. */
const NEAR_MARGIN = 0.3;

/**
 * What is looked at to rebuild a place between known ones: its box and, around it, a margin of .3 of its longest side, at
 * least 96 px.
 */
export function planNearRegion(box: Rect, photo: Size): Rect {
  const margin = Math.max(SMALLEST_MARGIN_PX, Math.round(NEAR_MARGIN * Math.max(box.width, box.height)));
  return intersect(inflate(box, margin), wholeOf(photo));
}
