import { followedPaths, followOutlines, outlineWork } from '../fill/rimPath.ts';
import type { Point } from '../geometry/homography.ts';
import { cropImage, type RasterImage } from '../image/rasterImage.ts';
import { inflate, intersect, wholeOf, type Rect } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { Hole } from '../mask/byteMasks.ts';
import { boundsOf, cropMask } from '../mask/mask.ts';
import { CROSSING_OPTIONS, type Crossing } from './crossing.ts';
import { findCrossings } from './crossings.ts';
import { edgeField, type EdgeField } from './edgeField.ts';

/** Outlines are looked for in a picture reduced until the hole is about so many px long. */
const LONGEST_PX = 320;
/** So many more reduced px around are read than an outline is followed over. */
const MARGIN_PX = 4;

/** The outlines that reach the rim of a hole. */
export interface Crossings {
  /** Strongest first, in px of the picture reduced by `factor`. */
  crossings: Crossing[];
  factor: number;
  /** What they were found in, and where its corner lies in px of the picture. */
  field: EdgeField;
  corner: Point;
}

/** Finds the crossings of a hole (not 0, all of it in `box`). */
export function crossingsAround(
  image: RasterImage,
  hole: Hole,
  box: Rect,
  kernels: Pick<Kernels, 'scratch'>,
): Crossings {
  const factor = Math.max(1, Math.round(Math.max(box.width, box.height) / LONGEST_PX));
  const seen = seenAround(image, box, factor, CROSSING_OPTIONS.longest + MARGIN_PX);
  const inSeen = cropMask({ width: image.width, height: image.height, data: hole as Uint8Array<ArrayBuffer> }, seen);
  const field = edgeField(cropImage(image, seen), inSeen.data, factor);
  const { width, height } = field;
  const corner = { x: seen.x, y: seen.y };
  const reducedBox = boundsOf({ width, height, data: field.hole as Uint8Array<ArrayBuffer> });
  if (reducedBox.width === 0) return { crossings: [], factor, field, corner };
  const giveBack = kernels.scratch.hold();
  const outlines = outlineWork(field.hole, width, reducedBox, 1, 1, kernels);
  followOutlines(outlines);
  const crossings = findCrossings(field, followedPaths(outlines));
  giveBack();
  const there = crossings.map((crossing) => ({
    ...crossing,
    x: crossing.x + seen.x / factor,
    y: crossing.y + seen.y / factor,
  }));
  return { crossings: there, factor, field, corner };
}

/** What lies up to `reach` reduced px around a box, from a whole reduced px of the picture on. */
export function seenAround(image: RasterImage, box: Rect, factor: number, reach: number): Rect {
  const around = intersect(inflate(box, factor * reach), wholeOf(image));
  return {
    x: factor * Math.floor(around.x / factor),
    y: factor * Math.floor(around.y / factor),
    width: around.width + (around.x % factor),
    height: around.height + (around.y % factor),
  };
}
