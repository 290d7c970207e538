import type { Drawn } from '../fill/drawn.ts';
import type { Point } from '../geometry/homography.ts';
import { copySampled, type Sources } from '../fill/sources.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { translate, type Rect } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { Hole } from '../mask/byteMasks.ts';
import { boundsOf, createMask, pasteMask } from '../mask/mask.ts';
import { bandFrame, type BandFrame } from './bandFrame.ts';
import { bundleJoins } from './bundles.ts';
import { crossingsAround, type Crossings } from './crossingsAround.ts';
import { drawBand, type DrawnBand } from './drawBand.ts';
import { lineFrame } from './lineFrame.ts';
import { meetingEnds } from './meetingEnds.ts';
import type { RunOnLine } from './runOnLine.ts';
import { joinCrossings, type Join } from './joinCrossings.ts';

/** So many reduced px to both sides of a single outline are drawn with it, and so many beside a band of several. */
const MARGIN_PX = 4;
const BESIDE_PX = 2.5;
/** So many of them belong to the band: an outline is so wide. */
const CORE_PX = 1.5;

/** The outlines that reach a hole's rim, and which of them go on as which. */
export interface Outlines extends Crossings {
  joins: Join[];
  /** Those without a partner that end where they meet others; see `meetingEnds`. */
  ends: Join[];
}

/** Looks for the outlines around a hole (not 0, all of it in `box`), and joins them. */
export function findOutlines(image: RasterImage, hole: Hole, box: Rect, kernels: Pick<Kernels, 'scratch'>): Outlines {
  const found = crossingsAround(image, hole, box, kernels);
  const { crossings, factor } = found;
  const joins = joinCrossings(crossings);
  const isOpen = (x: number, y: number): boolean => {
    const [u, v] = [Math.floor(factor * x), Math.floor(factor * y)];
    return u >= 0 && v >= 0 && u < image.width && v < image.height && hole[v * image.width + u] !== 0;
  };
  return { ...found, joins, ends: meetingEnds(crossings, joins, isOpen) };
}

/** The lines that run on, surest first. */
export const runOnLines = (outlines: Outlines): RunOnLine[] => framesOf(outlines).map(lineOf);

const framesOf = ({ joins, ends, factor }: Outlines): BandFrame[] =>
  [...bundleJoins(joins), ...bundleJoins(ends)].map((bundle) => bandFrame(bundle, factor));

/**
 * Draws what was found to run on through a hole (not 0, all of it in `box`), out of what is seen of it at both ends;
 * undefined where nothing does. J. Sun et al.: Image Completion with Structure Propagation, SIGGRAPH, 2005, has lines drawn
 * first, too.
 */
export const drawFound = (outlines: Outlines, image: RasterImage, hole: Hole, box: Rect): Drawn | undefined =>
  drawAlong(framesOf(outlines), image, hole, box, outlines.factor);

/** Draws lines that were set, as `drawFound` does; they are fitted to the outlines at their ends. */
export function drawLines(
  lines: readonly RunOnLine[],
  outlines: Outlines,
  image: RasterImage,
  hole: Hole,
  box: Rect,
): Drawn | undefined {
  const frames = lines.map((line) => lineFrame(line, hole, image, outlines)).filter((frame) => frame !== undefined);
  return drawAlong(frames, image, hole, box, outlines.factor);
}

/** All bands along frames, in one. */
function drawAlong(
  frames: readonly BandFrame[],
  image: RasterImage,
  hole: Hole,
  box: Rect,
  factor: number,
): Drawn | undefined {
  const bands = frames
    .map((frame) => {
      const beside = frame.offsets(0).length > 1 ? BESIDE_PX : MARGIN_PX;
      return drawBand(image, hole, frame, factor * beside, factor * CORE_PX);
    })
    .filter((band) => band !== undefined)
    .slice(0, MAX_BANDS);
  return bands.length > 0 ? together(bands, image, box) : undefined;
}

/** Lines that bend so far off their chord are told by more points than their ends. */
const STRAIGHT_PX = 1;

/** The line along the middle of a band, as wide as its outermost outlines are apart. */
function lineOf(frame: BandFrame): RunOnLine {
  const middle = (share: number): Point => {
    const offsets = frame.offsets(share * frame.length);
    return frame.at(share * frame.length, (offsets[0]! + offsets.at(-1)!) / 2);
  };
  const width = (s: number): number => frame.offsets(s).at(-1)! - frame.offsets(s)[0]!;
  const [start, end] = [middle(0), middle(1)];
  const between = [1 / 3, 2 / 3].map(middle);
  const isBent = between.some((p, k) => {
    const share = (k + 1) / 3;
    return Math.hypot(p.x - mix(start.x, end.x, share), p.y - mix(start.y, end.y, share)) > STRAIGHT_PX;
  });
  return { points: [start, ...(isBent ? between : []), end], widths: [width(0), width(frame.length)] };
}

const mix = (a: number, b: number, share: number): number => a + share * (b - a);

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
