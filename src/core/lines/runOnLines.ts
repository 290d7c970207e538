import type { Drawn } from '../fill/drawn.ts';
import { copySampled, type Sources } from '../fill/sources.ts';
import { followedPaths, followOutlines, outlineWork } from '../fill/rimPath.ts';
import { cropImage, type RasterImage } from '../image/rasterImage.ts';
import { inflate, intersect, translate, wholeOf, type Rect } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { Hole } from '../mask/byteMasks.ts';
import { boundsOf, createMask, cropMask, pasteMask } from '../mask/mask.ts';
import { bandFrame } from './bandFrame.ts';
import { bundleJoins } from './bundles.ts';
import { CROSSING_OPTIONS, type Crossing } from './crossing.ts';
import { findCrossings } from './crossings.ts';
import { drawBand, type DrawnBand } from './drawBand.ts';
import { edgeField } from './edgeField.ts';
import { joinCrossings } from './joinCrossings.ts';

/** Outlines are looked for in a picture reduced until the hole is about so many px long. */
const LONGEST_PX = 320;
/** So many reduced px to both sides of a single outline are drawn with it, and so many beside a band of several. */
const MARGIN_PX = 4;
const BESIDE_PX = 2.5;
/** So many of them belong to the band: an outline is so wide. */
const CORE_PX = 1.5;

/**
 * Draws what runs on through a hole (not 0, all of it in `box`) out of what is seen of it at both ends; undefined where
 * nothing does. J. Sun et al.: Image Completion with Structure Propagation, SIGGRAPH, 2005, has lines drawn first, too.
 */
export function runOnLines(
  image: RasterImage,
  hole: Hole,
  box: Rect,
  kernels: Pick<Kernels, 'scratch'>,
): Drawn | undefined {
  const factor = Math.max(1, Math.round(Math.max(box.width, box.height) / LONGEST_PX));
  const crossings = crossingsAround(image, hole, box, factor, kernels);
  const bands = bundleJoins(joinCrossings(crossings))
    .map((bundle) => {
      const frame = bandFrame(bundle, factor);
      const beside = frame.offsets(0).length > 1 ? BESIDE_PX : MARGIN_PX;
      return drawBand(image, hole, frame, factor * beside, factor * CORE_PX);
    })
    .filter((band) => band !== undefined)
    .slice(0, MAX_BANDS);
  return bands.length > 0 ? together(bands, image, box) : undefined;
}

/** No more bands than bytes can count are drawn. */
const MAX_BANDS = 255;
/** Runs of a band are counted up to so many. */
const MAX_RUNS = 1 << 16;

/** All bands in one: each pixel is of the surest of those that it is a part of, else of one that it lies beside. */
function together(bands: readonly DrawnBand[], { width, height }: RasterImage, box: Rect): Drawn | undefined {
  // Counted from 1; 0: of none.
  const bandAt = new Uint8Array(box.width * box.height);
  for (const kind of [2, 1]) {
    for (const [k, band] of bands.entries()) {
      for (let i = 0; i < band.kinds.length; i++) {
        if (band.kinds[i] !== kind) continue;
        const x = (i % band.box.width) + band.box.x - box.x;
        const y = Math.floor(i / band.box.width) + band.box.y - box.y;
        bandAt[y * box.width + x] ||= k + 1;
      }
    }
  }
  const mask = { width: box.width, height: box.height, data: bandAt };
  const drawn = translate(boundsOf(mask), box.x, box.y);
  if (drawn.width === 0) return undefined;
  const whole = createMask(width, height);
  pasteMask(whole, box, mask);
  const bandOf = (group: number): DrawnBand | undefined => bands[Math.floor(group / MAX_RUNS)];
  const groupAt = (x: number, y: number): number => {
    const k = whole.data[y * width + x]!;
    return k > 0 ? (k - 1) * MAX_RUNS + bands[k - 1]!.groupAt(x, y) : 0;
  };
  const sample: Sources['sample'] = (group, x, y, out) => bandOf(group)?.sample(group % MAX_RUNS, x, y, out) ?? false;
  const sources: Sources = {
    largestBlock: 1,
    groupAt,
    sample,
    sourceOf(x, y) {
      const group = groupAt(x, y);
      return bandOf(group)?.sourceOf(group % MAX_RUNS, x, y) ?? { x, y };
    },
    copy: (part, within, out) => copySampled(sample, groupAt, width, part, within, out),
  };
  const pixels = bandAt.reduce((sum, k) => sum + (k > 0 ? 1 : 0), 0);
  return { pixelsOf: whole.data, pixels, box: drawn, sources, isThing: true };
}

/** The crossings of a hole, in px of the picture reduced by `factor`. */
function crossingsAround(
  image: RasterImage,
  hole: Hole,
  box: Rect,
  factor: number,
  kernels: Pick<Kernels, 'scratch'>,
): Crossing[] {
  const around = intersect(inflate(box, factor * (CROSSING_OPTIONS.longest + MARGIN_PX)), wholeOf(image));
  // Whole reduced px from the picture's corner on.
  const seen = {
    x: factor * Math.floor(around.x / factor),
    y: factor * Math.floor(around.y / factor),
    width: around.width + (around.x % factor),
    height: around.height + (around.y % factor),
  };
  const inSeen = cropMask({ width: image.width, height: image.height, data: hole as Uint8Array<ArrayBuffer> }, seen);
  const field = edgeField(cropImage(image, seen), inSeen.data, factor);
  const { width, height } = field;
  const reducedBox = boundsOf({ width, height, data: field.hole as Uint8Array<ArrayBuffer> });
  if (reducedBox.width === 0) return [];
  const giveBack = kernels.scratch.hold();
  const outlines = outlineWork(field.hole, width, reducedBox, 1, 1, kernels);
  followOutlines(outlines);
  const crossings = findCrossings(field, followedPaths(outlines));
  giveBack();
  return crossings.map((crossing) => ({
    ...crossing,
    x: crossing.x + seen.x / factor,
    y: crossing.y + seen.y / factor,
  }));
}
