import { cropImage, type RasterImage } from '../image/rasterImage.ts';
import { inflate, intersect, translate, wholeOf, type Rect } from '../image/rect.ts';
import { squaredDistanceTo } from '../mask/distanceTransform.ts';
import { boundsOf, cropMask, type Mask } from '../mask/mask.ts';
import { reduceMarked, type SmallImage } from '../mask/reduceMarked.ts';
import { bytesBy } from '../numeric/filled.ts';

/** How wide the ring is, in sides of the mark, and in work px at least. */
const WIDTH = 0.22;
const MIN_WIDTH_PX = 2;
/** So far from the place pointed at, in sides of the mark, a fit may lead, and beyond that find nothing to compare. */
const BEYOND = 0.6;
const MAX_SAMPLES = 900;
/** So much of the ring must have a counterpart in the picture and off the mark. */
const MIN_SEEN = 0.6;
/** Larger differences, in levels, are no larger: something else lies there. */
const LARGEST_DIFFERENCE = 45;
/** So large a difference counts half. */
const HALF_WEIGHT = 15;
/** What is solved for: four changes of the map's linear part, two of its shift, three of light. */
const UNKNOWNS = 9;

/** Where a place is, for each point p around the mark's centre m: at m + (dx, dy) + (a b; c d) (p - m); in px. */
export interface RimFit {
  a: number;
  b: number;
  c: number;
  d: number;
  dx: number;
  dy: number;
}

/** A part of the picture, so many times smaller, that begins at `left` and `top` in work px. */
interface Reduced extends SmallImage {
  left: number;
  top: number;
}

/** The ring around a mark, in a picture `factor` times smaller, to be compared with what lies where a fit leads. */
export class RimRing {
  readonly factor: number;
  readonly centre: { x: number; y: number };
  /** Of the mark, in work px. */
  readonly side: number;
  private readonly here: Reduced;
  private readonly there: Reduced;
  private readonly sampled: Int32Array;
  // Of the samples of one comparison: three differences, six slopes (across and down for each channel).
  private readonly differences: Float32Array;
  private readonly slopes: Float32Array;
  private readonly isSeen: Uint8Array;
  private readonly light = new Float64Array(3);

  /** Fits must lead near to `from`, px away. */
  constructor(image: RasterImage, mark: Mask, factor: number, from: { dx: number; dy: number }) {
    const bounds = boundsOf(mark);
    const longer = Math.max(bounds.width, bounds.height);
    this.factor = factor;
    this.centre = { x: bounds.x + bounds.width / 2, y: bounds.y + bounds.height / 2 };
    this.side = Math.sqrt(bounds.width * bounds.height) / factor;
    const around = Math.ceil(factor * (WIDTH * this.side + MIN_WIDTH_PX));
    this.here = reducePart(image, mark, factor, inflate(bounds, around));
    this.there = reducePart(
      image,
      mark,
      factor,
      inflate(translate(bounds, from.dx, from.dy), around + Math.ceil(BEYOND * longer)),
    );
    const { width, height, marked } = this.here;
    const whole = { width, height, data: bytesBy(marked.length, (i) => (marked[i]! > 0 ? 255 : 0)) };
    const outward = squaredDistanceTo(whole, true);
    const reach = Math.max(MIN_WIDTH_PX, WIDTH * this.side) ** 2;
    const inRing: number[] = [];
    for (let i = 0; i < outward.length; i++) if (outward[i]! > 0 && outward[i]! <= reach) inRing.push(i);
    const stride = Math.max(1, inRing.length / MAX_SAMPLES);
    this.sampled = Int32Array.from({ length: Math.floor(inRing.length / stride) }, (_, k) => {
      return inRing[Math.floor(k * stride)]!;
    });
    this.differences = new Float32Array(3 * this.samples);
    this.slopes = new Float32Array(6 * this.samples);
    this.isSeen = new Uint8Array(this.samples);
  }

  get samples(): number {
    return this.sampled.length;
  }

  /** The mean difference, in levels, once the light of both is the same; infinite where too little can be compared. */
  difference(fit: RimFit): number {
    const seen = this.compare(fit);
    if (seen === 0) return Infinity;
    let sum = 0;
    for (let k = 0; k < this.samples; k++) {
      if (!this.isSeen[k]) continue;
      for (let c = 0; c < 3; c++) {
        sum += Math.min(LARGEST_DIFFERENCE, Math.abs(this.differences[3 * k + c]! - this.light[c]!));
      }
    }
    return sum / (3 * seen);
  }

  /**
   * The normal equations of a Gauss-Newton step from a fit: changes of a, b, c, d times `side`, of dx and dy in work px,
   * and of light in levels. Undefined where too little can be compared.
   */
  equations(fit: RimFit): { normal: number[][]; right: number[] } | undefined {
    if (this.compare(fit) === 0) return undefined;
    const normal = Array.from({ length: UNKNOWNS }, () => new Array<number>(UNKNOWNS).fill(0));
    const right = new Array<number>(UNKNOWNS).fill(0);
    for (let k = 0; k < this.samples; k++) {
      if (!this.isSeen[k]) continue;
      const i = this.sampled[k]!;
      const { x, y } = this.fromCentre(i);
      const [u, v] = [x / (this.factor * this.side), y / (this.factor * this.side)];
      for (let c = 0; c < 3; c++) {
        const difference = this.differences[3 * k + c]! - this.light[c]!;
        const weight = 1 / (1 + (difference / HALF_WEIGHT) ** 2);
        const across = this.slopes[6 * k + 2 * c]!;
        const down = this.slopes[6 * k + 2 * c + 1]!;
        const row = [across * u, across * v, down * u, down * v, across, down, 0, 0, 0];
        row[6 + c] = -1;
        for (let p = 0; p < UNKNOWNS; p++) {
          right[p]! -= weight * row[p]! * difference;
          for (let q = 0; q < UNKNOWNS; q++) normal[p]![q]! += weight * row[p]! * row[q]!;
        }
      }
    }
    return { normal, right };
  }

  /** Where a work px of the ring lies from the mark's centre, in px. */
  private fromCentre(i: number): { x: number; y: number } {
    const { left, top, width } = this.here;
    return {
      x: (left + (i % width) + 0.5) * this.factor - this.centre.x,
      y: (top + Math.floor(i / width) + 0.5) * this.factor - this.centre.y,
    };
  }

  /** Differences and slopes where the fit leads, and their light; how many samples are seen, 0 if too few. */
  private compare(fit: RimFit): number {
    const { factor, centre, here, differences, slopes, light } = this;
    const { left, top, width, height, colour, marked } = this.there;
    light.fill(0);
    let seen = 0;
    for (let k = 0; k < this.samples; k++) {
      const i = this.sampled[k]!;
      const { x: u, y: v } = this.fromCentre(i);
      const px = (centre.x + fit.dx + fit.a * u + fit.b * v) / factor - 0.5 - left;
      const py = (centre.y + fit.dy + fit.c * u + fit.d * v) / factor - 0.5 - top;
      const [x, y] = [Math.floor(px), Math.floor(py)];
      const at = y * width + x;
      this.isSeen[k] = 0;
      if (!(x >= 0 && y >= 0 && x + 1 < width && y + 1 < height)) continue;
      if (marked[at] || marked[at + 1] || marked[at + width] || marked[at + width + 1]) continue;
      this.isSeen[k] = 1;
      seen++;
      const [fx, fy] = [px - x, py - y];
      for (let c = 0; c < 3; c++) {
        const p = colour[3 * at + c]!;
        const q = colour[3 * (at + 1) + c]!;
        const r = colour[3 * (at + width) + c]!;
        const s = colour[3 * (at + width + 1) + c]!;
        const upper = p + (q - p) * fx;
        const lower = r + (s - r) * fx;
        const difference = upper + (lower - upper) * fy - here.colour[3 * i + c]!;
        differences[3 * k + c] = difference;
        light[c]! += Math.max(-LARGEST_DIFFERENCE, Math.min(LARGEST_DIFFERENCE, difference));
        slopes[6 * k + 2 * c] = q - p + (s - r - q + p) * fy;
        slopes[6 * k + 2 * c + 1] = lower - upper;
      }
    }
    if (seen === 0 || seen < MIN_SEEN * this.samples) return 0;
    for (let c = 0; c < 3; c++) light[c]! /= seen;
    return seen;
  }
}

/** The part in `rect`, in whole work px; what of them the picture does not fill is left out. */
function reducePart(image: RasterImage, mark: Mask, factor: number, rect: Rect): Reduced {
  const { x, y, width, height } = intersect(rect, wholeOf(image));
  const [left, top] = [Math.floor(x / factor), Math.floor(y / factor)];
  const part = {
    x: left * factor,
    y: top * factor,
    width: (Math.floor((x + width) / factor) - left) * factor,
    height: (Math.floor((y + height) / factor) - top) * factor,
  };
  return { ...reduceMarked(cropImage(image, part), cropMask(mark, part), factor), left, top };
}
