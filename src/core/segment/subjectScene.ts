import { squaredDistanceTo } from '../mask/distanceTransform.ts';
import { createMask, type Mask } from '../mask/mask.ts';
import type { SmallImage } from '../mask/reduceMarked.ts';
import { FEATURES } from './colourMixture.ts';
import { bytesBy, floatsBy } from '../numeric/filled.ts';

const SAMPLES = 3000;
/** The picture's longest side in units of colour levels: things lie together, and grounds change across a picture. */
export const PLACE_WEIGHT = 30;
/** Widths as shares of the square root of the mark's area: what a loop usually leaves free inside, and how far out
 * the ground is looked at. */
const SLACK_SHARE = 0.08;
const RING_SHARE = 0.25;

/** A reduced image with all that tells subject and ground apart. */
export interface SubjectScene extends SmallImage {
  /** The marked pixels, in order. */
  picks: Int32Array;
  /** FEATURES numbers a pixel. */
  features: Float32Array;
  /** Distance to the mark's rim, in units of the usual slack; 0 outside the mark. */
  depth: Float32Array;
  /** 1 in the ring around the mark. */
  ring: Uint8Array;
  /** 1 where a stroke says subject, 2 where one says ground. */
  said: Uint8Array;
  edges: Edges;
  /** Every so many-th pixel is a sample. */
  stride: number;
}

/** Where the user said what is subject and what is not, of the full size, at 128 or more. */
export interface SubjectStrokes {
  subject: Mask;
  ground: Mask;
}

/** Describes a reduced picture; strokes are given at full size. */
export function describeScene(
  small: SmallImage,
  strokes: SubjectStrokes | undefined,
  factor: number,
  unseen?: Mask,
): SubjectScene {
  const { width, height, marked } = small;
  const n = width * height;
  const inside = createMask(width, height);
  const picks = new Int32Array(n);
  let area = 0;
  for (let i = 0; i < n; i++) {
    if (marked[i]! < 0.5) continue;
    inside.data[i] = 255;
    picks[area++] = i;
  }
  const inward = squaredDistanceTo(inside, false);
  const outward = squaredDistanceTo(inside, true);
  const size = Math.sqrt(area);
  const reach = (RING_SHARE * size) ** 2;
  const said = new Uint8Array(n);
  if (strokes) {
    for (const [mask, meaning] of [[strokes.subject, 1] as const, [strokes.ground, 2] as const]) {
      for (let i = 0; i < mask.data.length; i++) {
        if (mask.data[i]! < 128) continue;
        said[Math.floor(Math.floor(i / mask.width) / factor) * width + Math.floor((i % mask.width) / factor)] = meaning;
      }
    }
  }
  const isUnseen = (i: number): boolean =>
    unseen !== undefined && unseen.data[factor * (Math.floor(i / width) * unseen.width + (i % width))]! > 0;
  return {
    ...small,
    picks: picks.slice(0, area),
    features: describePixels(small, PLACE_WEIGHT),
    depth: floatsBy(n, (i) => (inside.data[i] ? Math.sqrt(inward[i]!) / (SLACK_SHARE * size) : 0)),
    ring: bytesBy(n, (i) => (!inside.data[i] && outward[i]! <= reach && !isUnseen(i) ? 1 : 0)),
    said,
    edges: contrastEdges(small),
    stride: Math.max(1, Math.round(n / (2 * SAMPLES))),
  };
}

/** Luma, two colour differences and the place in the picture, of every pixel. */
export function describePixels({ width, height, colour }: SmallImage, placeWeight: number): Float32Array {
  const features = new Float32Array(width * height * FEATURES);
  const unit = placeWeight / Math.max(width, height);
  for (let i = 0; i < width * height; i++) {
    const [r, g, b] = [colour[3 * i]!, colour[3 * i + 1]!, colour[3 * i + 2]!];
    const luma = 0.299 * r + 0.587 * g + 0.114 * b;
    const x = i % width;
    features.set([luma, 1.2 * (b - luma), 1.2 * (r - luma), unit * x, (unit * (i - x)) / width], FEATURES * i);
  }
  return features;
}

interface Edges {
  right: Float32Array;
  down: Float32Array;
  /** Sum of a marked pixel's weights to unmarked neighbours, which are certainly not subject. */
  toUnmarked: Float32Array;
}

/** Edge weights exp(-difference^2 / (2 sigma^2)), sigma^2 the mean squared difference within the mark. */
function contrastEdges({ width, height, colour, marked }: SmallImage): Edges {
  const n = width * height;
  const right = new Float32Array(n);
  const down = new Float32Array(n);
  const difference = (i: number, j: number): number => {
    let sum = 0;
    for (let c = 0; c < 3; c++) sum += (colour[3 * i + c]! - colour[3 * j + c]!) ** 2;
    return sum;
  };
  let total = 0;
  let count = 1;
  for (let i = 0; i + 1 < n; i++) {
    if (marked[i]! < 0.5) continue;
    total += difference(i, i + 1);
    count++;
  }
  const scale = 1 / (2 * Math.max(4, total / count));
  const toUnmarked = new Float32Array(n);
  const join = (i: number, j: number, weights: Float32Array): void => {
    const weight = 0.002 + Math.exp(-difference(i, j) * scale);
    const [from, to] = [marked[i]! >= 0.5, marked[j]! >= 0.5];
    if (from && to) weights[i] = weight;
    else if (from) toUnmarked[i]! += weight;
    else if (to) toUnmarked[j]! += weight;
  };
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (x + 1 < width) join(i, i + 1, right);
      if (y + 1 < height) join(i, i + width, down);
    }
  }
  return { right, down, toUnmarked };
}
