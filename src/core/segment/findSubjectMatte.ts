import { polygonArea, polygonHull } from 'd3-polygon';
import { createGridSolver } from '../blend/gridLaplacian.ts';
import { LANES } from '../blend/gridSteps.ts';
import { requireSameSize, type RasterImage } from '../image/rasterImage.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { squaredDistanceTo } from '../mask/distanceTransform.ts';
import { areaOf, type Mask } from '../mask/mask.ts';
import { createRandom } from '../numeric/random.ts';
import { splitInTwo } from '../numeric/splitInTwo.ts';
import { FEATURES, fitMixture, logDensity, type ColourMixture } from './colourMixture.ts';
import { leadMatte } from './leadMatte.ts';
import { outlineContrast } from './outlineContrast.ts';
import { shadedLogDensity } from './shadedGround.ts';
import {
  describePixels,
  describeScene,
  PLACE_WEIGHT,
  reduceMarked,
  type SubjectScene,
  type SubjectStrokes,
} from './subjectScene.ts';

const WORK_PIXELS = 60_000;
const COMPONENTS = 8;
const ROUNDS = 3;
/** The same where only colours count, before any subject is known. */
const FIRST_PLACE_WEIGHT = 0.3;
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
/** Less likely is not stranger. */
const LOWEST_LIKELIHOOD = -40;
/** Strokes are obeyed. */
const STROKE_WEIGHT = 1000;
/** How firmly what was found holds out against what lies beside it when strokes correct it. */
const FIRMNESS = 0.3;
/** As a share of the mark's size (square root of its area): so far strokes speak for what is like them. */
const STROKE_REACH = 0.2;
/** So many times (logarithm) less likely than what was stroked itself, a pixel counts e times less. */
const LIKENESS_FALLOFF = 1.5;
const MOST_LIKENESS = 6;
/** One component for so many stroked pixels, up to `COMPONENTS`. */
const STROKED_A_COMPONENT = 20;

export interface SubjectOptions {
  /** -1 = only what surely is the subject ... 1 = doubtful parts belong to it. */
  generosity: number;
  /** Of the mark's size: where the user said what is subject (`subject`) and what is not (`ground`), at 128 or more. */
  strokes?: SubjectStrokes;
  /** Of the mark's size: the subject as it was found before, for strokes to correct. */
  known?: Mask | undefined;
  /** Of the mark's size: where the thing may go on outside the mark, so that nothing there tells of the ground. */
  unseen?: Mask | undefined;
}

/**
 * The subject inside a loose mark, as a soft matte of the mark's size (255 = wholly subject): what differs from the
 * ring around the mark, lit or in shadow, hangs together and lies away from the mark's rim. Colours and places are
 * described by two mixtures, of the subject and of the ground, found in turns with the segmentation (C. Rother et al.:
 * GrabCut, SIGGRAPH, 2004); that is a random walker with those as priors (L. Grady: Multilabel Random Walker Image
 * Segmentation Using Prior Models, CVPR, 2005) on a reduced image, its edge carried to full resolution by a guided
 * filter. What a ground looks like in shadow is counted as ground. Nothing outside the mark is subject.
 *
 * Where nothing in the mark stands out from its ring (or everything does), the mark itself is returned. Strokes correct
 * what was found without them, near them and in what is like them.
 */
export function findSubjectMatte(image: RasterImage, mark: Mask, options: SubjectOptions, kernels: Kernels): Mask {
  requireSameSize(image, mark, 'The mark');
  const factor = Math.max(1, Math.round(Math.sqrt((image.width * image.height) / WORK_PIXELS)));
  const scene = describeScene(reduceMarked(image, mark, factor), options.strokes, factor, options.unseen);
  const { width, height } = scene;
  const lead = (values: Float32Array): Mask => leadMatte(image, mark, { width, height, values, factor });
  const { known, strokes } = options;
  if (known && strokes) return lead(correctByStrokes(scene, reduceMarked(image, known, factor).marked, kernels));
  const strange = strangeness(scene);
  const subject = strange && bestSubject(scene, strange, options.generosity, kernels);
  const found = strange && subject && standsOut(scene, strange, subject) ? subject : undefined;
  if (strokes) return lead(correctByStrokes(scene, found ?? scene.marked, kernels));
  if (!found) return mark;
  const matte = lead(found);
  const share = areaOf(matte) / Math.max(1, areaOf(mark));
  return share < 0.02 || share > 0.97 ? mark : matte;
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
function strangeness(scene: SubjectScene): Strangeness | undefined {
  const { width, height, marked, ring, stride } = scene;
  const n = width * height;
  const features = describePixels(scene, PLACE_WEIGHT * FIRST_PLACE_WEIGHT);
  const samples: number[] = [];
  for (let i = 0; i < n; i += stride) if (ring[i]) samples.push(i);
  if (samples.length < 10 * COMPONENTS) return undefined;
  const ground = mixture(features, samples);
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

/** Where no weights are given all samples count alike. */
function mixture(features: Float32Array, samples: number[], weights?: number[], most = COMPONENTS): ColourMixture {
  const counted = weights ? Float32Array.from(weights) : new Float32Array(samples.length).fill(1);
  return fitMixture(features, Int32Array.from(samples), counted, most, createRandom(7));
}

/** Area over that of the convex hull from which on a thing counts as solid. */
const SOLID = 0.88;
/** An outline across which colours differ by fewer levels is hardly one. */
const FAINT = 15;
/** Another outline must be so many times clearer to be taken for it. */
const CLEARER = 2;
/** For a thing with bays, one that is hardly less clear does. */
const AS_CLEAR = 0.95;

/**
 * Starts from all that lies deep in the mark: right for a solid thing, also where its patterns are like the ground.
 * Where what comes of that has bays, ground lies in them that was taken for subject: then starts from what is strange
 * to the ring alone, unless that ends less clearly. Where it ends with hardly an outline, it ends in a plain ground that
 * is a little unlike the ring (a veil of cloud): then only what is strangest in the mark counts, if that has a clearer
 * one.
 */
function bestSubject(scene: SubjectScene, strange: Strangeness, generosity: number, kernels: Kernels): Float32Array {
  const { marked, depth } = scene;
  const from = (test: (i: number) => boolean, seen = strange): Float32Array => {
    const start = Float32Array.from(marked, (_, i) => (test(i) ? 1 : 0));
    return segment(scene, seen, start, generosity, kernels);
  };
  const isDeep = (i: number): boolean => depth[i]! > 1;
  const fromStranger = (than: number, seen?: Strangeness): Float32Array =>
    from((i) => depth[i]! > 0.5 && strange.likelihood[i]! < than, seen);
  const deep = strange.likelihood.filter((_, i) => isDeep(i)).sort();
  let found = from(isDeep);
  let contrast = outlineContrast(scene, found);
  if (solidity(scene, found) <= SOLID) {
    const low = Math.max(strange.low, deep[Math.floor(LEAST_STRANGE * deep.length)] ?? strange.low);
    const ofStrange = fromStranger(low);
    const itsContrast = outlineContrast(scene, ofStrange);
    if (itsContrast > AS_CLEAR * contrast) [found, contrast] = [ofStrange, itsContrast];
  }
  if (contrast >= FAINT || deep.length === 0) return found;
  const low = Math.min(strange.low, splitInTwo(deep.map((value) => Math.max(LOWEST_LIKELIHOOD, value))));
  const strangest = fromStranger(low, { ...strange, low });
  return outlineContrast(scene, strangest) > CLEARER * contrast ? strangest : found;
}

/** The share of its convex hull that what is likelier subject than not fills. */
function solidity({ width }: SubjectScene, probability: Float32Array): number {
  const points: [number, number][] = [];
  probability.forEach((p, i) => {
    if (p > 0.5) points.push([i % width, Math.floor(i / width)]);
  });
  const hull = polygonHull(points);
  return hull ? points.length / Math.abs(polygonArea(hull)) : 1;
}

/** Turns of learning both mixtures and walking, from a first guess. */
function segment(
  scene: SubjectScene,
  strange: Strangeness,
  start: Float32Array,
  generosity: number,
  kernels: Kernels,
): Float32Array {
  const { width, height, features, marked, depth, edges } = scene;
  const n = width * height;
  let probability = start;
  for (let round = 0; round < ROUNDS; round++) {
    const models = learn(scene, strange, probability);
    if (!models) break;
    const extra = edges.toUnmarked.slice();
    const rightSide = new Float32Array(n * LANES);
    for (let i = 0; i < n; i++) {
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
    probability = walk(scene, extra, rightSide, kernels);
  }
  return probability;
}

/** The random walker's probabilities, for the pulls (`extra`) and what each pixel is pulled to times its pull. */
function walk(
  { width, height, marked, said, edges: { right, down } }: SubjectScene,
  extra: Float32Array,
  rightSide: Float32Array,
  kernels: Kernels,
): Float32Array {
  kernels.reset();
  const solved = createGridSolver({ width, height, right, down, extra }, kernels).solve(rightSide, 5e-3, 10);
  return Float32Array.from(marked, (share, i) => (share >= 0.5 || said[i] === 1 ? solved[LANES * i]! : 0));
}

/**
 * What was found, corrected by strokes: they are obeyed, and so is what is like them and lies near them; the rest stays
 * as it was.
 */
function correctByStrokes(scene: SubjectScene, found: Float32Array, kernels: Kernels): Float32Array {
  const { width, height, marked, said, edges } = scene;
  const n = width * height;
  const likeSubject = likeness(scene, 1);
  const likeGround = likeness(scene, 2);
  const extra = edges.toUnmarked.slice();
  const rightSide = new Float32Array(n * LANES);
  for (let i = 0; i < n; i++) {
    if (said[i]) {
      extra[i]! += STROKE_WEIGHT;
      rightSide[LANES * i] = said[i] === 1 ? STROKE_WEIGHT : 0;
    } else if (marked[i]! >= 0.5) {
      const subject = likeSubject(i);
      extra[i]! += FIRMNESS;
      rightSide[LANES * i] = (FIRMNESS * (found[i]! + subject)) / (1 + subject + likeGround(i));
    }
  }
  return walk(scene, extra, rightSide, kernels);
}

/**
 * How much a pixel is like what strokes of one side cover, the farther the less: 1 beside them with a colour like their
 * least likely ones, e^6 at most.
 */
function likeness(scene: SubjectScene, side: number): (i: number) => number {
  const { width, height, marked, said } = scene;
  const stroked: number[] = [];
  said.forEach((value, i) => value === side && stroked.push(i));
  const components = Math.min(COMPONENTS, Math.floor(stroked.length / STROKED_A_COMPONENT));
  if (components === 0) return () => 0;
  const features = describePixels(scene, 0);
  const model = mixture(features, stroked, undefined, components);
  const own = Float32Array.from(stroked, (i) => logDensity(model, features, FEATURES * i)).sort();
  const least = own[Math.floor(0.05 * own.length)]!;
  const strokes = { width, height, data: Uint8Array.from(said, (value) => (value === side ? 255 : 0)) };
  const squaredDistance = squaredDistanceTo(strokes, true);
  const squaredReach = STROKE_REACH ** 2 * marked.reduce((sum, share) => sum + share, 0);
  return (i) => {
    const ratio = Math.min(MOST_LIKENESS, (logDensity(model, features, FEATURES * i) - least) / LIKENESS_FALLOFF);
    // So unlikely that it can't be told any more.
    return Number.isNaN(ratio) ? 0 : Math.exp(ratio - squaredDistance[i]! / squaredReach);
  };
}

/**
 * Both mixtures from what is held for subject and ground now. What the ring has plenty of hardly teaches the subject's,
 * lest a piece of ground, once taken for it, stays.
 */
function learn(
  { width, height, features, marked, ring, stride }: SubjectScene,
  { likelihood, low, usual }: Strangeness,
  probability: Float32Array,
): { subject: ColourMixture; ground: ColourMixture } | undefined {
  const subject = { samples: [] as number[], weights: [] as number[] };
  const ground = { samples: [] as number[], weights: [] as number[] };
  for (let i = 0; i < width * height; i += stride) {
    const isSubject = marked[i]! >= 0.5 && probability[i]! > 0.5;
    const side = isSubject ? subject : marked[i]! >= 0.5 || ring[i] ? ground : undefined;
    if (!side) continue;
    side.samples.push(i);
    const trust = Math.max(0.02, Math.min(1, (usual - likelihood[i]!) / Math.max(1e-6, usual - low)));
    side.weights.push(isSubject ? trust : 1);
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
function standsOut({ marked }: SubjectScene, { likelihood }: Strangeness, probability: Float32Array): boolean {
  const sum = [0, 0];
  const count = [0, 0];
  for (let i = 0; i < marked.length; i++) {
    if (marked[i]! < 0.5) continue;
    const side = probability[i]! > 0.5 ? 1 : 0;
    sum[side]! += Math.max(LOWEST_DENSITY, likelihood[i]!);
    count[side]! += 1;
  }
  return count[1]! > 0 && (count[0] === 0 || sum[0]! / count[0]! - sum[1]! / count[1]! > LEAST_CONTRAST);
}
