import type { RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import { ACROSS, DOWN, isInner, isKnown, SIDES } from './partRim.ts';

/** How far from the rim is looked for what is sharp, in px. */
const REACH_PX = 12;
/** What differs by more levels over so many px is sharp. */
const SHARP_LEVELS = 24;
const SHARP_PX = 3;
/** Specks before so small a share of the rim don't count. */
const MOST_SHARP = 0.005;

/** How much of a rim was looked at, and before how much of it something sharp lies, in sides of pixels. */
export interface RimCount {
  looked: number;
  sharp: number;
}

/** Whether nothing around is sharp, as in a clear sky or out of focus: then no step at the rim can be an edge. */
export const isSoft = ({ looked, sharp }: RimCount): boolean => looked > 0 && sharp <= MOST_SHARP * looked;

/** Counts the rim of a part (non-zero, in `box`) along row `y` of the region, where what is beside it is known (0). */
export function countRim(image: RasterImage, unknown: Uint8Array, part: Uint8Array, box: Rect, y: number): RimCount {
  const { width, height } = image;
  let looked = 0;
  let sharp = 0;
  for (let x = box.x; x < box.x + box.width; x++) {
    const p = y * width + x;
    if (!part[p] || isInner(part, p, width)) continue;
    for (let side = 0; side < SIDES; side++) {
      const across = ACROSS[side]!;
      const down = DOWN[side]!;
      if (!isKnown(unknown, width, height, x + across, y + down)) continue;
      looked++;
      if (isSharpBefore(image, unknown, x, y, across, down)) sharp++;
    }
  }
  return { looked, sharp };
}

/** Whether outward from (x, y) something differs strongly from what lies farther out, or beside it. */
function isSharpBefore(
  image: RasterImage,
  unknown: Uint8Array,
  x: number,
  y: number,
  across: number,
  down: number,
): boolean {
  for (let out = 1; out <= REACH_PX; out += SHARP_PX) {
    const u = x + out * across;
    const v = y + out * down;
    if (isEdge(image, unknown, u, v, u + SHARP_PX * across, v + SHARP_PX * down)) return true;
    if (isEdge(image, unknown, u, v, u + SHARP_PX * down, v + SHARP_PX * across)) return true;
  }
  return false;
}

function isEdge(
  { data, width, height }: RasterImage,
  unknown: Uint8Array,
  u: number,
  v: number,
  s: number,
  t: number,
): boolean {
  if (!isKnown(unknown, width, height, u, v) || !isKnown(unknown, width, height, s, t)) return false;
  const a = 4 * (v * width + u);
  const b = 4 * (t * width + s);
  for (let c = 0; c < 3; c++) if (Math.abs(data[a + c]! - data[b + c]!) > SHARP_LEVELS) return true;
  return false;
}
