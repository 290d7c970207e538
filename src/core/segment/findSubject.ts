import { polygonArea, polygonHull } from 'd3-polygon';
import { createGridSolver } from '../blend/gridLaplacian.ts';
import { LANES } from '../blend/gridSteps.ts';
import { guidedModel } from '../image/guidedModel.ts';
import { requireSameSize, type RasterImage } from '../image/rasterImage.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { squaredDistanceTo } from '../mask/distanceTransform.ts';
import { areaOf, createMask, type Mask } from '../mask/mask.ts';
import { createRandom } from '../numeric/random.ts';
import { FEATURES, fitMixture, logDensity, type ColourMixture } from './colourMixture.ts';
import { shadedLogDensity } from './shadedGround.ts';

const WORK_PIXELS = 60_000;
const SAMPLES = 3000;
const COMPONENTS = 8;
const ROUNDS = 3;
/** The picture's longest side in units of colour levels: things lie together, and grounds change across a picture. */
const PLACE_WEIGHT = 30;
/** The same where only colours count, before any subject is known. */
const FIRST_PLACE_WEIGHT = 0.3;
/** Widths as shares of the square root of the mark's area: what a loop usually leaves free inside, and how far out
 * the ground is looked at. */
const SLACK_SHARE = 0.08;
const RING_SHARE = 0.25;
/** Colours that the ring has less than this share of are strange to it, and so likely the subject's. */
const STRANGE_SHARE = 0.03;
/** At least this share of what lies deep in the mark starts as subject. */
const LEAST_STRANGE = 0.05;
/** What a ground in shadow is less likely than a ground in the light (natural logarithm), at first and later. */
const FIRST_SHADE_PENALTY = 1.5;
const SHADE_PENALTY = 3;
const TRUST_IN_COLOUR = 0.6;
const DEPTH_WEIGHT = 2.5;
const NEUTRAL_DEPTH = 0.6;
const PRIOR_WEIGHT = 0.06;
const LOWEST_DENSITY = -16;
/** Strokes are obeyed, and teach more than other pixels. */
const STROKE_WEIGHT = 1000;
const STROKE_SAMPLES = 6;

export interface SubjectOptions {
  /** -1 = only what surely is the subject ... 1 = doubtful parts belong to it. */
  generosity: number;
  /** Of the mark's size: where the user said what is subject (`subject`) and what is not (`ground`), at 128 or more. */
  strokes?: { subject: Mask; ground: Mask };
}

/**
 * The subject inside a loose mark, as a soft matte of the mark's size (255 = wholly subject): what differs from the
 * ring around the mark, lit or in shadow, hangs together and lies away from the mark's rim. Colours and places are
 * described by two mixtures, of the subject and of the ground, found in turns with the segmentation (C. Rother et al.:
 * GrabCut, SIGGRAPH, 2004); that is a random walker with those as priors (L. Grady: Multilabel Random Walker Image
 * Segmentation Using Prior Models, CVPR, 2005) on a reduced image, its edge carried to full resolution by a guided
 * filter. What a ground looks like in shadow is counted as ground. Nothing outside the mark is subject.
 *
 * Where nothing in the mark stands out from its ring (or everything does), the mark itself is returned.
 */
export function findSubjectMatte(image: RasterImage, mark: Mask, options: SubjectOptions, kernels: Kernels): Mask {
  requireSameSize(image, mark, 'The mark');
  const factor = Math.max(1, Math.round(Math.sqrt((image.width * image.height) / WORK_PIXELS)));
  const scene = describeScene(reduce(image, mark, factor), options, factor);
  const strange = strangeness(scene);
  const subject = scene && strange && bestSubject(scene, strange, options.generosity, kernels);
  if (!strange || !subject || !standsOut(scene, strange, subject)) return mark;
  const matte = sharpen(image, mark, scene, subject, factor);
  const share = areaOf(matte) / Math.max(1, areaOf(mark));
  return share < 0.02 || share > 0.97 ? mark : matte;
}

interface SmallImage {
  width: number;
  height: number;
  /** RGB interleaved, encoded values. */
  colour: Float32Array;
  /** Share of the pixel that is marked. */
  marked: Float32Array;
}

/** A reduced image with all that tells subject and ground apart. */
interface Scene extends SmallImage {
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

function reduce(image: RasterImage, mark: Mask, factor: number): SmallImage {
  const width = Math.ceil(image.width / factor);
  const height = Math.ceil(image.height / factor);
  const colour = new Float32Array(width * height * 3);
  const marked = new Float32Array(width * height);
  const count = new Float32Array(width * height);
  const columns = Int32Array.from({ length: image.width }, (_, x) => Math.floor(x / factor));
  const { data } = image;
  for (let y = 0; y < image.height; y++) {
    const row = Math.floor(y / factor) * width;
    for (let x = 0; x < image.width; x++) {
      const i = y * image.width + x;
      const cell = row + columns[x]!;
      colour[3 * cell]! += data[4 * i]!;
      colour[3 * cell + 1]! += data[4 * i + 1]!;
      colour[3 * cell + 2]! += data[4 * i + 2]!;
      marked[cell]! += mark.data[i]!;
      count[cell]! += 1;
    }
  }
  for (let cell = 0; cell < count.length; cell++) {
    for (let c = 0; c < 3; c++) colour[3 * cell + c]! /= count[cell]!;
    marked[cell]! /= 255 * count[cell]!;
  }
  return { width, height, colour, marked };
}

function describeScene(small: SmallImage, { strokes }: SubjectOptions, factor: number): Scene {
  const { width, height, marked } = small;
  const n = width * height;
  const inside = createMask(width, height);
  let area = 0;
  for (let i = 0; i < n; i++) {
    if (marked[i]! < 0.5) continue;
    inside.data[i] = 255;
    area++;
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
  return {
    ...small,
    features: describePixels(small, PLACE_WEIGHT),
    depth: Float32Array.from(inward, (d, i) => (inside.data[i] ? Math.sqrt(d) / (SLACK_SHARE * size) : 0)),
    ring: Uint8Array.from(outward, (d, i) => (!inside.data[i] && d <= reach ? 1 : 0)),
    said,
    edges: contrastEdges(small),
    stride: Math.max(1, Math.round(n / (2 * SAMPLES))),
  };
}

/** Luma, two colour differences and the place in the picture, of every pixel. */
function describePixels({ width, height, colour }: SmallImage, placeWeight: number): Float32Array {
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

interface Strangeness {
  /** How likely each pixel's colour is on the ground, lit or in shadow (logarithm). */
  likelihood: Float32Array;
  /** The same in shadow only. */
  shaded: Float32Array;
  /** Likelihoods that a thirtieth, and half, of the ring itself fall short of. */
  low: number;
  usual: number;
}

/** Measures everything marked against the colours of the ring; undefined where there is no ring. */
function strangeness(scene: Scene): Strangeness | undefined {
  const { width, height, marked, ring, said, stride } = scene;
  const n = width * height;
  const features = describePixels(scene, PLACE_WEIGHT * FIRST_PLACE_WEIGHT);
  const samples: number[] = [];
  const weights: number[] = [];
  for (let i = 0; i < n; i++) {
    if (said[i] === 2) weights.push(STROKE_SAMPLES);
    else if (ring[i] && i % stride === 0) weights.push(1);
    else continue;
    samples.push(i);
  }
  if (samples.length < 10 * COMPONENTS) return undefined;
  const ground = mixture(features, samples, weights);
  const ofRing = Float32Array.from(samples, (i) => logDensity(ground, features, FEATURES * i)).sort();
  const likelihood = new Float32Array(n);
  const shaded = new Float32Array(n);
  for (let i = 0; i < n; i++) {
    if (marked[i]! < 0.5) continue;
    shaded[i] = shadedLogDensity(ground, features, FEATURES * i);
    likelihood[i] = Math.max(logDensity(ground, features, FEATURES * i), shaded[i]! - FIRST_SHADE_PENALTY);
  }
  return {
    likelihood,
    shaded,
    low: ofRing[Math.floor(STRANGE_SHARE * ofRing.length)]!,
    usual: ofRing[ofRing.length >> 1]!,
  };
}

const mixture = (features: Float32Array, samples: number[], weights: number[]): ColourMixture =>
  fitMixture(features, Int32Array.from(samples), Float32Array.from(weights), COMPONENTS, createRandom(7));

/** Area over that of the convex hull from which on a thing counts as solid. */
const SOLID = 0.88;

/**
 * Starts from all that lies deep in the mark: right for a solid thing, also where its patterns are like the ground.
 * Where what comes of that has bays, ground lies in them that was taken for subject: then starts from what is strange
 * to the ring alone.
 */
function bestSubject(scene: Scene, strange: Strangeness, generosity: number, kernels: Kernels): Float32Array {
  const { marked, depth } = scene;
  const start = (test: (i: number) => boolean): Float32Array => Float32Array.from(marked, (_, i) => (test(i) ? 1 : 0));
  const isDeep = (i: number): boolean => depth[i]! > 1;
  const byDepth = segment(scene, strange, start(isDeep), generosity, kernels);
  if (solidity(scene, byDepth) > SOLID) return byDepth;
  const deep = strange.likelihood.filter((_, i) => isDeep(i)).sort();
  const threshold = Math.max(strange.low, deep[Math.floor(LEAST_STRANGE * deep.length)] ?? strange.low);
  const isStrange = (i: number): boolean => depth[i]! > 0.5 && strange.likelihood[i]! < threshold;
  return segment(scene, strange, start(isStrange), generosity, kernels);
}

/** The share of its convex hull that what is likelier subject than not fills. */
function solidity({ width }: Scene, probability: Float32Array): number {
  const points: [number, number][] = [];
  probability.forEach((p, i) => {
    if (p > 0.5) points.push([i % width, Math.floor(i / width)]);
  });
  const hull = polygonHull(points);
  return hull ? points.length / Math.abs(polygonArea(hull)) : 1;
}

/** Turns of learning both mixtures and walking, from a first guess. */
function segment(
  scene: Scene,
  strange: Strangeness,
  start: Float32Array,
  generosity: number,
  kernels: Kernels,
): Float32Array {
  const { width, height, features, marked, depth, said, edges } = scene;
  const n = width * height;
  const { right, down } = edges;
  let probability = start;
  for (let round = 0; round < ROUNDS; round++) {
    const models = learn(scene, strange, probability);
    if (!models) break;
    const extra = edges.toUnmarked.slice();
    const rightSide = new Float32Array(n * LANES);
    for (let i = 0; i < n; i++) {
      if (said[i]) {
        extra[i]! += STROKE_WEIGHT;
        rightSide[LANES * i] = said[i] === 1 ? STROKE_WEIGHT : 0;
        continue;
      }
      if (marked[i]! < 0.5) continue;
      const asSubject = Math.max(LOWEST_DENSITY, logDensity(models.subject, features, FEATURES * i));
      const asGround = Math.max(
        LOWEST_DENSITY,
        strange.shaded[i]! - SHADE_PENALTY,
        logDensity(models.ground, features, FEATURES * i),
      );
      const evidence =
        TRUST_IN_COLOUR * (asSubject - asGround) +
        DEPTH_WEIGHT * (1 - Math.exp(-depth[i]!) - NEUTRAL_DEPTH) +
        1.5 * generosity;
      extra[i]! += PRIOR_WEIGHT;
      rightSide[LANES * i] = PRIOR_WEIGHT / (1 + Math.exp(-evidence));
    }
    kernels.reset();
    const solved = createGridSolver({ width, height, right, down, extra }, kernels).solve(rightSide, 5e-3, 10);
    probability = Float32Array.from(marked, (share, i) => (share >= 0.5 || said[i] === 1 ? solved[LANES * i]! : 0));
  }
  return probability;
}

/**
 * Both mixtures from what is held for subject and ground now. What the ring has plenty of hardly teaches the subject's,
 * lest a piece of ground, once taken for it, stays.
 */
function learn(
  { width, height, features, marked, ring, said, stride }: Scene,
  { likelihood, low, usual }: Strangeness,
  probability: Float32Array,
): { subject: ColourMixture; ground: ColourMixture } | undefined {
  const subject = { samples: [] as number[], weights: [] as number[] };
  const ground = { samples: [] as number[], weights: [] as number[] };
  for (let i = 0; i < width * height; i++) {
    if (!said[i] && i % stride !== 0) continue;
    const isSubject = said[i] === 1 || (said[i] !== 2 && marked[i]! >= 0.5 && probability[i]! > 0.5);
    const side = isSubject ? subject : marked[i]! >= 0.5 || ring[i] || said[i] ? ground : undefined;
    if (!side) continue;
    const trust = isSubject ? Math.max(0.02, Math.min(1, (usual - likelihood[i]!) / Math.max(1e-6, usual - low))) : 1;
    side.samples.push(i);
    side.weights.push(said[i] ? STROKE_SAMPLES : trust);
  }
  if (subject.samples.length < 5 * COMPONENTS || ground.samples.length < 5 * COMPONENTS) return undefined;
  return {
    subject: mixture(features, subject.samples, subject.weights),
    ground: mixture(features, ground.samples, ground.weights),
  };
}

/** How much less likely (logarithm) the subject's colours must be on the ground than those of the rest of the mark. */
const LEAST_CONTRAST = 0.4;

/** Whether what was found really has other colours than the ground, rather than being a blotch of its grain. */
function standsOut({ marked, said }: Scene, { likelihood }: Strangeness, probability: Float32Array): boolean {
  const sum = [0, 0];
  const count = [0, 0];
  for (let i = 0; i < marked.length; i++) {
    if (said[i] === 1) return true;
    if (marked[i]! < 0.5) continue;
    const side = probability[i]! > 0.5 ? 1 : 0;
    sum[side]! += Math.max(LOWEST_DENSITY, likelihood[i]!);
    count[side]! += 1;
  }
  return count[1]! > 0 && (count[0] === 0 || sum[0]! / count[0]! - sum[1]! / count[1]! > LEAST_CONTRAST);
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

/** The model that leads the edge is found on an image so many times finer than the work image. */
const EDGE_FINENESS = 3;
const EDGE_EPSILON = 1e-4;

/** The work-size probability enlarged, its edge pulled onto the photo's and made about two pixels wide. */
function sharpen(image: RasterImage, mark: Mask, small: SmallImage, probability: Float32Array, factor: number): Mask {
  const step = Math.max(1, Math.round(factor / EDGE_FINENESS));
  const model = edgeModel(image, small, probability, factor, step);
  const { width, height } = image;
  const matte = createMask(width, height);
  for (let y = 0; y < height; y++) {
    const row = interpolation((y + 0.5) / step - 0.5, model.height);
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (!mark.data[i]) continue;
      const column = interpolation((x + 0.5) / step - 0.5, model.width);
      const a = interpolated(model.a, model.width, column, row);
      const b = interpolated(model.b, model.width, column, row);
      const steep = Math.max(0, Math.min(1, (a * lumaAt(image, i) + b - 0.5) * 1.6 + 0.5));
      matte.data[i] = Math.round(Math.min(mark.data[i]!, 255 * steep));
    }
  }
  return matte;
}

/** How, near the cut between subject and ground, being subject depends on luma: on an image reduced by `step`. */
function edgeModel(
  image: RasterImage,
  small: SmallImage,
  probability: Float32Array,
  factor: number,
  step: number,
): { width: number; height: number; a: Float32Array; b: Float32Array } {
  const width = Math.ceil(image.width / step);
  const height = Math.ceil(image.height / step);
  const cut = new Float32Array(width * height);
  const guide = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const row = interpolation(((y + 0.5) * step) / factor - 0.5, small.height);
    const bottom = Math.min(image.height, (y + 1) * step);
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const column = interpolation(((x + 0.5) * step) / factor - 0.5, small.width);
      cut[i] = interpolated(probability, small.width, column, row) > 0.5 ? 1 : 0;
      const right = Math.min(image.width, (x + 1) * step);
      let sum = 0;
      for (let v = y * step; v < bottom; v++) {
        for (let u = x * step; u < right; u++) sum += lumaAt(image, v * image.width + u);
      }
      guide[i] = sum / ((bottom - y * step) * (right - x * step));
    }
  }
  return { width, height, ...guidedModel(cut, guide, width, height, Math.max(2, factor / step), EDGE_EPSILON) };
}

const lumaAt = ({ data }: RasterImage, i: number): number =>
  (0.299 * data[4 * i]! + 0.587 * data[4 * i + 1]! + 0.114 * data[4 * i + 2]!) / 255;

/** The two places of a grid of `size` that a coordinate lies between, and how far it is on from the first. */
interface Between {
  low: number;
  high: number;
  share: number;
}

function interpolation(at: number, size: number): Between {
  const place = Math.max(0, Math.min(size - 1, at));
  const low = Math.floor(place);
  return { low, high: Math.min(size - 1, low + 1), share: place - low };
}

function interpolated(plane: Float32Array, width: number, column: Between, row: Between): number {
  const top = mix(plane[row.low * width + column.low]!, plane[row.low * width + column.high]!, column.share);
  const bottom = mix(plane[row.high * width + column.low]!, plane[row.high * width + column.high]!, column.share);
  return mix(top, bottom, row.share);
}

const mix = (a: number, b: number, t: number): number => a + (b - a) * t;
