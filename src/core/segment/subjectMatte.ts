import { createGridSolver } from '../blend/gridLaplacian.ts';
import { LANES } from '../blend/gridSteps.ts';
import { guidedFilter } from '../image/guidedFilter.ts';
import { LINEAR_FROM_BYTE, byteFromLinear } from '../image/linearLight.ts';
import { requireSameSize, type RasterImage } from '../image/rasterImage.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { areaOf, createMask, type Mask } from '../mask/mask.ts';
import { squaredDistanceTo } from '../mask/distanceTransform.ts';
import { createColourModel, type ColourModel } from './colourModel.ts';

const WORK_PIXELS = 160_000;
const ROUNDS = 3;
/** Ground lies in shadow beside most subjects: its colours count as ground at these shares of their light, too. */
const SHADOW_SHARES = [0.75, 0.5, 0.35, 0.25, 0.18];

export interface MatteOptions {
  /** -1 = only what surely is the subject ... 1 = doubtful parts belong to it. */
  generosity: number;
}

/**
 * The subject inside a loose mark, as a soft matte of the mark's size (255 = wholly subject): what differs in colour
 * from the ring around the mark, lit or in shadow, and hangs together. A random walker with colour priors (L. Grady:
 * Multilabel Random Walker Image Segmentation Using Prior Models, CVPR, 2005) on a reduced image, its edge carried to
 * full resolution by a guided filter. Nothing outside the mark is subject.
 *
 * Where nothing in the mark stands out from its ring (or everything does), the mark itself is returned.
 */
export function findSubjectMatte(image: RasterImage, mark: Mask, options: MatteOptions, kernels: Kernels): Mask {
  requireSameSize(image, mark, 'The mark');
  const factor = Math.max(1, Math.round(Math.sqrt((image.width * image.height) / WORK_PIXELS)));
  const small = reduce(image, mark, factor);
  const ground = groundModel(small);
  const probability = walk(small, ground, options.generosity, kernels);
  if (!standsOut(small, ground, probability)) return mark;
  const matte = sharpen(image, mark, small, probability, factor);
  const share = areaOf(matte) / Math.max(1, areaOf(mark));
  return share < 0.04 || share > 0.97 ? mark : matte;
}

interface SmallImage {
  width: number;
  height: number;
  /** RGB interleaved, encoded values. */
  colour: Float32Array;
  /** Share of the pixel that is marked. */
  marked: Float32Array;
}

function reduce(image: RasterImage, mark: Mask, factor: number): SmallImage {
  const width = Math.ceil(image.width / factor);
  const height = Math.ceil(image.height / factor);
  const colour = new Float32Array(width * height * 3);
  const marked = new Float32Array(width * height);
  const count = new Float32Array(width * height);
  for (let y = 0; y < image.height; y++) {
    for (let x = 0; x < image.width; x++) {
      const i = y * image.width + x;
      const cell = Math.floor(y / factor) * width + Math.floor(x / factor);
      for (let c = 0; c < 3; c++) colour[3 * cell + c]! += image.data[4 * i + c]!;
      marked[cell]! += mark.data[i]! / 255;
      count[cell]! += 1;
    }
  }
  for (let cell = 0; cell < count.length; cell++) {
    for (let c = 0; c < 3; c++) colour[3 * cell + c]! /= count[cell]!;
    marked[cell]! /= count[cell]!;
  }
  return { width, height, colour, marked };
}

/** Natural logarithm of how much rarer on the ground the subject's colours must be than those of the rest. */
const LEAST_CONTRAST = 1;

/** Whether what was found really has other colours than the ground, rather than being a blotch of its grain. */
function standsOut({ colour, marked }: SmallImage, ground: ColourModel, probability: Float32Array): boolean {
  const sum = [0, 0];
  const count = [0, 0];
  for (let i = 0; i < marked.length; i++) {
    if (marked[i]! < 0.5) continue;
    const side = probability[i]! > 0.5 ? 1 : 0;
    sum[side]! += ground.logShare(colour[3 * i]!, colour[3 * i + 1]!, colour[3 * i + 2]!);
    count[side]! += 1;
  }
  return count[1]! > 0 && (count[0] === 0 || sum[0]! / count[0]! - sum[1]! / count[1]! > LEAST_CONTRAST);
}

function walk(small: SmallImage, ground: ColourModel, generosity: number, kernels: Kernels): Float32Array {
  const { width, height, colour, marked } = small;
  const n = width * height;
  const edges = contrastEdges(small);
  let probability = firstGuess(small, ground);
  for (let round = 0; round < ROUNDS; round++) {
    const subject = createColourModel();
    for (let i = 0; i < n; i++) {
      if (probability[i]! > 0.5) subject.add(colour[3 * i]!, colour[3 * i + 1]!, colour[3 * i + 2]!, probability[i]!);
    }
    const extra = edges.toUnmarked.slice();
    const rightSide = new Float32Array(n * LANES);
    for (let i = 0; i < n; i++) {
      if (marked[i]! < 0.5) continue;
      const [r, g, b] = [colour[3 * i]!, colour[3 * i + 1]!, colour[3 * i + 2]!];
      const evidence = subject.logShare(r, g, b) - ground.logShare(r, g, b) + 1.5 * generosity;
      const belief = 1 / (1 + Math.exp(-evidence));
      extra[i]! += PRIOR_WEIGHT;
      rightSide[LANES * i] = PRIOR_WEIGHT * belief;
    }
    kernels.reset();
    const system = { width, height, right: edges.right, down: edges.down, extra };
    const solved = createGridSolver(system, kernels).solve(rightSide, 5e-3, 10);
    probability = probability.map((_, i) => solved[LANES * i]!);
  }
  return probability;
}

const PRIOR_WEIGHT = 0.08;

/** Colours of a ring around the mark, lit as they are and in shadow. */
function groundModel({ width, height, colour, marked }: SmallImage): ColourModel {
  const markMask = createMask(width, height);
  for (let i = 0; i < marked.length; i++) markMask.data[i] = marked[i]! > 0.02 ? 255 : 0;
  const distance = squaredDistanceTo(markMask, true);
  const reach = 0.12 * Math.max(width, height);
  const model = createColourModel();
  for (let i = 0; i < marked.length; i++) {
    if (distance[i] === 0 || distance[i]! > reach * reach) continue;
    const rgb = [colour[3 * i]!, colour[3 * i + 1]!, colour[3 * i + 2]!] as const;
    model.add(...rgb, 1);
    for (const share of SHADOW_SHARES) {
      const [r, g, b] = rgb.map((v) => byteFromLinear(share * LINEAR_FROM_BYTE[Math.round(v)]!));
      model.add(r!, g!, b!, 0.25);
    }
  }
  return model;
}

/** Before any subject colour is known: what the ground hardly has is subject. */
function firstGuess({ colour, marked }: SmallImage, ground: ColourModel): Float32Array {
  const guess = new Float32Array(marked.length);
  for (let i = 0; i < guess.length; i++) {
    if (marked[i]! < 0.5) continue;
    const surprise = -ground.logShare(colour[3 * i]!, colour[3 * i + 1]!, colour[3 * i + 2]!);
    guess[i] = Math.max(0, Math.min(1, (surprise - 4) / 3));
  }
  return guess;
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

/** The work-size probability enlarged, its edge pulled onto the photo's and made about two pixels wide. */
function sharpen(image: RasterImage, mark: Mask, small: SmallImage, probability: Float32Array, factor: number): Mask {
  const { width, height } = image;
  const enlarged = new Float32Array(width * height);
  const guide = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const v = Math.max(0, Math.min(small.height - 1, (y + 0.5) / factor - 0.5));
    const v0 = Math.floor(v);
    const v1 = Math.min(small.height - 1, v0 + 1);
    for (let x = 0; x < width; x++) {
      const u = Math.max(0, Math.min(small.width - 1, (x + 0.5) / factor - 0.5));
      const u0 = Math.floor(u);
      const u1 = Math.min(small.width - 1, u0 + 1);
      const top = mix(probability[v0 * small.width + u0]!, probability[v0 * small.width + u1]!, u - u0);
      const bottom = mix(probability[v1 * small.width + u0]!, probability[v1 * small.width + u1]!, u - u0);
      const i = y * width + x;
      enlarged[i] = mix(top, bottom, v - v0);
      guide[i] = (0.299 * image.data[4 * i]! + 0.587 * image.data[4 * i + 1]! + 0.114 * image.data[4 * i + 2]!) / 255;
    }
  }
  const cut = enlarged.map((p) => (p > 0.5 ? 1 : 0));
  const followed = guidedFilter(cut, guide, width, height, Math.max(2, factor), 1e-4);
  const matte = createMask(width, height);
  for (let i = 0; i < matte.data.length; i++) {
    const steep = Math.max(0, Math.min(1, (followed[i]! - 0.5) * 1.6 + 0.5));
    matte.data[i] = Math.round(Math.min(mark.data[i]!, 255 * steep));
  }
  return matte;
}

const mix = (a: number, b: number, t: number): number => a + (b - a) * t;
