import { addBicubicBytes } from '../fill/bicubicSample.ts';
import type { Sources } from '../fill/sources.ts';
import type { Point } from '../geometry/homography.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { Hole } from '../mask/byteMasks.ts';
import { acrossBand, type AcrossBand } from './acrossBand.ts';
import type { BandFrame } from './bandFrame.ts';
import { bandMap } from './bandMap.ts';
import { cheapestRuns, DRAW_OPTIONS, seenOf, type DrawOptions, type Runs } from './cheapestRuns.ts';

/** A band that is drawn in a hole. */
export interface DrawnBand {
  /** All of what is drawn lies here. */
  box: Rect;
  /** Of each pixel of the box: 2 on and between the band's outlines, 1 beside them, 0 where it is not drawn. */
  kinds: Uint8Array<ArrayBuffer>;
  /** Which run of rows a pixel of the picture is drawn with, counted from 1; 0: none. */
  groupAt: Sources['groupAt'];
  /** See `Sources`. */
  sample: Sources['sample'];
  /** Where a pixel drawn with a run is copied from; undefined where that is not known. */
  sourceOf(this: void, group: number, x: number, y: number): Point | undefined;
}

/**
 * Draws a band through the unknown pixels (not 0) of a picture out of what is seen of it at both ends, led along the band's
 * curve and as wide as the band is there: the rows that are shown one after the other are those of the cheapest way from
 * one end to the other, which leaps as little as may be, and where that is seen least. `margin` px on both sides of the
 * outermost outlines come along, the inner `core` px as part of the band. Undefined where too little of the band is seen.
 */
export function drawBand(
  image: RasterImage,
  unknown: Hole,
  frame: BandFrame,
  margin: number,
  core: number,
  options: DrawOptions = DRAW_OPTIONS,
): DrawnBand | undefined {
  const across = acrossBand(frame, margin);
  const ends = [seenOf(image, unknown, frame, across, -1), seenOf(image, unknown, frame, across, 1)] as const;
  const runs = cheapestRuns(frame, ends, options);
  return runs && drawn(image, unknown, frame, across, runs, core);
}

function drawn(
  image: RasterImage,
  unknown: Hole,
  frame: BandFrame,
  across: AcrossBand,
  { runAt, first, shifts }: Runs,
  core: number,
): DrawnBand | undefined {
  const { width, height, data } = image;
  const map = bandMap(frame, across.margin, image);
  if (!map) return undefined;
  const { box } = map;
  const inMap = (x: number, y: number): number =>
    x < box.x || y < box.y || x >= box.x + box.width || y >= box.y + box.height
      ? -1
      : (y - box.y) * box.width + x - box.x;
  /** Runs are counted from 1; 0: not of the band. */
  const groupAt = (x: number, y: number): number => {
    const i = inMap(x, y);
    const s = i < 0 ? NaN : map.s[i]!;
    if (Number.isNaN(s)) return 0;
    return 1 + runAt[Math.max(0, Math.min(runAt.length - 1, Math.round(s) - first))]!;
  };
  const sourceOf = (group: number, x: number, y: number): Point | undefined => {
    const i = inMap(x, y);
    const s = i < 0 ? NaN : map.s[i]!;
    if (Number.isNaN(s) || group === 0) return undefined;
    const there = s - shifts[group - 1]!;
    if (there < -frame.before - 1 || there > frame.length + frame.after + 1) return undefined;
    const at = frame.at(there, across.carry(map.t[i]!, s, there));
    const [u, v] = [Math.floor(at.x), Math.floor(at.y)];
    return u < 0 || v < 0 || u >= width || v >= height || unknown[v * width + u] ? undefined : at;
  };
  const sample: Sources['sample'] = (group, x, y, out) => {
    const at = sourceOf(group, x, y);
    if (!at) return false;
    out.fill(0);
    addBicubicBytes(data, width, height, at.x, at.y, 1, out);
    return true;
  };
  const kinds = new Uint8Array(box.width * box.height);
  for (let y = box.y; y < box.y + box.height; y++) {
    for (let x = box.x; x < box.x + box.width; x++) {
      if (!unknown[y * width + x]) continue;
      const k = inMap(x, y);
      const s = map.s[k]!;
      if (Number.isNaN(s) || s < -2 || s > frame.length + 2 || !isInBand(frame, across.margin, s, map.t[k]!)) continue;
      if (sourceOf(groupAt(x, y), x, y)) kinds[k] = isInBand(frame, core, s, map.t[k]!) ? 2 : 1;
    }
  }
  return { box, kinds, groupAt, sample, sourceOf };
}

function isInBand(frame: BandFrame, margin: number, s: number, t: number): boolean {
  const offsets = frame.offsets(s);
  return t >= offsets[0]! - margin && t <= offsets[offsets.length - 1]! + margin;
}
