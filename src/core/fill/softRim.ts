import type { RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { Hole, PartMask } from '../mask/byteMasks.ts';
import { ACROSS, DOWN, isInner, isKnown, SIDES } from './partRim.ts';

/** How far from the rim is looked for what is sharp, in px. */
const REACH_PX = 12;
/** What differs by more levels over so many px is sharp, or stands out besides. */
const SHARP_LEVELS = 24;
const OUTSTANDING_LEVELS = 36;
const SHARP_PX = 3;
/** Grain and specks before so small a share of the rim don't count. */
const MAX_SHARP = 0.02;
const MAX_OUTSTANDING = 0.005;

/** How much of a rim was looked at, and before how much of it something sharp lies or stands out, in sides of pixels. */
export interface RimCount {
  looked: number;
  sharp: number;
  outstanding: number;
}

/** Whether nothing around is sharp, as in a clear sky or out of focus: then no step at the rim can be an edge. */
export const isSoft = ({ looked, sharp, outstanding }: RimCount): boolean =>
  looked > 0 && sharp <= MAX_SHARP * looked && outstanding <= MAX_OUTSTANDING * looked;

/** Counts the rim of a part (non-zero, in `box`) along row `y` of the region, where what is beside it is known (0). */
export function countRim(image: RasterImage, unknown: Hole, part: PartMask, box: Rect, y: number): RimCount {
  const { width, height } = image;
  let looked = 0;
  let sharp = 0;
  let outstanding = 0;
  for (let x = box.x; x < box.x + box.width; x++) {
    const p = y * width + x;
    if (!part[p] || isInner(part, p, width)) continue;
    for (let side = 0; side < SIDES; side++) {
      const across = ACROSS[side]!;
      const down = DOWN[side]!;
      if (!isKnown(unknown, width, height, x + across, y + down)) continue;
      looked++;
      const most = largestRiseBefore(image, unknown, x, y, across, down);
      if (most > SHARP_LEVELS) sharp++;
      if (most > OUTSTANDING_LEVELS) outstanding++;
    }
  }
  return { looked, sharp, outstanding };
}

/** By how many levels, at most, something outward from (x, y) differs from what lies farther out, or beside it. */
function largestRiseBefore(
  image: RasterImage,
  unknown: Hole,
  x: number,
  y: number,
  across: number,
  down: number,
): number {
  let most = 0;
  for (let out = 1; out <= REACH_PX; out += SHARP_PX) {
    const u = x + out * across;
    const v = y + out * down;
    const outward = riseBetween(image, unknown, u, v, u + SHARP_PX * across, v + SHARP_PX * down);
    const beside = riseBetween(image, unknown, u, v, u + SHARP_PX * down, v + SHARP_PX * across);
    most = Math.max(most, outward, beside);
  }
  return most;
}

/** The largest difference of a channel between two pixels, if both are known; 0 otherwise. */
function riseBetween(
  { data, width, height }: RasterImage,
  unknown: Hole,
  u: number,
  v: number,
  s: number,
  t: number,
): number {
  if (!isKnown(unknown, width, height, u, v) || !isKnown(unknown, width, height, s, t)) return 0;
  const a = 4 * (v * width + u);
  const b = 4 * (t * width + s);
  let most = 0;
  for (let c = 0; c < 3; c++) most = Math.max(most, Math.abs(data[a + c]! - data[b + c]!));
  return most;
}
